package jamjar.core.baseline;

import java.util.Arrays;

/**
 * Weeks that teach nothing of a quarter-hour, though nobody marked them: one in which it was wholly
 * otherwise than in the others, until two in a row agree.
 */
final class BadWeeks {
  /** So many weeks must have been seen to tell one of them from the others. */
  private static final int LEAST_WEEKS = 3;

  /** So many median absolute deviations from the others. */
  private static final double FAR = 4;

  /** Two agree that differ by no more than this part of how far they are from the others. */
  private static final double AGREE = 0.5;

  private BadWeeks() {}

  /**
   * @param medians of each week, in order of time, the median of its steps in the quarter-hour
   * @param matters the smallest difference that matters to a person
   * @return of each week whether it is left out
   */
  static boolean[] of(double[] medians, double matters) {
    int n = medians.length;
    boolean[] bad = new boolean[n];
    if (n < LEAST_WEEKS) {
      return bad;
    }
    double[] off = new double[n];
    double[] allowed = new double[n];
    for (int i = 0; i < n; i++) {
      double[] others = without(medians, i);
      double middle = median(others);
      double[] deviations = new double[others.length];
      for (int k = 0; k < deviations.length; k++) {
        deviations[k] = Math.abs(others[k] - middle);
      }
      off[i] = medians[i] - middle;
      allowed[i] = Math.max(FAR * median(deviations), matters);
      bad[i] = Math.abs(off[i]) > allowed[i];
    }
    boolean[] agree = new boolean[n];
    for (int i = 0; i + 1 < n; i++) {
      double apart = Math.abs(medians[i] - medians[i + 1]);
      double away = Math.min(Math.abs(off[i]), Math.abs(off[i + 1]));
      double near = Math.max(AGREE * away, Math.max(allowed[i], allowed[i + 1]));
      if (bad[i] && bad[i + 1] && apart <= near) {
        agree[i] = true;
        agree[i + 1] = true;
      }
    }
    for (int i = 0; i < n; i++) {
      bad[i] &= !agree[i];
    }
    return bad;
  }

  private static double[] without(double[] values, int i) {
    double[] others = new double[values.length - 1];
    System.arraycopy(values, 0, others, 0, i);
    System.arraycopy(values, i + 1, others, i, others.length - i);
    return others;
  }

  /**
   * The middle of some values, which are sorted in place; of an even number the mean of the two.
   */
  static double median(double[] values) {
    return median(values, 0, values.length);
  }

  /** As above, of those from one place to before another. */
  static double median(double[] values, int from, int to) {
    Arrays.sort(values, from, to);
    int half = (from + to) / 2;
    return (to - from) % 2 == 1 ? values[half] : (values[half - 1] + values[half]) / 2;
  }
}
