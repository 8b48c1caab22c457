package jamjar.core.compare;

import java.util.Arrays;
import java.util.List;
import java.util.OptionalDouble;

/**
 * What a series did in one stretch of time against another of the same length, step by step: by how
 * much it is higher or lower, and whether that is more than it changes anyway from one week to the
 * next.
 *
 * @param before mean of the steps before that have one after
 * @param after mean of theirs after
 * @param shift by how much after is higher: the Hodges–Lehmann estimate, the middle of all means of
 *     two of the differences
 * @param apart how far the two lie apart, −1 … 1: how much more often one after is higher than one
 *     before than lower (Cliff's delta)
 * @param usual the most that it shifted from one week to the next before; NaN where that is not
 *     known
 */
public record Comparison(
    double before, double after, double shift, double apart, double usual, Verdict verdict) {

  /** What that means. */
  public enum Verdict {
    /** No more than matters, or than 2 % of what it was. */
    SAME,
    /** More than that, but no more than it changes anyway. */
    WITHIN,
    BEYOND,
    /** Five times its usual change and more. */
    FAR_BEYOND,
    /** One of the two has no value. */
    NOT_COMPARABLE
  }

  /** Fewer steps that both have tell nothing. */
  static final int LEAST_STEPS = 4;

  private static final double LEAST_SHARE = 0.02;
  private static final double FAR = 5;

  /** Two that lie less apart overlap so much that neither is higher. */
  private static final double APART = 0.3;

  /**
   * Compares.
   *
   * @param before the mean of each step; NaN for none
   * @param after as many, of the same places in the week or the day
   * @param weeks what it was in the weeks before what is before, the newest first, step by step
   * @param matters the smallest difference that matters, in the unit as shown
   */
  public static Comparison of(
      double[] before, double[] after, List<double[]> weeks, double matters) {
    double[][] both = both(before, after);
    if (both[0].length < LEAST_STEPS) {
      return new Comparison(
          mean(before), mean(after), Double.NaN, Double.NaN, Double.NaN, Verdict.NOT_COMPARABLE);
    }
    double was = mean(both[0]);
    double shift = shift(both[0], both[1]).orElseThrow();
    double apart = apart(both[0], both[1]);
    double usual = usual(weeks);
    return new Comparison(
        was, mean(both[1]), shift, apart, usual, verdict(was, shift, apart, usual, matters));
  }

  private static Verdict verdict(
      double was, double shift, double apart, double usual, double matters) {
    double size = Math.abs(shift);
    if (size <= Math.max(matters, LEAST_SHARE * Math.abs(was)) || Math.abs(apart) < APART) {
      return Verdict.SAME;
    }
    double anyway = Double.isNaN(usual) ? matters : Math.max(usual, matters);
    if (size <= anyway) {
      return Verdict.WITHIN;
    }
    return size > FAR * anyway ? Verdict.FAR_BEYOND : Verdict.BEYOND;
  }

  /**
   * How large the change is: in what it changes anyway, or what matters.
   *
   * @param matters as for {@link #of}
   */
  public double size(double matters) {
    double least = Math.max(matters, LEAST_SHARE * Math.abs(before));
    return Math.abs(shift) / Math.max(Double.isNaN(usual) ? 0 : usual, least);
  }

  private static double usual(List<double[]> weeks) {
    double most = Double.NaN;
    for (int i = 0; i + 1 < weeks.size(); i++) {
      double[][] both = both(weeks.get(i + 1), weeks.get(i));
      if (both[0].length >= LEAST_STEPS) {
        double size = Math.abs(shift(both[0], both[1]).orElseThrow());
        most = Double.isNaN(most) ? size : Math.max(most, size);
      }
    }
    return most;
  }

  /** The steps that both have. */
  private static double[][] both(double[] before, double[] after) {
    int n = Math.min(before.length, after.length);
    double[] a = new double[n];
    double[] b = new double[n];
    int k = 0;
    for (int i = 0; i < n; i++) {
      if (!Double.isNaN(before[i]) && !Double.isNaN(after[i])) {
        a[k] = before[i];
        b[k++] = after[i];
      }
    }
    return new double[][] {Arrays.copyOf(a, k), Arrays.copyOf(b, k)};
  }

  /**
   * The middle of the means of any two of the differences, each with itself among them: it takes
   * more than a quarter of the steps to move it.
   */
  static OptionalDouble shift(double[] before, double[] after) {
    int n = before.length;
    if (n == 0) {
      return OptionalDouble.empty();
    }
    double[] means = new double[n * (n + 1) / 2];
    int k = 0;
    for (int i = 0; i < n; i++) {
      for (int j = i; j < n; j++) {
        means[k++] = (after[i] - before[i] + after[j] - before[j]) / 2;
      }
    }
    Arrays.sort(means);
    int half = means.length / 2;
    return OptionalDouble.of(
        means.length % 2 == 1 ? means[half] : (means[half - 1] + means[half]) / 2);
  }

  /** How much more often a value after is higher than one before than lower. */
  static double apart(double[] before, double[] after) {
    double[] a = before.clone();
    Arrays.sort(a);
    long higher = 0;
    long lower = 0;
    for (double value : after) {
      higher += below(a, value, false);
      lower += a.length - below(a, value, true);
    }
    return (double) (higher - lower) / ((long) a.length * after.length);
  }

  /** How many of sorted values are below one, or at it. */
  private static int below(double[] sorted, double value, boolean orAt) {
    int low = 0;
    int high = sorted.length;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (sorted[middle] < value || orAt && sorted[middle] == value) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low;
  }

  private static double mean(double[] values) {
    return Arrays.stream(values).filter(v -> !Double.isNaN(v)).average().orElse(Double.NaN);
  }
}
