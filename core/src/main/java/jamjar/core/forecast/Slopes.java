package jamjar.core.forecast;

import jamjar.core.baseline.Quantiles;
import java.util.Arrays;

/**
 * The slopes between any two of some values that follow each other in equal steps, such as days:
 * their middle is not bent by a few wild ones (Theil–Sen).
 */
public final class Slopes {
  private final double[] at;
  private final double[] known;
  private final double[] sorted;

  private Slopes(double[] at, double[] known, double[] sorted) {
    this.at = at;
    this.known = known;
    this.sorted = sorted;
  }

  /**
   * @param values in order; NaN for none
   * @param first the place of the first that counts
   */
  public static Slopes of(double[] values, int first) {
    double[] at = new double[values.length];
    double[] known = new double[values.length];
    int n = 0;
    for (int i = first; i < values.length; i++) {
      if (!Double.isNaN(values[i])) {
        at[n] = i;
        known[n++] = values[i];
      }
    }
    double[] slopes = new double[n * Math.max(0, n - 1) / 2];
    int k = 0;
    for (int i = 0; i < n; i++) {
      for (int j = i + 1; j < n; j++) {
        slopes[k++] = (known[j] - known[i]) / (at[j] - at[i]);
      }
    }
    Arrays.sort(slopes);
    return new Slopes(Arrays.copyOf(at, n), Arrays.copyOf(known, n), slopes);
  }

  /** How many values there are. */
  public int size() {
    return known.length;
  }

  /** A value, from the first that there is. */
  public double value(int i) {
    return known[i];
  }

  /** Its place among all. */
  public double at(int i) {
    return at[i];
  }

  /** A quantile of the slopes; of two values at least. */
  public double quantile(double fraction) {
    return Quantiles.linear(sorted, fraction);
  }

  /** How many pairs climb, less those that fall. */
  public int climbing() {
    int pairs = 0;
    for (double slope : sorted) {
      pairs += (int) Math.signum(slope);
    }
    return pairs;
  }
}
