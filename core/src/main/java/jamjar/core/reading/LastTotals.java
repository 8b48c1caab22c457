package jamjar.core.reading;

import java.time.Instant;
import java.util.Collections;
import java.util.Map;
import java.util.Set;

/**
 * What must be kept of a reading so that the next one can form increases; stored with the reading,
 * so that a restart loses no interval. Who makes it changes what it is made of no more.
 *
 * @param at when it was read, by the clock here
 * @param sourceMicros the source's own clock in µs, or {@link RawReading#NO_CLOCK}
 * @param monotonicNanos the clock here that never goes back; {@link #NO_MONOTONIC} after a restart
 * @param start what told the source's start
 * @param counters keys of the counters whose group was read whole
 * @param totals the raw totals
 * @param nothing labelled series that were there without a value
 */
public record LastTotals(
    Instant at,
    long sourceMicros,
    long monotonicNanos,
    long start,
    Set<String> counters,
    Map<SeriesKey, Raw> totals,
    Set<SeriesKey> nothing) {

  public static final long NO_MONOTONIC = Long.MIN_VALUE;

  /** A raw total and what told its reset. */
  public record Raw(long value, long epoch) {}

  public LastTotals {
    // made anew of each reading: not copied
    counters = Collections.unmodifiableSet(counters);
    totals = Collections.unmodifiableMap(totals);
    nothing = Collections.unmodifiableSet(nothing);
  }
}
