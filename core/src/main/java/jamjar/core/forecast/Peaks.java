package jamjar.core.forecast;

import jamjar.core.baseline.Quantiles;
import jamjar.core.baseline.Timeline.LeftOut;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;

/**
 * Whether the daily peaks of a series will reach a capacity: a line through them whose slope is the
 * middle of the slopes between any two days (Theil–Sen), so that single days do not bend it. It is
 * begun again after the last day from which on the peaks stay lower by more than a third, as after
 * a purge, or higher by more than half, as after a move.
 *
 * @param verdict what is said
 * @param first the place of the first day that counts
 * @param days how many peaks it is said from
 * @param perDay the slope, in the unit of the peaks; NaN where there are too few
 * @param now where the line stands on the last day; NaN where there are too few
 * @param middle days after the last one until the line meets the capacity; infinite where it never
 *     does, NaN where there are too few
 * @param soonest by the steeper of two likely slopes, and a day as far above the line as one in ten
 * @param latest by the flatter, and a day as far below it
 */
public record Peaks(
    Verdict verdict,
    int first,
    int days,
    double perDay,
    double now,
    double middle,
    double soonest,
    double latest) {

  /** What can be said. */
  public enum Verdict {
    TOO_FEW_DAYS,
    /** It does not meet it within three times as many days as there were, or never. */
    NOT_IN_SIGHT,
    /** It meets it. */
    REACHES,
    /** The line stands above it already. */
    REACHED
  }

  public static final int LEAST_DAYS = 14;

  private static final double IN_SIGHT = 3;

  /** A hundred years, in days. */
  private static final double NEVER = 36_525;

  private static final double TAIL = 0.1;
  private static final double FELL = 2.0 / 3;
  private static final double ROSE = 1.5;

  /** So many days on either side tell whether peaks stay otherwise; of a week each. */
  private static final int WEEK = 7;

  /**
   * Looks at the peaks of days.
   *
   * @param peaks of each day, in order, without the day that is not over; NaN for one without
   * @param capacity what they may reach, in their unit
   */
  public static Peaks of(double[] peaks, double capacity) {
    int first = begin(peaks);
    Slopes slopes = Slopes.of(peaks, first);
    int n = slopes.size();
    if (n < LEAST_DAYS) {
      double none = Double.NaN;
      return new Peaks(Verdict.TOO_FEW_DAYS, first, n, none, none, none, none, none);
    }
    double slope = slopes.quantile(0.5);
    double[] above = new double[n];
    for (int i = 0; i < n; i++) {
      above[i] = slopes.value(i) - slope * slopes.at(i);
    }
    Arrays.sort(above);
    double zero = Quantiles.linear(above, 0.5);
    double now = zero + slope * slopes.at(n - 1);
    double middle = until(now, slope, capacity);
    double soonest =
        until(now + Quantiles.linear(above, 1 - TAIL) - zero, slopes.quantile(1 - TAIL), capacity);
    double latest =
        until(now + Quantiles.linear(above, TAIL) - zero, slopes.quantile(TAIL), capacity);
    boolean inSight = middle <= IN_SIGHT * (peaks.length - first);
    Verdict verdict =
        now >= capacity ? Verdict.REACHED : inSight ? Verdict.REACHES : Verdict.NOT_IN_SIGHT;
    return new Peaks(verdict, first, n, slope, now, middle, soonest, latest);
  }

  /**
   * The greatest value of each local day; NaN for a day without one.
   *
   * @param from start of the first step, epoch ms
   * @param step their width, ms
   * @param values of each step; NaN for none
   * @param first the first day
   * @param leftOut what did not belong to its days says nothing of the days to come
   */
  public static double[] ofDays(
      long from,
      long step,
      double[] values,
      LocalDate first,
      int days,
      ZoneId zone,
      List<LeftOut> leftOut) {
    double[] peaks = new double[days];
    Arrays.fill(peaks, Double.NaN);
    for (int i = 0; i < values.length; i++) {
      long at = from + i * step;
      if (!Double.isNaN(values[i])
          && leftOut.stream().noneMatch(span -> span.from() < at + step && span.to() > at)) {
        LocalDate date = Instant.ofEpochMilli(at).atZone(zone).toLocalDate();
        int day = (int) ChronoUnit.DAYS.between(first, date);
        peaks[day] = Double.isNaN(peaks[day]) ? values[i] : Math.max(peaks[day], values[i]);
      }
    }
    return peaks;
  }

  private static double until(double now, double slope, double capacity) {
    if (now >= capacity) {
      return 0;
    }
    double days = (capacity - now) / slope;
    // what takes longer than anybody plans is never
    return slope > 0 && days < NEVER ? days : Double.POSITIVE_INFINITY;
  }

  /** After the last day from which on the peaks of a week are wholly otherwise than before. */
  private static int begin(double[] peaks) {
    for (int i = peaks.length - WEEK; i >= WEEK; i--) {
      double before = middle(Arrays.copyOfRange(peaks, i - WEEK, i));
      double after = middle(Arrays.copyOfRange(peaks, i, i + WEEK));
      double jump = peaks[i] / lastBefore(peaks, i);
      boolean otherwise = after < FELL * before || after > ROSE * before;
      // the very day of it: not one of those around, whose weeks hold some of both
      if (otherwise && (after < before ? jump < FELL : jump > ROSE)) {
        return i;
      }
    }
    return 0;
  }

  /** The day of a purge itself is often left out, as maintenance. */
  private static double lastBefore(double[] peaks, int i) {
    int before = i - 1;
    while (before > 0 && Double.isNaN(peaks[before])) {
      before--;
    }
    return peaks[before];
  }

  private static double middle(double[] values) {
    double[] known = Arrays.stream(values).filter(v -> !Double.isNaN(v)).sorted().toArray();
    return known.length == 0 ? Double.NaN : Quantiles.linear(known, 0.5);
  }
}
