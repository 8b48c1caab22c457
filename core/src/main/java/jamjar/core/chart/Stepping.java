package jamjar.core.chart;

import jamjar.core.counter.Shape;
import jamjar.core.value.Value;

/**
 * From readings to steps. A level holds until the next reading, at most 1.5 intervals; an increase
 * is spread evenly over its elapsed. What crosses an edge is split by its ms; a whole increase into
 * whole counts, what is left over in the later step, so that sums stay exact.
 */
public final class Stepping {
  private static final double MILLIS = 1000;

  /** Bits of a double's fraction that are left out: 12 and 20 of them stay. */
  private static final long OF_EXTREMES = (1L << 40) - 1;

  private static final int OF_MEANS = 32;

  private Stepping() {}

  /**
   * @param shape level or total
   * @param samples in order of time, with one more on either side of the steps where there is one
   * @param from start of the first step, epoch ms
   * @param width of a step, ms
   */
  public static Steps of(Shape shape, Samples samples, long from, long width, int count) {
    Steps steps = Steps.empty(from, width, count);
    int before = 0;
    for (int i = 0; i < samples.size(); i++) {
      if (!Double.isNaN(samples.value()[i])) {
        before =
            shape == Shape.LEVEL
                ? level(steps, samples, i, before)
                : total(steps, samples, i, before);
      }
    }
    for (int s = 0; s < count; s++) {
      double covered = steps.covered()[s];
      if (covered == 0) {
        steps.amount()[s] = Double.NaN;
      } else if (shape == Shape.LEVEL) {
        steps.amount()[s] = mean(steps, s);
      }
      steps.least()[s] = down(steps.least()[s]);
      steps.greatest()[s] = up(steps.greatest()[s]);
    }
    return steps;
  }

  /**
   * @param before the first step that the reading before it touched
   * @return the first that this one touches
   */
  private static int level(Steps steps, Samples samples, int i, int before) {
    long at = samples.at()[i];
    long end = at + Value.holds(samples.interval()[i]);
    if (i + 1 < samples.size()) {
      end = Math.min(end, samples.at()[i + 1]);
    }
    double value = samples.value()[i];
    int first = first(steps, at, before);
    for (int s = first; s < steps.size() && start(steps, s) < end; s++) {
      long here = overlap(steps, s, at, end);
      if (here > 0) {
        steps.covered()[s] += here;
        steps.amount()[s] += value * here;
        extremes(steps, s, value);
      }
    }
    return first;
  }

  /** As above. */
  private static int total(Steps steps, Samples samples, int i, int before) {
    long end = samples.at()[i];
    long elapsed = samples.elapsed()[i];
    long begin = end - elapsed;
    if (elapsed <= 0) {
      return before;
    }
    boolean covers = Value.covers(elapsed, samples.interval()[i]);
    double[] into = covers ? steps.amount() : steps.beside();
    double value = samples.value()[i];
    double rate = value / (elapsed / MILLIS);
    int first = first(steps, begin, before);
    for (int s = first; s < steps.size() && start(steps, s) < end; s++) {
      long here = overlap(steps, s, begin, end);
      if (here > 0) {
        long done = Math.max(begin, start(steps, s)) - begin;
        into[s] += part(value, done + here, elapsed) - part(value, done, elapsed);
        if (covers) {
          steps.covered()[s] += here;
          extremes(steps, s, rate);
        }
      }
    }
    return first;
  }

  /**
   * What an increase had come to after a part of its time: a whole one in whole counts.
   *
   * @param done ms, up to elapsed
   */
  static double part(double value, long done, long elapsed) {
    if (done == 0 || done == elapsed) {
      return done == 0 ? 0 : value;
    }
    double part = value * ((double) done / elapsed);
    return value == Math.rint(value) ? Math.floor(part) : part;
  }

  /** The step that a moment lies in, or the end: mostly that of the reading before, or the next. */
  private static int first(Steps steps, long at, int before) {
    int s = before;
    while (s > 0 && at < start(steps, s)) {
      s--;
    }
    while (s < steps.size() && at >= start(steps, s + 1)) {
      s++;
    }
    return s;
  }

  private static long start(Steps steps, int s) {
    return steps.from() + s * steps.width();
  }

  private static long overlap(Steps steps, int s, long begin, long end) {
    long start = start(steps, s);
    return Math.min(end, start + steps.width()) - Math.max(begin, start);
  }

  private static void extremes(Steps steps, int s, double value) {
    double least = steps.least()[s];
    double greatest = steps.greatest()[s];
    steps.least()[s] = Double.isNaN(least) || value < least ? value : least;
    steps.greatest()[s] = Double.isNaN(greatest) || value > greatest ? value : greatest;
  }

  /** What never changed is its mean exactly. */
  private static double mean(Steps steps, int s) {
    double least = steps.least()[s];
    return least == steps.greatest()[s] ? least : nearest(steps.amount()[s] / steps.covered()[s]);
  }

  private static double nearest(double value) {
    long bits = Double.doubleToRawLongBits(value);
    return Double.longBitsToDouble(bits + (1L << OF_MEANS - 1) >> OF_MEANS << OF_MEANS);
  }

  static double down(double value) {
    return value < 0 ? -away(-value) : towards(value);
  }

  static double up(double value) {
    return value < 0 ? -towards(-value) : away(value);
  }

  /** The next towards 0 of those that are kept. */
  private static double towards(double value) {
    return Double.longBitsToDouble(Double.doubleToRawLongBits(value) & ~OF_EXTREMES);
  }

  private static double away(double value) {
    long bits = Double.doubleToRawLongBits(value);
    boolean exact = (bits & OF_EXTREMES) == 0 || Double.isNaN(value);
    return exact ? value : Double.longBitsToDouble((bits | OF_EXTREMES) + 1);
  }
}
