package jamjar.core.statement;

import jamjar.core.log.LogEntry;
import jamjar.core.session.Who;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Single executions as an engine logged them: how long one took exactly, and those that were
 * cancelled: of these the log does not tell how long they ran, but samples may. What runs still is
 * told by samples.
 */
public final class LoggedExecutions {
  private static final double US = 1_000;

  /** One that was cancelled was seen running so long before at most. */
  private static final long SEEN_WITHIN_MS = 70_000;

  private final Map<Integer, List<LogEntry>> waited = new HashMap<>();
  private final Map<Integer, List<Execution>> seen = new HashMap<>();
  private final long leastMs;

  private LoggedExecutions(List<LogEntry> entries, List<Execution> seen, long leastMs) {
    this.leastMs = leastMs;
    for (LogEntry entry : entries) {
      if (entry.kind() == LogEntry.Kind.WAITED) {
        waited.computeIfAbsent(entry.pid(), pid -> new ArrayList<>()).add(entry);
      }
    }
    seen.forEach(
        one -> this.seen.computeIfAbsent(one.who().pid(), p -> new ArrayList<>()).add(one));
  }

  /**
   * @param seen the same time as samples saw it
   * @param leastMs shorter ones are left out; what was cancelled is told whatever it took
   * @return the longest first
   */
  public static List<Execution> of(List<LogEntry> entries, List<Execution> seen, long leastMs) {
    LoggedExecutions all = new LoggedExecutions(entries, seen, leastMs);
    return Stream.concat(
            entries.stream().flatMap(entry -> all.execution(entry).stream()),
            // what runs still is in no log yet
            seen.stream().filter(one -> one.ending() == Execution.Ending.RUNNING))
        .sorted(Comparator.comparingLong((Execution one) -> -one.leastMs()))
        .toList();
  }

  private Optional<Execution> execution(LogEntry entry) {
    if (entry.kind() == LogEntry.Kind.FINISHED) {
      long ms = Math.round(entry.durationUs() / US);
      return ms < leastMs
          ? Optional.empty()
          : Optional.of(of(entry, ms, ms, Execution.Ending.FINISHED, Optional.empty()));
    }
    if (entry.kind() == LogEntry.Kind.CANCELLED) {
      Optional<Execution> before = seenBefore(entry);
      long ms = before.map(one -> Math.max(0, entry.at() - one.started())).orElse(0L);
      return Optional.of(of(entry, ms, ms, Execution.Ending.CANCELLED, before));
    }
    return Optional.empty();
  }

  private Optional<Execution> seenBefore(LogEntry entry) {
    return seen.getOrDefault(entry.pid(), List.of()).stream()
        .filter(one -> one.started() <= entry.at() && one.ended() <= entry.at() + SEEN_WITHIN_MS)
        .filter(one -> one.ended() >= entry.at() - SEEN_WITHIN_MS)
        .filter(one -> one.statement() == entry.statement())
        .max(Comparator.comparingLong(Execution::ended));
  }

  private Execution of(
      LogEntry entry,
      long leastMs,
      long mostMs,
      Execution.Ending ending,
      Optional<Execution> before) {
    long started = entry.at() - mostMs;
    boolean forLock =
        waited.getOrDefault(entry.pid(), List.of()).stream()
            .anyMatch(wait -> wait.at() >= started && wait.at() <= entry.at());
    return new Execution(
        new Who(
            entry.pid(),
            entry.started(),
            Who.Kind.CLIENT,
            entry.user(),
            entry.program(),
            entry.database(),
            ""),
        entry.statement(),
        "",
        started,
        entry.at(),
        leastMs,
        mostMs,
        forLock ? "Lock" : before.map(Execution::waitedFor).orElse(""),
        before.map(Execution::blocker).orElse(0),
        ending);
  }
}
