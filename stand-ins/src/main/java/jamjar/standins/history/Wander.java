package jamjar.standins.history;

import java.time.Instant;
import java.util.Arrays;

/**
 * Chance as a pure function of a seed, a name and a moment: how far something is off its usual, and
 * which way a fraction is rounded. The same at whatever moments it is asked for. One for each
 * thread.
 */
final class Wander {
  /** Each wave of it, in s, and how far it goes. */
  private static final int[] WIDTHS = {60, 900, 6 * 3_600};

  private static final double[] HEIGHTS = {0.05, 0.05, 0.06};

  /** A harmless burst about three times a week. */
  private static final int BURST_WIDTH = 2 * 3_600;

  private static final double BURST_CHANCE = 3.0 / 84;
  private static final int BURST_LASTS = 300;
  private static final double BURST = 0.6;

  /** Splits a number as a generator of random ones does; any odd number would do. */
  private static final long GOLDEN = 0x9e3779b97f4a7c15L;

  private final long seed;

  /** The place that was asked for last in each wave, and the heights at its ends. */
  private final long[] last = new long[WIDTHS.length];

  private final double[] before = new double[WIDTHS.length];
  private final double[] after = new double[WIDTHS.length];

  Wander(long seed, String name) {
    this.seed = mix(seed * GOLDEN + name.hashCode());
    Arrays.fill(last, Long.MIN_VALUE);
  }

  /** A factor about 1. */
  double at(Instant at) {
    double seconds = at.toEpochMilli() / 1000.0;
    double sum = 1;
    for (int w = 0; w < WIDTHS.length; w++) {
      double place = seconds / WIDTHS[w];
      long knot = (long) Math.floor(place);
      double into = place - knot;
      double weight = into * into * (3 - 2 * into);
      if (last[w] != knot) {
        last[w] = knot;
        before[w] = knot(w, knot);
        after[w] = knot(w, knot + 1);
      }
      sum += HEIGHTS[w] * (before[w] * (1 - weight) + after[w] * weight);
    }
    return Math.max(0.1, sum);
  }

  /** Nothing, or as much of a burst as is left. */
  double burst(Instant at) {
    long seconds = at.getEpochSecond();
    long window = Math.floorDiv(seconds, BURST_WIDTH);
    double chance = uniform(window, 17);
    if (chance >= BURST_CHANCE) {
      return 0;
    }
    // somewhere in the first half of the window, so that it ends within
    long begin = window * BURST_WIDTH + (long) (chance / BURST_CHANCE * BURST_WIDTH / 2);
    long since = seconds - begin;
    return since < 0 || since > BURST_LASTS ? 0 : BURST * (1 - (double) since / BURST_LASTS);
  }

  /** A whole number whose mean is the given one, with the scatter of things that are counted. */
  double counted(double mean, Instant at) {
    if (mean <= 0) {
      return 0;
    }
    double scattered = mean + normal(at.toEpochMilli(), 29) * Math.sqrt(mean);
    // of what is rare the root would go below nothing too often
    double wanted = mean < 4 ? mean : scattered;
    return Math.max(0, Math.floor(wanted + uniform(at.toEpochMilli(), 31)));
  }

  /** −1 to 1, mostly in the middle, now and then far out. */
  private double knot(int wave, long knot) {
    double normal = normal(knot, wave);
    return uniform(knot, wave + 7) < 0.01 ? 3 * normal : normal;
  }

  private double normal(long place, int what) {
    double sum = -2;
    for (int i = 0; i < 4; i++) {
      sum += uniform(place, what * 13 + i + 101);
    }
    return sum * Math.sqrt(3);
  }

  private double uniform(long place, int what) {
    return (mix(seed + place * GOLDEN + what * 0x632be59bd9b4e019L) >>> 11) * 0x1p-53;
  }

  private static long mix(long bits) {
    long z = (bits ^ bits >>> 30) * 0xbf58476d1ce4e5b9L;
    z = (z ^ z >>> 27) * 0x94d049bb133111ebL;
    return z ^ z >>> 31;
  }
}
