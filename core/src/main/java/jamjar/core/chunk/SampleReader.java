package jamjar.core.chunk;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.zip.DataFormatException;

/** Reads what {@link SamplePacking} wrote. */
final class SampleReader {
  private static final int COLUMNS = 12;
  private final VarintInput[] columns;
  private final Map<Integer, long[]> before = new HashMap<>();
  private String[] texts;
  private long[] statements;
  private Who[] whos;

  SampleReader(byte[] bytes) throws DataFormatException {
    columns = Deflated.columns(SampleChunk.FORM, "samples", bytes, COLUMNS, SampleChunk.MOST_BYTES);
  }

  void samples(Consumer<Sample> taking) {
    VarintInput head = columns[0];
    int count = head.count();
    texts = new String[head.count()];
    Arrays.setAll(texts, i -> head.text());
    statements = new long[head.count()];
    Arrays.setAll(statements, i -> head.signed());
    whos = new Who[head.count()];
    Arrays.setAll(whos, i -> who(columns[1]));
    long at = 0;
    for (int n = 0; n < count; n++) {
      VarintInput moments = columns[2];
      at += moments.signed();
      Instant when =
          Instant.ofEpochSecond(
              Math.floorDiv(at, 1_000_000L), Math.floorMod(at, 1_000_000L) * 1000);
      long engineAt = when.toEpochMilli() + moments.signed();
      int sessions = moments.count();
      int idle = moments.count();
      int locks = moments.count();
      taking.accept(
          new Sample(when, engineAt, sessions(sessions, engineAt), idle(idle), locks(locks)));
    }
  }

  private String text(VarintInput in) {
    return texts[in.index(texts.length)];
  }

  private Who who(VarintInput in) {
    return new Who(
        (int) in.signed(),
        in.signed(),
        SampleChunk.KINDS[in.index(SampleChunk.KINDS.length)],
        text(in),
        text(in),
        text(in),
        text(in));
  }

  private List<Session> sessions(int count, long engineAt) {
    List<Session> sessions = new ArrayList<>();
    int ref = -1;
    for (int i = 0; i < count; i++) {
      ref += (int) columns[3].signed() + 1;
      sessions.add(session(ref, engineAt));
    }
    return sessions;
  }

  private Session session(int ref, long engineAt) {
    int flag = (int) columns[4].whole();
    long[] was = before.get(ref);
    long[] now = new long[SampleChunk.TIMES];
    for (int i = 0; i < SampleChunk.TIMES; i++) {
      if ((flag & 1 << i) != 0) {
        now[i] = was == null ? 0 : was[i];
      } else {
        long age = columns[8].signed();
        now[i] = age == Long.MIN_VALUE ? 0 : engineAt - age;
      }
    }
    before.put(ref, now);
    int state = columns[5].index(SampleChunk.STATES.length * 4);
    VarintInput extras = columns[9];
    int leader = (flag & SampleChunk.HAS_LEADER) != 0 ? (int) extras.whole() : 0;
    List<Integer> blockers = new ArrayList<>();
    if ((flag & SampleChunk.HAS_BLOCKERS) != 0) {
      int count = extras.count();
      for (int i = 0; i < count; i++) {
        blockers.add((int) extras.signed());
      }
    }
    String module = (flag & SampleChunk.HAS_MODULE) != 0 ? text(extras) : "";
    return new Session(
        whos[ref],
        SampleChunk.STATES[state / 4],
        new Session.Wait(text(columns[6]), text(columns[6])),
        statements[columns[7].index(statements.length)],
        module,
        new Session.Since(now[0], now[1], now[2], now[3]),
        leader,
        state % 4,
        List.copyOf(blockers));
  }

  private List<Sample.Idle> idle(int count) {
    List<Sample.Idle> all = new ArrayList<>();
    VarintInput in = columns[10];
    for (int i = 0; i < count; i++) {
      all.add(new Sample.Idle(text(in), text(in), text(in), in.upTo(SampleChunk.MOST_BYTES)));
    }
    return all;
  }

  private List<Sample.Lock> locks(int count) {
    List<Sample.Lock> all = new ArrayList<>();
    VarintInput in = columns[11];
    for (int i = 0; i < count; i++) {
      all.add(new Sample.Lock((int) in.signed(), in.whole() == 1, text(in), text(in), text(in)));
    }
    return all;
  }
}
