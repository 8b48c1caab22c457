package jamjar.core.reading;

import jamjar.core.counter.WhyNothing;
import java.time.Instant;
import java.util.List;

/**
 * The values of all counters of one source at one instant, in the form in which they are kept. It
 * covers (at − elapsed, at].
 *
 * @param at when it was read
 * @param elapsedMillis ms since the reading before by the source's clock; 0 for the first
 * @param series the series, each once
 * @param values per series the level, or the exact increase of a total; NaN where there is none
 * @param why per series the reason for a NaN, null where there is a value
 */
public record Reading(
    Instant at, long elapsedMillis, List<SeriesKey> series, double[] values, WhyNothing[] why) {

  public double value(SeriesKey key) {
    int i = series.indexOf(key);
    return i < 0 ? Double.NaN : values[i];
  }
}
