package jamjar.core.reading;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Turns what was read into what is kept: levels rounded to their resolution, totals as exact
 * increases.
 *
 * <p>Differences are taken in {@code long}. A total that fell, or whose source started or was reset
 * in between, has no value for that interval: neither a negative rate nor a spike nor a zero. A
 * label that was absent from the reading before, which was complete, gives its whole value. The
 * first reading of a source gives none.
 */
public final class Increases {

  private Increases() {}

  /** A reading and what to keep for the next one. */
  public record Step(Reading reading, LastTotals last) {}

  /**
   * Derives one reading.
   *
   * @param before what was kept of the reading before; empty for the first of a source
   * @param raw what was read
   * @param recipe the counters; values of counters it does not hold are dropped
   */
  public static Step derive(Optional<LastTotals> before, RawReading raw, Recipe recipe) {
    boolean sameStart = before.isPresent() && before.get().start() == raw.start();
    long elapsedMicros = before.map(last -> ElapsedBy.of(last, raw).micros(last, raw)).orElse(0L);
    int room = 2 * raw.values().size();
    Map<SeriesKey, Cell> cells = new LinkedHashMap<>(room);
    Map<SeriesKey, LastTotals.Raw> totals = new HashMap<>(room);
    Set<SeriesKey> nothing = new HashSet<>();
    Map<String, Cell> sums = new LinkedHashMap<>();

    for (RawValue value : raw.values()) {
      CounterDefinition counter = recipe.counters().get(value.series().counter());
      if (counter == null) {
        continue;
      }
      Cell cell;
      if (value instanceof RawValue.Level level) {
        cell = Cell.of(rounded(level.value(), counter.resolution()));
      } else if (value instanceof RawValue.Total total) {
        totals.put(total.series(), new LastTotals.Raw(total.value(), total.epoch()));
        cell =
            sameStart && elapsedMicros > 0
                ? increase(before.get(), total)
                : Cell.nothing(WhyNothing.NOT_YET_KNOWN);
      } else {
        nothing.add(value.series());
        cell = Cell.nothing(((RawValue.Nothing) value).why());
      }
      cells.put(value.series(), cell);
      if (counter.summed() && !value.series().labels().isEmpty()) {
        // of increases, never of raw totals; one missing part leaves no sum
        sums.merge(counter.key(), cell, Cell::plus);
      }
    }
    sums.forEach((key, cell) -> cells.put(SeriesKey.of(key), cell));
    addFailed(cells, raw, recipe);

    Set<String> read = new HashSet<>();
    for (CounterDefinition counter : recipe.counters().values()) {
      if (counter.shape() != Shape.QUOTIENT && raw.complete().contains(counter.group())) {
        read.add(counter.key());
      }
    }
    return new Step(
        reading(raw, elapsedMicros / 1000, cells),
        new LastTotals(
            raw.at(),
            raw.sourceMicros(),
            raw.monotonicNanos(),
            raw.start(),
            read,
            totals,
            nothing));
  }

  private static Cell increase(LastTotals last, RawValue.Total total) {
    LastTotals.Raw previous = last.totals().get(total.series());
    if (previous != null && total.fromEntries().isPresent()) {
      return Cell.of(total.fromEntries().getAsLong());
    }
    if (previous == null) {
      boolean wasAbsent =
          last.counters().contains(total.series().counter())
              && !last.nothing().contains(total.series());
      return wasAbsent ? Cell.of(total.value()) : Cell.nothing(WhyNothing.NOT_YET_KNOWN);
    }
    if (previous.epoch() == total.epoch() && total.value() >= previous.value()) {
      return Cell.of(total.value() - previous.value());
    }
    return Cell.nothing(WhyNothing.NOT_YET_KNOWN);
  }

  private static double rounded(double value, double resolution) {
    if (!Double.isFinite(value)) {
      return Double.NaN;
    }
    return resolution > 0 ? Math.rint(value / resolution) * resolution : value;
  }

  private static void addFailed(Map<SeriesKey, Cell> cells, RawReading raw, Recipe recipe) {
    if (raw.failed().isEmpty()) {
      return;
    }
    for (CounterDefinition counter : recipe.counters().values()) {
      WhyNothing why = raw.failed().get(counter.group());
      boolean plain = !counter.labelled() || counter.summed();
      if (why != null && plain && counter.shape() != Shape.QUOTIENT) {
        cells.putIfAbsent(SeriesKey.of(counter.key()), Cell.nothing(why));
      }
    }
  }

  private static Reading reading(RawReading raw, long elapsedMillis, Map<SeriesKey, Cell> cells) {
    List<SeriesKey> series = new ArrayList<>(cells.size());
    double[] values = new double[cells.size()];
    WhyNothing[] why = new WhyNothing[cells.size()];
    for (Map.Entry<SeriesKey, Cell> one : cells.entrySet()) {
      values[series.size()] = one.getValue().value();
      why[series.size()] = one.getValue().why();
      series.add(one.getKey());
    }
    return new Reading(raw.at(), elapsedMillis, series, values, why);
  }

  private record Cell(double value, WhyNothing why) {
    static Cell of(double value) {
      return Double.isFinite(value) ? new Cell(value, null) : nothing(WhyNothing.NONE_THERE);
    }

    static Cell nothing(WhyNothing why) {
      return new Cell(Double.NaN, why);
    }

    Cell plus(Cell other) {
      if (why != null) {
        return this;
      }
      return other.why != null ? other : of(value + other.value);
    }
  }
}
