package jamjar.core.chunk;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Takes samples one after the other, in order of time. */
public final class SamplePacking {
  private final Map<String, Integer> texts = new LinkedHashMap<>();
  private final Map<Long, Integer> statements = new LinkedHashMap<>();
  private final Map<Who, Integer> whos = new LinkedHashMap<>();
  private final Map<Who, long[]> before = new HashMap<>();
  private final VarintOutput moments = new VarintOutput();
  private final VarintOutput refs = new VarintOutput();
  private final VarintOutput flags = new VarintOutput();
  private final VarintOutput states = new VarintOutput();
  private final VarintOutput waits = new VarintOutput();
  private final VarintOutput ran = new VarintOutput();
  private final VarintOutput times = new VarintOutput();
  private final VarintOutput extras = new VarintOutput();
  private final VarintOutput idle = new VarintOutput();
  private final VarintOutput locks = new VarintOutput();
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
    long[] now = SampleChunk.timesOf(session);
    long[] was = before.put(session.who(), now);
    int flag = 0;
    for (int i = 0; i < SampleChunk.TIMES; i++) {
      if (was != null && was[i] == now[i]) {
        flag |= 1 << i;
      } else {
        times.signed(now[i] == 0 ? Long.MIN_VALUE : engineAt - now[i]);
      }
    }
    if (session.leader() != 0) {
      flag |= SampleChunk.HAS_LEADER;
      extras.whole(session.leader());
    }
    if (!session.blockers().isEmpty()) {
      flag |= SampleChunk.HAS_BLOCKERS;
      extras.whole(session.blockers().size());
      session.blockers().forEach(extras::signed);
    }
    if (!session.module().isEmpty()) {
      flag |= SampleChunk.HAS_MODULE;
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
    VarintOutput head = new VarintOutput();
    VarintOutput dictionary = new VarintOutput();
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
    List<VarintOutput> all =
        List.of(
            head, dictionary, moments, refs, flags, states, waits, ran, times, extras, idle, locks);
    return Deflated.write(SampleChunk.FORM, all);
  }
}
