package jamjar.core.chart;

import jamjar.core.counter.Shape;
import jamjar.core.value.Value;
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

  /**
   * The place of the reading that covers a moment, the last of several; −1 where none does. A level
   * holds from when it was read, an increase covers the time before.
   *
   * @param shape of what was read
   * @param moment epoch ms
   */
  public int covering(Shape shape, long moment) {
    int found = -1;
    for (int i = 0; i < at.length; i++) {
      boolean covers =
          shape == Shape.LEVEL
              ? at[i] <= moment && moment < at[i] + Value.holds(interval[i])
              : at[i] - elapsed[i] < moment && moment <= at[i];
      found = covers ? i : found;
    }
    return found;
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
