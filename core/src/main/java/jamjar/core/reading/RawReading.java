package jamjar.core.reading;

import jamjar.core.counter.WhyNothing;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * All values of one source at one instant, as read.
 *
 * @param at when it was read, by the clock here
 * @param sourceMicros the source's own clock in µs, or {@link #NO_CLOCK}
 * @param monotonicNanos a clock here that never goes back; its zero means nothing
 * @param start anything that changes when the source begins anew, such as its start time in µs
 * @param complete groups that were read whole
 * @param failed groups that were not, and why
 * @param values what was read
 */
public record RawReading(
    Instant at,
    long sourceMicros,
    long monotonicNanos,
    long start,
    Set<String> complete,
    Map<String, WhyNothing> failed,
    List<RawValue> values) {

  public static final long NO_CLOCK = Long.MIN_VALUE;

  public RawReading {
    complete = Set.copyOf(complete);
    failed = Map.copyOf(failed);
    values = List.copyOf(values);
  }
}
