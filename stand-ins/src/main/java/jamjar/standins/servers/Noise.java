package jamjar.standins.servers;

import java.util.SplittableRandom;

/**
 * Noise as real estates have it: correlated in time, with a heavy tail and now and then a harmless
 * burst. A factor around 1.
 */
final class Noise {
  private static final double KEPT_PER_SECOND = 0.97;
  private static final double FADES_PER_SECOND = 0.99;
  private static final double SPREAD = 0.02;
  private static final double BURSTS_PER_SECOND = 1.0 / 40_000;

  private final SplittableRandom random;
  private int width = 1;
  private double kept = KEPT_PER_SECOND;
  private double fading = FADES_PER_SECOND;
  private double spread = SPREAD;
  private double drift;
  private double burst;

  Noise(long seed) {
    random = new SplittableRandom(seed);
  }

  /** The factor of the next second. */
  double next() {
    return next(1);
  }

  /** The factor after so many seconds, which wanders as far as one of each second would. */
  double next(int seconds) {
    if (seconds != width) {
      width = seconds;
      kept = StrictMath.pow(KEPT_PER_SECOND, seconds);
      fading = StrictMath.pow(FADES_PER_SECOND, seconds);
      double once = 1 - KEPT_PER_SECOND * KEPT_PER_SECOND;
      spread = SPREAD * Math.sqrt((1 - kept * kept) / once);
    }
    double step = random.nextGaussian() * spread;
    if (random.nextInt(200) < seconds) {
      step *= seconds == 1 ? 6 : 2;
    }
    drift = drift * kept + step;
    if (random.nextDouble() < BURSTS_PER_SECOND * seconds) {
      burst = 0.6;
    }
    burst *= fading;
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
