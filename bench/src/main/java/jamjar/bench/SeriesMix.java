package jamjar.bench;

import java.util.SplittableRandom;

/**
 * The values of the series of one instance, one reading after the other, of the kinds that such
 * series are: 22 % constant, 18 % mostly zero, 20 % small, 14 % hundreds, 8 % bytes of a heap, 8 %
 * thousandths, 4 % doubles of full length, 6 % large increases.
 */
final class SeriesMix {
  /** Up to where each kind reaches, of 50 series. */
  private static final int[] UP_TO = {11, 20, 30, 37, 41, 45, 47, 50};

  private static final int FIFTY = 50;
  private static final double HEAP = 2e9;

  private final SplittableRandom random;
  private final double[] last;

  SeriesMix(long seed, int series) {
    this.random = new SplittableRandom(seed);
    this.last = new double[series];
    for (int s = 0; s < series; s++) {
      last[s] = random.nextInt(1, 1000);
    }
  }

  /** The next reading. */
  double[] next() {
    double[] values = new double[last.length];
    for (int s = 0; s < values.length; s++) {
      values[s] = next(kind(s), s);
    }
    return values;
  }

  private static int kind(int s) {
    int kind = 0;
    while (s % FIFTY >= UP_TO[kind]) {
      kind++;
    }
    return kind;
  }

  private double next(int kind, int s) {
    double before = last[s];
    last[s] =
        switch (kind) {
          case 0 -> before;
          case 1 -> random.nextInt(20) == 0 ? random.nextInt(1, 12) : 0;
          case 2 -> Math.floorMod((long) before + random.nextInt(-2, 3), 20);
          case 3 -> Math.rint(Math.abs(before + 12 * gauss() + (400 - before) / 20));
          // climbs by a few MB in whole words until it is collected
          case 4 -> before > HEAP ? HEAP / 2 : before + 8 * Math.rint(4e5 + 1e5 * gauss());
          case 5 -> Math.rint(12_000 * Math.exp(gauss())) / 1000;
          case 6 -> Math.abs(Math.sin(before) + 0.02 * gauss());
          default -> Math.rint(250_000 * Math.exp(0.5 * gauss()));
        };
    return last[s];
  }

  /** About normal. */
  private double gauss() {
    double sum = -6;
    for (int i = 0; i < 12; i++) {
      sum += random.nextDouble();
    }
    return sum;
  }

  /** Milliseconds by which a reading is off its time. */
  int jitter() {
    return random.nextInt(8);
  }
}
