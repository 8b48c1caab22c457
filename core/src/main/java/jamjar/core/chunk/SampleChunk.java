package jamjar.core.chunk;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.zip.DataFormatException;
import java.util.zip.Deflater;
import java.util.zip.Inflater;

/**
 * Samples of one engine, packed: who the sessions are stands once, in a dictionary; a sample refers
 * to it. What changed nothing since a session's sample before costs next to nothing: times stand as
 * the beginning of what lasts, not as an age that grows. Columns, then deflated (RFC 1951).
 *
 * <p>One sample alone is packed the same way, so that what is kept at once and what is sealed by
 * the hour have one form.
 */
public final class SampleChunk {
  private static final byte FORM = 1;

  /** So many may come out of a chunk: an hour of 5,000 sessions at one second. */
  private static final int MOST_BYTES = 256 << 20;

  private static final Session.State[] STATES = Session.State.values();
  private static final Who.Kind[] KINDS = Who.Kind.values();
  private static final int TIMES = 4;
  private static final int HAS_LEADER = 1 << TIMES;
  private static final int HAS_BLOCKERS = 1 << TIMES + 1;
  private static final int HAS_MODULE = 1 << TIMES + 2;

  private SampleChunk() {}

  public static byte[] write(List<Sample> samples) {
    Packing packing = new Packing();
    samples.forEach(packing::add);
    return packing.bytes();
  }

  /** All of them at once: for a few. */
  public static List<Sample> read(byte[] bytes) {
    List<Sample> all = new ArrayList<>();
    read(bytes, all::add);
    return all;
  }

  /**
   * Hands them over one after the other: an hour of thousands of sessions never lies on the heap
   * whole.
   *
   * @throws CorruptChunk when the bytes were not written here, or are not whole
   */
  public static void read(byte[] bytes, Consumer<Sample> taking) {
    try {
      new Reading(bytes).samples(taking);
    } catch (IndexOutOfBoundsException | NegativeArraySizeException | DataFormatException e) {
      throw new CorruptChunk("samples that are not whole: " + e);
    }
  }

  /** Numbers of seven bits a byte, the lowest first. */
  private static final class Column {
    private byte[] bytes = new byte[64];
    private int size;

    private void room(int more) {
      if (size + more > bytes.length) {
        bytes = Arrays.copyOf(bytes, Math.max(2 * bytes.length, size + more));
      }
    }

    void whole(long value) {
      room(10);
      long left = value;
      while ((left & ~0x7fL) != 0) {
        bytes[size++] = (byte) (left & 0x7f | 0x80);
        left >>>= 7;
      }
      bytes[size++] = (byte) left;
    }

    void signed(long value) {
      whole(value << 1 ^ value >> 63);
    }

    void text(String text) {
      byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
      whole(utf8.length);
      add(utf8, utf8.length);
    }

    void add(byte[] more, int length) {
      room(length);
      System.arraycopy(more, 0, bytes, size, length);
      size += length;
    }
  }

  /** Takes samples one after the other, in order of time. */
  public static final class Packing {
    private final Map<String, Integer> texts = new LinkedHashMap<>();
    private final Map<Long, Integer> statements = new LinkedHashMap<>();
    private final Map<Who, Integer> whos = new LinkedHashMap<>();
    private final Map<Who, long[]> before = new HashMap<>();
    private final Column moments = new Column();
    private final Column refs = new Column();
    private final Column flags = new Column();
    private final Column states = new Column();
    private final Column waits = new Column();
    private final Column ran = new Column();
    private final Column times = new Column();
    private final Column extras = new Column();
    private final Column idle = new Column();
    private final Column locks = new Column();
    private long lastAt;
    private int count;

    private int text(String text) {
      return texts.computeIfAbsent(text, t -> texts.size());
    }

    public void add(Sample sample) {
      count++;
      long at = sample.at().getEpochSecond() * 1_000_000 + sample.at().getNano() / 1000;
      moments.signed(at - lastAt);
      lastAt = at;
      moments.signed(sample.engineAt() - sample.at().toEpochMilli());
      moments.whole(sample.sessions().size());
      moments.whole(sample.idle().size());
      moments.whole(sample.locks().size());
      int lastRef = -1;
      for (Session session : sample.sessions()) {
        int ref = whos.computeIfAbsent(session.who(), w -> whos.size());
        refs.signed(ref - lastRef - 1L);
        lastRef = ref;
        add(session, sample.engineAt());
      }
      for (Sample.Idle one : sample.idle()) {
        idle.whole(text(one.user()));
        idle.whole(text(one.program()));
        idle.whole(text(one.database()));
        idle.whole(one.count());
      }
      for (Sample.Lock lock : sample.locks()) {
        locks.signed(lock.pid());
        locks.whole(lock.granted() ? 1 : 0);
        locks.whole(text(lock.kind()));
        locks.whole(text(lock.mode()));
        locks.whole(text(lock.object()));
      }
    }

    private void add(Session session, long engineAt) {
      long[] now = timesOf(session);
      long[] was = before.put(session.who(), now);
      int flag = 0;
      for (int i = 0; i < TIMES; i++) {
        if (was != null && was[i] == now[i]) {
          flag |= 1 << i;
        } else {
          times.signed(now[i] == 0 ? Long.MIN_VALUE : engineAt - now[i]);
        }
      }
      if (session.leader() != 0) {
        flag |= HAS_LEADER;
        extras.whole(session.leader());
      }
      if (!session.blockers().isEmpty()) {
        flag |= HAS_BLOCKERS;
        extras.whole(session.blockers().size());
        session.blockers().forEach(extras::signed);
      }
      if (!session.module().isEmpty()) {
        flag |= HAS_MODULE;
        extras.whole(text(session.module()));
      }
      flags.whole(flag);
      states.whole(session.state().ordinal() * 4L + session.holds());
      waits.whole(text(session.waitsFor().kind()));
      waits.whole(text(session.waitsFor().event()));
      ran.whole(statements.computeIfAbsent(session.statement(), s -> statements.size()));
    }

    public int count() {
      return count;
    }

    public byte[] bytes() {
      Column head = new Column();
      Column dictionary = new Column();
      whos.keySet()
          .forEach(
              who -> {
                dictionary.signed(who.pid());
                dictionary.signed(who.started());
                dictionary.whole(who.kind().ordinal());
                dictionary.whole(text(who.user()));
                dictionary.whole(text(who.program()));
                dictionary.whole(text(who.database()));
                dictionary.whole(text(who.client()));
              });
      head.whole(count);
      head.whole(texts.size());
      texts.keySet().forEach(head::text);
      head.whole(statements.size());
      statements.keySet().forEach(head::signed);
      head.whole(whos.size());
      List<Column> all =
          List.of(
              head,
              dictionary,
              moments,
              refs,
              flags,
              states,
              waits,
              ran,
              times,
              extras,
              idle,
              locks);
      Column plain = new Column();
      all.forEach(column -> plain.whole(column.size));
      all.forEach(column -> plain.add(column.bytes, column.size));
      return deflated(plain);
    }

    private static byte[] deflated(Column plain) {
      Deflater deflater = new Deflater(Deflater.BEST_COMPRESSION, true);
      try {
        deflater.setInput(plain.bytes, 0, plain.size);
        deflater.finish();
        Column out = new Column();
        out.whole(FORM);
        out.whole(plain.size);
        byte[] room = new byte[8192];
        while (!deflater.finished()) {
          out.add(room, deflater.deflate(room));
        }
        return Arrays.copyOf(out.bytes, out.size);
      } finally {
        deflater.end();
      }
    }
  }

  private static long[] timesOf(Session session) {
    Session.Since since = session.since();
    return new long[] {since.state(), since.statement(), since.transaction(), since.waiting()};
  }

  private static final class Input {
    private final byte[] bytes;
    private int at;
    private final int end;

    Input(byte[] bytes, int from, int end) {
      this.bytes = bytes;
      this.at = from;
      this.end = end;
      if (end > bytes.length || from > end) {
        throw new IndexOutOfBoundsException("a column ends at " + end);
      }
    }

    long whole() {
      long value = 0;
      for (int shift = 0; ; shift += 7) {
        if (at >= end || shift > 63) {
          throw new IndexOutOfBoundsException("a number ends at " + at);
        }
        byte next = bytes[at++];
        value |= (next & 0x7fL) << shift;
        if (next >= 0) {
          return value;
        }
      }
    }

    /** How many follow, each of a byte at least. */
    int count() {
      return upTo(bytes.length);
    }

    int upTo(int most) {
      long count = whole();
      if (count < 0 || count > most) {
        throw new IndexOutOfBoundsException(count + " of them");
      }
      return (int) count;
    }

    int index(int size) {
      long index = whole();
      if (index < 0 || index >= size) {
        throw new IndexOutOfBoundsException("number " + index + " of " + size);
      }
      return (int) index;
    }

    long signed() {
      long value = whole();
      return value >>> 1 ^ -(value & 1);
    }

    String text() {
      int length = count();
      if (length > end - at) {
        throw new IndexOutOfBoundsException("a text ends at " + at);
      }
      String text = new String(bytes, at, length, StandardCharsets.UTF_8);
      at += length;
      return text;
    }
  }

  private static final class Reading {
    private static final int COLUMNS = 12;
    private final Input[] columns = new Input[COLUMNS];
    private final Map<Integer, long[]> before = new HashMap<>();
    private String[] texts;
    private long[] statements;
    private Who[] whos;

    Reading(byte[] bytes) throws DataFormatException {
      byte[] plain = inflated(bytes);
      Input sizes = new Input(plain, 0, plain.length);
      int[] length = new int[COLUMNS];
      Arrays.setAll(length, i -> sizes.count());
      int from = sizes.at;
      for (int i = 0; i < COLUMNS; i++) {
        columns[i] = new Input(plain, from, Math.addExact(from, length[i]));
        from += length[i];
      }
    }

    private static byte[] inflated(byte[] bytes) throws DataFormatException {
      if (bytes.length == 0 || bytes[0] != FORM) {
        throw new CorruptChunk("these are no samples");
      }
      Input head = new Input(bytes, 1, bytes.length);
      int length = head.upTo(MOST_BYTES);
      byte[] plain = new byte[length];
      Inflater inflater = new Inflater(true);
      try {
        inflater.setInput(bytes, head.at, bytes.length - head.at);
        int got = 0;
        while (got < length) {
          int more = inflater.inflate(plain, got, length - got);
          if (more == 0) {
            throw new IndexOutOfBoundsException(got + " of " + length + " bytes");
          }
          got += more;
        }
        return plain;
      } finally {
        inflater.end();
      }
    }

    void samples(Consumer<Sample> taking) {
      Input head = columns[0];
      int count = head.count();
      texts = new String[head.count()];
      Arrays.setAll(texts, i -> head.text());
      statements = new long[head.count()];
      Arrays.setAll(statements, i -> head.signed());
      whos = new Who[head.count()];
      Arrays.setAll(whos, i -> who(columns[1]));
      long at = 0;
      for (int n = 0; n < count; n++) {
        Input moments = columns[2];
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

    private String text(Input in) {
      return texts[in.index(texts.length)];
    }

    private Who who(Input in) {
      return new Who(
          (int) in.signed(),
          in.signed(),
          KINDS[in.index(KINDS.length)],
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
      long[] now = new long[TIMES];
      for (int i = 0; i < TIMES; i++) {
        if ((flag & 1 << i) != 0) {
          now[i] = was == null ? 0 : was[i];
        } else {
          long age = columns[8].signed();
          now[i] = age == Long.MIN_VALUE ? 0 : engineAt - age;
        }
      }
      before.put(ref, now);
      int state = columns[5].index(STATES.length * 4);
      Input extras = columns[9];
      int leader = (flag & HAS_LEADER) != 0 ? (int) extras.whole() : 0;
      List<Integer> blockers = new ArrayList<>();
      if ((flag & HAS_BLOCKERS) != 0) {
        int count = extras.count();
        for (int i = 0; i < count; i++) {
          blockers.add((int) extras.signed());
        }
      }
      String module = (flag & HAS_MODULE) != 0 ? text(extras) : "";
      return new Session(
          whos[ref],
          STATES[state / 4],
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
      Input in = columns[10];
      for (int i = 0; i < count; i++) {
        all.add(new Sample.Idle(text(in), text(in), text(in), in.upTo(MOST_BYTES)));
      }
      return all;
    }

    private List<Sample.Lock> locks(int count) {
      List<Sample.Lock> all = new ArrayList<>();
      Input in = columns[11];
      for (int i = 0; i < count; i++) {
        all.add(new Sample.Lock((int) in.signed(), in.whole() == 1, text(in), text(in), text(in)));
      }
      return all;
    }
  }
}
