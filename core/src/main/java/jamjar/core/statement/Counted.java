package jamjar.core.statement;

import java.time.Instant;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What an engine counted of its statements in (at − elapsed, at]. Increases, so that they add up
 * over any time.
 *
 * @param at end of that time, to the millisecond
 * @param elapsedMs how long it is; of several added up, all they cover together
 * @param evicted how often the engine dropped rare statements meanwhile: if it did, what these did
 *     since they were read last is not covered, and the others are at least what is told
 */
public record Counted(
    Instant at, long elapsedMs, long evicted, SortedMap<StatementKey, StatementCounts> statements) {

  /** All statements that clients sent: what others ran inside of them is in their time already. */
  public StatementCounts top() {
    return statements.entrySet().stream()
        .filter(e -> e.getKey().top())
        .map(Map.Entry::getValue)
        .reduce(StatementCounts.NONE, StatementCounts::plus);
  }

  /** Adds up what was counted in several times. Used by one thread. */
  public static final class Sum {
    private final SortedMap<StatementKey, StatementCounts> statements = new TreeMap<>();
    private long elapsedMs;
    private long evicted;

    public Sum add(Counted counted) {
      elapsedMs += counted.elapsedMs();
      evicted += counted.evicted();
      counted
          .statements()
          .forEach((key, counts) -> statements.merge(key, counts, StatementCounts::plus));
      return this;
    }

    /**
     * @param at the end of the last of these times
     */
    public Counted until(Instant at) {
      return new Counted(at, elapsedMs, evicted, new TreeMap<>(statements));
    }
  }
}
