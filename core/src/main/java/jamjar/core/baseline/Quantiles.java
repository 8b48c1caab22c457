package jamjar.core.baseline;

import java.util.Arrays;

/**
 * Weighted quantiles. Values are sorted, of equal ones the larger weight first, and never merged;
 * each sits at (cumulative weight − w/2) / total; between two the quantile is linear, beyond the
 * ends flat.
 */
public final class Quantiles {

  private Quantiles() {}

  /**
   * @param groups values by weight; sorted in place; no NaN
   * @param weights the weight of each value of the group at the same place, positive
   * @param fractions the quantiles wanted, rising, 0 … 1
   * @return one value per fraction; NaN where there are no values
   */
  public static double[] of(double[][] groups, double[] weights, double... fractions) {
    int count = 0;
    double total = 0;
    for (int g = 0; g < groups.length; g++) {
      Arrays.sort(groups[g]);
      count += groups[g].length;
      total += groups[g].length * weights[g];
    }
    double[] found = new double[fractions.length];
    Arrays.fill(found, Double.NaN);
    if (count == 0) {
      return found;
    }
    int[] next = new int[groups.length];
    double cumulative = 0;
    double before = Double.NaN;
    double placeBefore = Double.NaN;
    int wanted = 0;
    for (int i = 0; i < count && wanted < fractions.length; i++) {
      int g = least(groups, weights, next);
      double value = groups[g][next[g]++];
      double place = (cumulative + weights[g] / 2) / total;
      cumulative += weights[g];
      while (wanted < fractions.length && fractions[wanted] <= place) {
        double fraction = fractions[wanted];
        found[wanted++] =
            i == 0
                ? value
                : before + (value - before) * (fraction - placeBefore) / (place - placeBefore);
      }
      before = value;
      placeBefore = place;
    }
    Arrays.fill(found, wanted, fractions.length, before);
    return found;
  }

  private static int least(double[][] groups, double[] weights, int[] next) {
    int best = -1;
    for (int g = 0; g < groups.length; g++) {
      if (next[g] == groups[g].length) {
        continue;
      }
      if (best < 0) {
        best = g;
        continue;
      }
      double value = groups[g][next[g]];
      double leading = groups[best][next[best]];
      if (value < leading || (value == leading && weights[g] > weights[best])) {
        best = g;
      }
    }
    return best;
  }
}
