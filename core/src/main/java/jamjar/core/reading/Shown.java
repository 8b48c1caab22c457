package jamjar.core.reading;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.value.Value;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * One value of a reading as shown to a person: a level, an increase per second, or a quotient.
 *
 * @param value in the unit as shown; NaN where there is none
 * @param why the reason for a NaN, else null
 * @param above what several readings are added up by before they are divided: the level, the
 *     increase, or the part above the line; NaN where there is none
 * @param below for a level 1, for a total the seconds, for a quotient the sum below the line
 */
public record Shown(SeriesKey series, double value, WhyNothing why, double above, double below) {

  /**
   * All values of a reading as shown, the quotients among them. Increases that cover too long a
   * time enter sums only: they are not shown, but told as what stands above.
   *
   * @param intervalMillis ms between two readings as set
   */
  public static List<Shown> of(Reading read, Recipe recipe, long intervalMillis) {
    boolean covered = Value.covers(read.elapsedMillis(), intervalMillis);
    Reading reading = covered ? read : levels(read, recipe);
    List<Shown> shown = new ArrayList<>();
    Map<SeriesKey, Integer> place = new HashMap<>();
    double seconds = reading.elapsedMillis() / 1000.0;
    for (int i = 0; i < reading.values().length; i++) {
      SeriesKey key = reading.series().get(i);
      CounterDefinition counter = recipe.counters().get(key.counter());
      place.put(key, i);
      double below = counter.shape() == Shape.TOTAL ? seconds : 1;
      boolean sumOnly = !covered && read.why()[i] == null && reading.why()[i] != null;
      shown.add(
          sumOnly
              ? new Shown(key, Double.NaN, reading.why()[i], read.values()[i], Double.NaN)
              : of(counter, key, reading.values()[i], below, reading.why()[i]));
    }
    for (CounterDefinition counter : recipe.counters().values()) {
      if (counter.shape() == Shape.QUOTIENT) {
        for (SeriesKey key : reading.series()) {
          if (key.counter().equals(counter.numerator())) {
            shown.add(quotient(counter, key, reading, place));
          }
        }
      }
    }
    return shown;
  }

  /** The reading without its increases. */
  private static Reading levels(Reading reading, Recipe recipe) {
    double[] values = reading.values().clone();
    WhyNothing[] why = reading.why().clone();
    for (int i = 0; i < values.length; i++) {
      Shape shape = recipe.counters().get(reading.series().get(i).counter()).shape();
      if (shape == Shape.TOTAL && why[i] == null) {
        values[i] = Double.NaN;
        why[i] = WhyNothing.NOT_YET_KNOWN;
      }
    }
    return new Reading(reading.at(), reading.elapsedMillis(), reading.series(), values, why);
  }

  private static Shown quotient(
      CounterDefinition counter,
      SeriesKey numerator,
      Reading reading,
      Map<SeriesKey, Integer> place) {
    SeriesKey key = numerator.withCounter(counter.key());
    int above = place.get(numerator);
    double below = 0;
    for (String part : counter.denominators()) {
      // what has no such label is the whole, which the part is a share of
      Integer at = place.getOrDefault(numerator.withCounter(part), place.get(SeriesKey.of(part)));
      if (at == null) {
        return nothing(key, WhyNothing.NONE_THERE);
      }
      if (reading.why()[at] != null) {
        return nothing(key, reading.why()[at]);
      }
      below += reading.values()[at];
    }
    if (reading.why()[above] != null) {
      return nothing(key, reading.why()[above]);
    }
    Shown shown = of(counter, key, reading.values()[above], below, null);
    return Double.isNaN(shown.value())
        ? new Shown(key, Double.NaN, WhyNothing.TOO_FEW, shown.above(), shown.below())
        : shown;
  }

  private static Shown of(
      CounterDefinition counter, SeriesKey key, double above, double below, WhyNothing why) {
    return new Shown(key, Value.shown(counter, above, below), why, above, below);
  }

  private static Shown nothing(SeriesKey key, WhyNothing why) {
    return new Shown(key, Double.NaN, why, Double.NaN, Double.NaN);
  }
}
