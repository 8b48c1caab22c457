package jamjar.core.reading;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.value.Value;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * How a value of a reading came about, so that it can be made again by hand: {@code above ÷ below ×
 * factor}, see {@link Value#shown}.
 *
 * @param at when it was read, by the clock here
 * @param before when the reading before was taken; null for none
 * @param elapsedMillis ms between the two
 * @param by what that was measured by; null where there was none before
 * @param together how many values the reading had
 * @param parts the series itself, or those that a quotient is made of, the one above the line first
 */
public record Work(
    Instant at, Instant before, long elapsedMillis, ElapsedBy by, int together, List<Part> parts) {

  /**
   * One series that was read itself.
   *
   * @param raw as the source gave it; NaN where it gave none, or not this one itself
   * @param rawBefore as it gave it the time before, of a total that counts on from there; else NaN
   * @param byEntries whether the increase was added up entry by entry, as the source drops some
   * @param kept what is kept of it: the level, or the increase; NaN for none
   * @param why the reason for having none; null where there is a value
   * @param sumOf what it is the sum of; empty where it was read itself
   */
  public record Part(
      SeriesKey series,
      double raw,
      double rawBefore,
      boolean byEntries,
      double kept,
      WhyNothing why,
      List<Part> sumOf) {}

  /**
   * What a reading was made of.
   *
   * @param before what was kept of the one before it; empty for none
   * @param raw as it was read; empty where nothing but increases was told
   * @param reading as it is kept
   */
  public record Made(Optional<LastTotals> before, Optional<RawReading> raw, Reading reading) {}

  /** Empty where the reading does not hold it. */
  public static Optional<Work> of(Made made, Recipe recipe, SeriesKey key) {
    CounterDefinition counter = recipe.counters().get(key.counter());
    if (counter == null) {
      return Optional.empty();
    }
    List<Part> parts = new ArrayList<>();
    for (String one : counter.parts()) {
      // what has no such label is the whole, which the part is a share of
      part(made, key.withCounter(one))
          .or(
              () ->
                  counter.denominators().contains(one)
                      ? part(made, SeriesKey.of(one))
                      : Optional.empty())
          .ifPresent(parts::add);
    }
    if (parts.isEmpty()) {
      return Optional.empty();
    }
    Optional<LastTotals> before = made.before();
    return Optional.of(
        new Work(
            made.reading().at(),
            before.map(LastTotals::at).orElse(null),
            made.reading().elapsedMillis(),
            before.flatMap(b -> made.raw().map(raw -> ElapsedBy.of(b, raw))).orElse(null),
            made.reading().values().length,
            parts));
  }

  /**
   * The value as shown of what was kept; NaN where there is none.
   *
   * @param partShape the shape of what was read: of a quotient that of its parts
   * @param kept of each part, the one above the line first
   * @param elapsedMillis what the reading covers
   * @param intervalMillis between two readings as set then: increases over too long enter sums only
   */
  public static double value(
      CounterDefinition counter,
      Shape partShape,
      double[] kept,
      long elapsedMillis,
      long intervalMillis) {
    boolean increase = partShape == Shape.TOTAL;
    if (kept.length == 0
        || increase && (elapsedMillis <= 0 || !Value.covers(elapsedMillis, intervalMillis))) {
      return Double.NaN;
    }
    double below =
        switch (counter.shape()) {
          case LEVEL -> 1;
          case TOTAL -> elapsedMillis / 1000.0;
          case QUOTIENT -> Arrays.stream(kept).skip(1).sum();
        };
    return Value.shown(counter, kept[0], below);
  }

  private static Optional<Part> part(Made made, SeriesKey key) {
    int place = made.reading().series().indexOf(key);
    if (place < 0) {
      return Optional.empty();
    }
    double kept = made.reading().values()[place];
    WhyNothing why = made.reading().why()[place];
    Optional<RawValue> raw =
        made.raw().stream()
            .flatMap(r -> r.values().stream())
            .filter(value -> value.series().equals(key))
            .findFirst();
    if (raw.isEmpty()) {
      return Optional.of(
          new Part(key, Double.NaN, Double.NaN, false, kept, why, addends(made, key)));
    }
    if (raw.get() instanceof RawValue.Total total) {
      double before =
          made.before()
              .map(last -> last.totals().get(key))
              .map(last -> (double) last.value())
              .orElse(Double.NaN);
      boolean byEntries = total.fromEntries().isPresent();
      return Optional.of(new Part(key, total.value(), before, byEntries, kept, why, List.of()));
    }
    double level = raw.get() instanceof RawValue.Level l ? l.value() : Double.NaN;
    return Optional.of(new Part(key, level, Double.NaN, false, kept, why, List.of()));
  }

  /** The series of the same counter that have labels, where it has none and is not read itself. */
  private static List<Part> addends(Made made, SeriesKey key) {
    if (!key.labels().isEmpty() || made.raw().isEmpty()) {
      return List.of();
    }
    return made.reading().series().stream()
        .filter(other -> other.counter().equals(key.counter()) && !other.labels().isEmpty())
        .sorted()
        .flatMap(other -> part(made, other).stream())
        .toList();
  }
}
