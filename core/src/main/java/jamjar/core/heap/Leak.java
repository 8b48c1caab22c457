package jamjar.core.heap;

import jamjar.core.forecast.Slopes;
import java.util.Arrays;

/**
 * Whether the floor of a heap climbs without end: by the floors of days, as a day has its own
 * waves. The slope is the middle of the slopes between any two days (Theil–Sen); whether it climbs
 * at all is told by how many pairs of days do (Mann–Kendall, exactly).
 *
 * @param verdict what is said
 * @param days from so many it is said
 * @param perDay how much the floor climbs in a day, in the unit of the floors; NaN where nothing is
 *     said of it
 * @param hoursLeast until the maximum is reached, h: by the steeper of two likely slopes; NaN where
 *     it does not climb
 * @param hoursMost by the flatter; infinite where that does not climb
 */
public record Leak(Verdict verdict, int days, double perDay, double hoursLeast, double hoursMost) {

  /** What can be said. */
  public enum Verdict {
    /** Under three days since its start, the first not counted. */
    TOO_FEW_DAYS,
    /** It does not climb, or not any more, or too little to matter. */
    NONE,
    /** It climbs, day by day. */
    CLIMBS
  }

  static final int LEAST_DAYS = 3;

  /** So many days are looked at, whatever began before. */
  public static final int MOST_DAYS = 21;

  /** Of one that began to climb lately the last of them. */
  private static final int[] LAST_DAYS = {14, 10, 7, 5, 4};

  /**
   * Whoever climbs less than this part of the maximum in a day reaches it in no time that matters.
   */
  private static final double LEAST_PER_DAY = 0.005;

  /** So seldom days of which none follows from the other climb so by chance. */
  private static final double CHANCE = 0.05;

  /** That many of the slopes between two days lie below and above the likely ones. */
  private static final double TAIL = 0.1;

  private static final double HOURS = 24;

  private static final Leak TOO_FEW =
      new Leak(Verdict.TOO_FEW_DAYS, 0, Double.NaN, Double.NaN, Double.NaN);

  /**
   * Looks at the days since the last start, or since the maximum or the collector changed.
   *
   * @param floors of each day the lowest floor, in order, the first day left out by who asks; NaN
   *     for a day without one
   * @param max what the floor may reach
   */
  public static Leak of(double[] floors, double max) {
    Slopes slopes = Slopes.of(floors, 0);
    int n = slopes.size();
    if (n < LEAST_DAYS || !(max > 0)) {
      return new Leak(TOO_FEW.verdict(), n, Double.NaN, Double.NaN, Double.NaN);
    }
    double slope = slopes.quantile(0.5);
    double last = slopes.value(n - 1);
    // a cache that is full climbs no more: the last days must
    boolean still = last > slopes.value(n - 2) && slopes.value(n - 2) > slopes.value(n - 3);
    boolean climbs =
        still
            && slope >= LEAST_PER_DAY * max
            && (n == LEAST_DAYS || chance(n, slopes.climbing()) <= CHANCE);
    if (!climbs) {
      return new Leak(Verdict.NONE, n, slope, Double.NaN, Double.NaN);
    }
    double left = max - last;
    double flat = slopes.quantile(TAIL);
    double steep = slopes.quantile(1 - TAIL);
    return new Leak(
        Verdict.CLIMBS,
        n,
        slope,
        HOURS * left / steep,
        flat <= 0 ? Double.POSITIVE_INFINITY : HOURS * left / flat);
  }

  /**
   * Of what climbs over some of the last days what does so the most evenly; else what is said of
   * all.
   *
   * @param floors as of {@link #of}
   * @param max as there
   */
  public static Leak mostEven(double[] floors, double max) {
    Leak found = of(floors, max);
    for (int days : LAST_DAYS) {
      if (days < floors.length) {
        Leak some = of(Arrays.copyOfRange(floors, floors.length - days, floors.length), max);
        boolean first = found.verdict() != Verdict.CLIMBS;
        if (some.verdict() == Verdict.CLIMBS && (first || some.range() < found.range())) {
          found = some;
        }
      }
    }
    return found;
  }

  private double range() {
    return hoursMost / hoursLeast;
  }

  /**
   * How likely so many more pairs climb than fall, where the order of days is chance: of all orders
   * of n those that have at least so many, counted by their inversions.
   */
  static double chance(int n, int pairs) {
    int most = n * (n - 1) / 2;
    double[] ways = {1};
    double orders = 1;
    for (int i = 2; i <= n; i++) {
      double[] next = new double[i * (i - 1) / 2 + 1];
      for (int s = 0; s < next.length; s++) {
        for (int t = Math.max(0, s - i + 1); t <= Math.min(s, ways.length - 1); t++) {
          next[s] += ways[t];
        }
      }
      ways = next;
      orders *= i;
    }
    double found = 0;
    for (int inversions = 0; inversions < ways.length; inversions++) {
      if (most - 2 * inversions >= pairs) {
        found += ways[inversions];
      }
    }
    return found / orders;
  }
}
