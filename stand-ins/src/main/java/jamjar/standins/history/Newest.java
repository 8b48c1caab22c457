package jamjar.standins.history;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.Predicate;

/** A past hour by hour, the newest first: what one looks at first is there first. */
final class Newest {
  private static final int MINUTE = 60;

  private Newest() {}

  /** When the oldest hour begins that is kept by the end. */
  static Instant begin(Duration kept, Instant end) {
    return end.minus(kept).truncatedTo(ChronoUnit.HOURS);
  }

  /**
   * @param each takes the begin of an hour and its end, or that of all
   */
  static void hours(Duration kept, Instant end, BiConsumer<Instant, Instant> each) {
    Instant begin = begin(kept, end);
    for (Instant hour = end.truncatedTo(ChronoUnit.HOURS);
        !hour.isBefore(begin);
        hour = hour.minus(1, ChronoUnit.HOURS)) {
      Instant to = hour.plus(1, ChronoUnit.HOURS);
      each.accept(hour, to.isAfter(end) ? end : to);
    }
  }

  /** Whole minutes in [from, to), without those in which nothing could be read. */
  static List<Instant> minutes(Instant from, Instant to, Predicate<Instant> cutOff) {
    List<Instant> all = new ArrayList<>();
    for (Instant at = from.truncatedTo(ChronoUnit.MINUTES);
        at.isBefore(to);
        at = at.plusSeconds(MINUTE)) {
      if (!at.isBefore(from) && !cutOff.test(at)) {
        all.add(at);
      }
    }
    return all;
  }
}
