package jamjar.core.statement;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Single executions as samples saw them: one that was seen several times is one, known by its
 * session and its beginning. It ended between the sample in which it was seen last and the next
 * one. Shorter ones than the time between two samples are seen by chance.
 */
public final class SeenRunning {
  private final long leastMs;
  private final int most;
  private final List<Execution> ended = new ArrayList<>();
  private Map<Key, Seen> running = Map.of();
  private long beyond;

  private record Key(Who who, long started) {}

  /** What was seen of one until now. */
  private static final class Seen {
    final Session first;
    final long started;
    final Map<String, Integer> waits = new HashMap<>();
    int blocker;
    long lastAt;
    long ranMs;

    Seen(Session first, long started) {
      this.first = first;
      this.started = started;
    }

    void again(Session session, Sample sample) {
      lastAt = sample.at().toEpochMilli();
      ranMs = Math.max(0, sample.engineAt() - session.since().statement());
      waits.merge(session.waitsFor().kind(), 1, Integer::sum);
      blocker = session.blockers().stream().findFirst().orElse(blocker);
    }

    Execution told(long mostMs, Execution.Ending ending) {
      String wait =
          waits.entrySet().stream()
              .max(Map.Entry.<String, Integer>comparingByValue().thenComparing(Map.Entry::getKey))
              .map(Map.Entry::getKey)
              .orElse("");
      return new Execution(
          first.who(),
          first.statement(),
          first.module(),
          started,
          lastAt,
          ranMs,
          mostMs,
          wait,
          blocker,
          ending);
    }
  }

  /**
   * @param leastMs what did not run for so long is left out
   * @param most so many are kept, the longest
   */
  public SeenRunning(long leastMs, int most) {
    this.leastMs = leastMs;
    this.most = most;
  }

  /** One sample after the other, in order of time. */
  public void add(Sample sample) {
    Map<Key, Seen> now = new HashMap<>();
    for (Session session : sample.sessions()) {
      if (session.isBusy() && session.since().statement() > 0) {
        Key key = new Key(session.who(), session.since().statement());
        Seen before = running.get(key);
        long skew = sample.at().toEpochMilli() - sample.engineAt();
        Seen seen = before == null ? new Seen(session, key.started() + skew) : before;
        seen.again(session, sample);
        now.put(key, seen);
      }
    }
    running.forEach(
        (key, seen) -> {
          if (!now.containsKey(key)) {
            long mostMs = Math.max(seen.ranMs, sample.engineAt() - key.started());
            keep(seen.told(mostMs, Execution.Ending.SEEN));
          }
        });
    running = now;
  }

  private void keep(Execution execution) {
    if (execution.leastMs() < leastMs) {
      return;
    }
    ended.add(execution);
    if (ended.size() > 2 * most) {
      cut();
    }
  }

  private void cut() {
    ended.sort((a, b) -> Long.compare(b.leastMs(), a.leastMs()));
    if (ended.size() > most) {
      beyond += ended.size() - most;
      ended.subList(most, ended.size()).clear();
    }
  }

  /** All that were seen, those included that run still; the longest first. */
  public List<Execution> all() {
    running.values().forEach(seen -> keep(seen.told(-1, Execution.Ending.RUNNING)));
    running = Map.of();
    cut();
    return List.copyOf(ended);
  }

  /** How many there were that are not kept. */
  public long beyond() {
    return beyond;
  }
}
