package jamjar.server.statements;

import jamjar.core.log.LogEntry;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * What is known of an engine's log in a window.
 *
 * @param entries those of the wanted kinds; of too many the newest
 * @param reads how often it was read then
 * @param minutes of how many minutes it was read, with durations in it
 * @param thresholdMs what did not take so long was not logged; -1 where no durations were
 * @param lockWaits whether waits for locks were logged
 * @param left bytes that were left out when it was read
 * @param beyond how many more entries there are
 */
record LogOfWindow(
    List<LogEntry> entries,
    int reads,
    int minutes,
    long thresholdMs,
    boolean lockWaits,
    long left,
    long beyond) {
  static final long MINUTE = 60_000;

  /** So many lines are looked at. */
  private static final int MOST = 50_000;

  /** Of what was read, packed, some seconds' work. */
  private static final long MOST_BYTES = 64L << 20;

  static LogOfWindow read(
      Store store, int instance, Instant from, Instant to, Set<LogEntry.Kind> wanted) {
    if (store.logs().bytes(instance, from, to) > MOST_BYTES) {
      throw Problem.field(
          "from",
          "In this window more was logged than is looked through at once. Look at a shorter one.");
    }
    Deque<LogEntry> entries = new ArrayDeque<>();
    Set<Long> minutes = new HashSet<>();
    long[] numbers = {0, -1, 0, 0, 0};
    store
        .logs()
        .between(
            instance,
            from,
            to,
            logged -> {
              numbers[0]++;
              numbers[1] = Math.max(numbers[1], logged.thresholdMs());
              numbers[2] += logged.lockWaits() ? 1 : 0;
              numbers[3] += logged.left();
              if (logged.thresholdMs() >= 0) {
                minutes.add(logged.at().toEpochMilli() / MINUTE);
              }
            });
    store
        .logs()
        .lines(
            instance,
            from,
            to,
            entry -> {
              if (wanted.contains(entry.kind())) {
                entries.add(entry);
              }
              if (entries.size() > MOST) {
                entries.remove();
                numbers[4]++;
              }
            });
    return new LogOfWindow(
        List.copyOf(entries),
        (int) numbers[0],
        minutes.size(),
        numbers[1],
        numbers[2] > 0,
        numbers[3],
        numbers[4]);
  }
}
