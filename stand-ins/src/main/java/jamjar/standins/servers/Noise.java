package jamjar.standins.servers;

import java.util.SplittableRandom;

/**
 * Noise as real estates have it: correlated in time, with a heavy tail and now and then a harmless
 * burst. A factor around 1.
 */
final class Noise {
  private static final double KEPT_PER_SECOND = 0.97;
  private static final double SPREAD = 0.02;
  private static final double BURSTS_PER_SECOND = 1.0 / 40_000;

  private final SplittableRandom random;
  private double drift;
  private double burst;

  Noise(long seed) {
    random = new SplittableRandom(seed);
  }

  /** The factor of the next second. */
  double next() {
    double step = random.nextGaussian() * SPREAD;
    if (random.nextInt(200) == 0) {
      step *= 6;
    }
    drift = drift * KEPT_PER_SECOND + step;
    if (random.nextDouble() < BURSTS_PER_SECOND) {
      burst = 0.6;
    }
    burst *= 0.99;
    return Math.max(0.1, 1 + drift + burst);
  }

  /** How many of events at a rate come in a second. */
  long count(double rate) {
    if (rate > 50) {
      return Math.max(0, Math.round(rate + random.nextGaussian() * Math.sqrt(rate)));
    }
    long count = 0;
    double left = Math.exp(-rate);
    double product = random.nextDouble();
    while (product > left) {
      count++;
      product *= random.nextDouble();
    }
    return count;
  }
}
