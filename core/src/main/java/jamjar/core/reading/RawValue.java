package jamjar.core.reading;

import jamjar.core.counter.WhyNothing;
import java.util.OptionalLong;

/** One value as the source gave it, or the reason for having none. */
public sealed interface RawValue {
  SeriesKey series();

  /**
   * @param value as read; NaN and infinities are no value
   */
  record Level(SeriesKey series, double value) implements RawValue {}

  /**
   * @param value the count as read, since some start; of entries, the sum over those now there
   * @param epoch anything that changes when the count begins anew, such as the reset time in µs
   * @param fromEntries the increase as added up entry by entry, where the source may evict entries
   */
  record Total(SeriesKey series, long value, long epoch, OptionalLong fromEntries)
      implements RawValue {
    public Total(SeriesKey series, long value, long epoch) {
      this(series, value, epoch, OptionalLong.empty());
    }
  }

  /** A series that is known to the source but has no value in this reading. */
  record Nothing(SeriesKey series, WhyNothing why) implements RawValue {}
}
