package jamjar.core.baseline;

import java.util.Optional;
import java.util.function.LongFunction;

/**
 * That a series was outside of its normal within a window: how far for five minutes on end, and
 * since when.
 *
 * @param distance in spreads, held for five minutes on one side: of all such stretches the
 *     farthest; positive above its normal
 * @param since begin of the first minute of those that were outside as long as a departure takes,
 *     epoch ms
 * @param minutes how many minutes of the window lay outside on that side
 * @param value the mean of the stretch that is told
 * @param at its begin, epoch ms
 * @param normal what was normal then
 */
public record Moved(
    double distance, long since, int minutes, double value, long at, Normal normal) {

  /** So long it is held, ms. */
  private static final long HELD = 5 * Timeline.MINUTE;

  /**
   * Looks at one series.
   *
   * @param from start of the first minute, epoch ms
   * @param values the mean of each minute; NaN for none: who has one counts, gaps are passed over
   * @param normal what is normal at a moment
   * @param intervalMillis between two of its readings
   * @return empty where it did not leave its normal for so long
   */
  public static Optional<Moved> of(
      long from,
      double[] values,
      LongFunction<Normal> normal,
      double matters,
      double resolution,
      long intervalMillis) {
    int n = 0;
    int[] minute = new int[values.length];
    double[] distance = new double[values.length];
    for (int i = 0; i < values.length; i++) {
      if (!Double.isNaN(values[i])) {
        double d =
            normal.apply(from + i * Timeline.MINUTE).distance(values[i], matters, resolution);
        if (!Double.isNaN(d)) {
          minute[n] = i;
          distance[n++] = d;
        }
      }
    }
    int held = count(HELD, intervalMillis);
    int best = farthest(distance, n, held);
    if (best < 0) {
      return Optional.empty();
    }
    double side = Math.signum(distance[best]);
    double sum = 0;
    double least = Double.POSITIVE_INFINITY;
    for (int k = best; k < best + held; k++) {
      sum += values[minute[k]];
      least = Math.min(least, Math.abs(distance[k]));
    }
    long at = from + minute[best] * Timeline.MINUTE;
    int left = left(distance, n, count(Departing.HOLD * Timeline.MINUTE, intervalMillis), side);
    return Optional.of(
        new Moved(
            side * least,
            from + minute[left] * Timeline.MINUTE,
            outside(distance, n, side),
            sum / held,
            at,
            normal.apply(at)));
  }

  /** How many readings by the minute, or slower ones, cover a time. */
  private static int count(long millis, long intervalMillis) {
    return (int) Math.max(1, millis / Math.max(Timeline.MINUTE, intervalMillis));
  }

  /** Where the stretch begins that is farthest outside on one side; −1 for none. */
  private static int farthest(double[] distance, int n, int held) {
    int best = -1;
    double most = Departing.FAR;
    for (int i = 0; i + held <= n; i++) {
      double least = Double.POSITIVE_INFINITY;
      for (int k = i; k < i + held; k++) {
        boolean same = Math.signum(distance[k]) == Math.signum(distance[i]);
        least = same ? Math.min(least, Math.abs(distance[k])) : 0;
        if (least < most) {
          break;
        }
      }
      if (least > most || best < 0 && least >= most) {
        best = i;
        most = least;
      }
    }
    return best;
  }

  private static int left(double[] distance, int n, int hold, double side) {
    int run = 0;
    for (int i = 0; i < n; i++) {
      run = side * distance[i] >= Departing.FAR ? run + 1 : 0;
      if (run == hold) {
        return i - hold + 1;
      }
    }
    return 0;
  }

  private static int outside(double[] distance, int n, double side) {
    int count = 0;
    for (int i = 0; i < n; i++) {
      count += side * distance[i] >= Departing.FAR ? 1 : 0;
    }
    return count;
  }
}
