package jamjar.core.compare;

import java.util.Arrays;

/**
 * One counter across instances at one moment, in its unit; NaN where nothing is known.
 *
 * @param n how many of them have a value
 * @param sum of all
 * @param overMedian the greatest divided by the middle one: how unevenly it is shared out; NaN
 *     where the middle is not above zero
 */
public record Across(
    int n, double sum, double mean, double least, double greatest, double overMedian) {

  /**
   * @param values one of each instance; NaN for none
   */
  public static Across of(double[] values) {
    double[] sorted = Arrays.stream(values).filter(v -> !Double.isNaN(v)).sorted().toArray();
    int n = sorted.length;
    if (n == 0) {
      return new Across(0, Double.NaN, Double.NaN, Double.NaN, Double.NaN, Double.NaN);
    }
    double sum = Arrays.stream(sorted).sum();
    double median = (sorted[(n - 1) / 2] + sorted[n / 2]) / 2;
    double greatest = sorted[n - 1];
    return new Across(
        n, sum, sum / n, sorted[0], greatest, median > 0 ? greatest / median : Double.NaN);
  }
}
