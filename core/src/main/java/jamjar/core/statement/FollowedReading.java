package jamjar.core.statement;

import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.session.Fingerprint;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import java.util.function.ToLongFunction;

/**
 * What was counted of statements that are followed, as a reading: increases, as they were counted,
 * by all users in all databases. One that did not run did so zero times.
 */
public final class FollowedReading {
  /** The group that its counters are of. */
  public static final String GROUP = "statement";

  /** What its labels name. */
  public static final String LABEL = "statement";

  private static final Map<String, ToLongFunction<StatementCounts>> COUNTERS = counters();

  private FollowedReading() {}

  private static Map<String, ToLongFunction<StatementCounts>> counters() {
    Map<String, ToLongFunction<StatementCounts>> all = new LinkedHashMap<>();
    all.put("statement.calls", StatementCounts::calls);
    all.put("statement.time", StatementCounts::timeUs);
    all.put("statement.rows", StatementCounts::rows);
    all.put("statement.blocks_read", StatementCounts::read);
    return all;
  }

  /**
   * Makes the reading.
   *
   * @param followed fingerprints
   * @param recipe says which of the counters are wanted
   */
  public static Increases.Step of(Counted counted, SortedSet<Long> followed, Recipe recipe) {
    Map<Long, StatementCounts> sums = new HashMap<>();
    counted
        .statements()
        .forEach((key, counts) -> sums.merge(key.fingerprint(), counts, StatementCounts::plus));
    List<SeriesKey> series = new ArrayList<>();
    List<Double> values = new ArrayList<>();
    // nothing is counted on from them: they tell that these are totals
    Map<SeriesKey, LastTotals.Raw> totals = new HashMap<>();
    Set<String> wanted = new HashSet<>(COUNTERS.keySet());
    wanted.retainAll(recipe.counters().keySet());
    for (long one : followed) {
      StatementCounts counts = sums.getOrDefault(one, StatementCounts.NONE);
      COUNTERS.forEach(
          (counter, of) -> {
            if (wanted.contains(counter)) {
              SeriesKey key = SeriesKey.of(counter, LABEL, Fingerprint.hex(one));
              series.add(key);
              values.add((double) of.applyAsLong(counts));
              totals.put(key, new LastTotals.Raw(of.applyAsLong(counts), 0));
            }
          });
    }
    return new Increases.Step(
        new Reading(
            counted.at(),
            counted.elapsedMs(),
            series,
            values.stream().mapToDouble(Double::doubleValue).toArray(),
            new WhyNothing[series.size()]),
        new LastTotals(
            counted.at(),
            RawReading.NO_CLOCK,
            LastTotals.NO_MONOTONIC,
            0,
            wanted,
            totals,
            Set.of()));
  }
}
