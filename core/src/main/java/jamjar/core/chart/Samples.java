package jamjar.core.chart;

import java.util.List;

/**
 * Readings of one series in order of time, as kept. All arrays have the same length.
 *
 * @param at when each was read, epoch ms, rising
 * @param elapsed ms each covers backwards
 * @param interval ms between two readings as set at the time
 * @param value per reading the level or increase; NaN where there is none. Of a quotient, the part
 *     above the line
 * @param below of a quotient the parts below the line, each like {@code value}; else empty
 */
public record Samples(
    long[] at, long[] elapsed, long[] interval, double[] value, List<double[]> below) {

  public Samples {
    below = List.copyOf(below);
  }

  public int size() {
    return at.length;
  }

  /** The sum below the line at one reading; one missing part leaves none. */
  double below(int i) {
    double sum = 0;
    for (double[] part : below) {
      sum += part[i];
    }
    return sum;
  }
}
