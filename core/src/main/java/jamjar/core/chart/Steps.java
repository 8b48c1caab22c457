package jamjar.core.chart;

import java.util.Arrays;

/**
 * A series that was read itself, in steps of equal width one after the other. All arrays have the
 * same length.
 *
 * @param from start of the first step, epoch ms
 * @param width of a step, ms
 * @param covered ms of each step that readings cover: whole, from 0 to the width
 * @param amount of a level the mean over what is covered, to 1 part in 2²⁰; of a total what it grew
 *     by in it, exact. NaN where nothing is covered
 * @param beside of a total what it grew by in readings that cover more than 2.5 intervals: it
 *     enters sums only; 0 for none
 * @param least the least reading that touches the step, rounded down to 1 part in 4,096; of a total
 *     per second. NaN where there is none
 * @param greatest as least, rounded up
 */
public record Steps(
    long from,
    long width,
    double[] covered,
    double[] amount,
    double[] beside,
    double[] least,
    double[] greatest) {

  public int size() {
    return covered.length;
  }

  /** Steps of which nothing is known yet. */
  static Steps empty(long from, long width, int count) {
    Steps steps =
        new Steps(
            from,
            width,
            new double[count],
            new double[count],
            new double[count],
            new double[count],
            new double[count]);
    Arrays.fill(steps.least, Double.NaN);
    Arrays.fill(steps.greatest, Double.NaN);
    return steps;
  }
}
