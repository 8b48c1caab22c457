package jamjar.server.compare;

import jamjar.server.problems.Problem;
import jamjar.store.markers.MarkerRow;
import java.time.Duration;
import java.util.Locale;

/**
 * Two stretches of time that are compared: of one length, at the same time of the day, and of the
 * week where they are longer than that.
 *
 * @param against in words what it is compared with
 * @param before begin of the other one, epoch ms
 * @param after begin of the one that is looked at
 * @param length of both, ms
 * @param step their steps, ms
 */
record Stretches(String against, long before, long after, long length, long step) {
  private static final long MINUTE = 60_000;
  private static final long DAY = 1440 * MINUTE;
  static final long WEEK = 7 * DAY;

  /** Of so many steps any two are looked at. */
  private static final int MOST_STEPS = 168;

  private static final long[] STEPS = {1, 5, 15, 60, 360};
  private static final long LEAST = 10 * MINUTE;

  int steps() {
    return (int) (length / step);
  }

  long beforeEnd() {
    return before + length;
  }

  long afterEnd() {
    return after + length;
  }

  /**
   * A window against one before it.
   *
   * @param vs before, day or week
   */
  static Stretches window(long from, long to, String vs) {
    long length = to - from;
    return switch (vs) {
      // the very stretch before it: only of whole days at the same time of the day
      case "before" -> of("the time just before it", from - length, from, length);
      case "day" -> of("the day before", from - days(length), from, length);
      case "week" -> of("the week before", from - weeks(length), from, length);
      default ->
          throw Problem.field(
              "vs", "It is before, day, week, marker:, instance: or frozen: and a number.");
    };
  }

  /** The same window of another instance, or of what is kept. */
  static Stretches same(long from, long to, String against) {
    return of(against, from, from, to - from);
  }

  /**
   * What came after a marker against what was before it.
   *
   * @param span how long after it: minutes (ten of them), hour, day or week
   * @param now epoch ms: what is to come does not count
   */
  static Stretches marker(MarkerRow marker, String span, long now) {
    long wanted = length(span);
    long begin = begin(marker);
    long at = marker.from().toEpochMilli();
    long length = Math.min(wanted, now - begin);
    long back = wanted == WEEK ? WEEK : DAY;
    return of(
        String.format(Locale.ROOT, "the %s before “%s”", span, marker.title()),
        at - back,
        begin,
        length);
  }

  private static long length(String span) {
    return switch (span) {
      case "minutes" -> LEAST;
      case "hour" -> Duration.ofHours(1).toMillis();
      case "day" -> DAY;
      case "week" -> WEEK;
      default -> throw Problem.field("span", "It is minutes, hour, day or week.");
    };
  }

  private static long begin(MarkerRow marker) {
    return (marker.to() == null ? marker.from() : marker.to()).toEpochMilli();
  }

  /** Whether all of that time after a marker has passed, and what was read in it is there. */
  static boolean isOver(MarkerRow marker, String span, long now) {
    return now >= begin(marker) + length(span) + MINUTE;
  }

  private static long days(long length) {
    return (length + DAY - 1) / DAY * DAY;
  }

  private static long weeks(long length) {
    return (length + WEEK - 1) / WEEK * WEEK;
  }

  private static Stretches of(String against, long before, long after, long length) {
    if (length < LEAST) {
      throw Problem.field(
          "from", "It takes ten minutes at least to say whether something is better or worse.");
    }
    for (long minutes : STEPS) {
      long step = minutes * MINUTE;
      if (length / step <= MOST_STEPS) {
        long begin = Math.floorDiv(after, step) * step;
        long other = before + begin - after;
        return new Stretches(against, other, begin, length / step * step, step);
      }
    }
    throw Problem.field("from", "Compare six weeks at most.");
  }
}
