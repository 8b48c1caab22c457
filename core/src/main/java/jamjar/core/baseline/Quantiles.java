package jamjar.core.baseline;

import java.util.Arrays;

/**
 * Weighted quantiles. Values are sorted, of equal ones the larger weight first, and never merged;
 * each sits at (cumulative weight − w/2) / total; between two the quantile is linear, beyond the
 * ends flat.
 */
public final class Quantiles {
  /** A product that is rounded may lie a little above what it is held against. */
  private static final double NEARLY = 1 - 1e-12;

  private Quantiles() {}

  /**
   * @param groups values by weight; sorted in place; no NaN
   * @param weights the weight of each value of the group at the same place, positive
   * @param fractions the quantiles wanted, rising, 0 … 1
   * @return one value per fraction; NaN where there are no values
   */
  public static double[] of(double[][] groups, double[] weights, double... fractions) {
    for (double[] group : groups) {
      Arrays.sort(group);
    }
    return ofSorted(groups, weights, fractions);
  }

  /**
   * A quantile of few values of one weight: the ends are the least and the greatest, and it is
   * linear between two.
   *
   * @param sorted at least one
   * @param fraction 0 … 1
   */
  public static double linear(double[] sorted, double fraction) {
    double place = fraction * (sorted.length - 1);
    int below = (int) place;
    int above = Math.min(below + 1, sorted.length - 1);
    return sorted[below] + (place - below) * (sorted[above] - sorted[below]);
  }

  /** As {@link #of}, of groups that are sorted. */
  static double[] ofSorted(double[][] groups, double[] weights, double... fractions) {
    int count = 0;
    double total = 0;
    for (int g = 0; g < groups.length; g++) {
      count += groups[g].length;
      total += groups[g].length * weights[g];
    }
    double[] found = new double[fractions.length];
    Arrays.fill(found, Double.NaN);
    if (count == 0) {
      return found;
    }
    Heads heads = new Heads(groups, weights);
    double cumulative = 0;
    double before = Double.NaN;
    double middleBefore = Double.NaN;
    int wanted = 0;
    double near = fractions.length == 0 ? Double.NaN : fractions[0] * total * NEARLY;
    for (int i = 0; i < count && wanted < fractions.length; i++) {
      heads.take();
      double value = heads.value;
      double middle = cumulative + heads.weight / 2;
      cumulative += heads.weight;
      // to divide is what costs most here: only where one may lie
      if (middle >= near) {
        double place = middle / total;
        double placeBefore = middleBefore / total;
        while (wanted < fractions.length && fractions[wanted] <= place) {
          double fraction = fractions[wanted];
          found[wanted++] =
              i == 0
                  ? value
                  : before + (value - before) * (fraction - placeBefore) / (place - placeBefore);
        }
        near = wanted == fractions.length ? Double.NaN : fractions[wanted] * total * NEARLY;
      }
      before = value;
      middleBefore = middle;
    }
    Arrays.fill(found, wanted, fractions.length, before);
    return found;
  }

  /** The least value that is left of each group; those that are empty are dropped. */
  private static final class Heads {
    private final double[][] rest;
    private final int[] next;
    private final double[] head;
    private final double[] weights;
    private int left;
    private double value;
    private double weight;

    Heads(double[][] groups, double[] weights) {
      rest = new double[groups.length][];
      next = new int[groups.length];
      head = new double[groups.length];
      this.weights = new double[groups.length];
      for (int g = 0; g < groups.length; g++) {
        if (groups[g].length > 0) {
          rest[left] = groups[g];
          head[left] = groups[g][0];
          this.weights[left++] = weights[g];
        }
      }
    }

    /** Takes the least of all, of equal ones that of the larger weight. */
    void take() {
      int best = 0;
      double least = head[0];
      for (int g = 1; g < left; g++) {
        if (head[g] < least || (head[g] == least && weights[g] > weights[best])) {
          best = g;
          least = head[g];
        }
      }
      value = least;
      weight = weights[best];
      int at = ++next[best];
      if (at < rest[best].length) {
        head[best] = rest[best][at];
      } else {
        left--;
        rest[best] = rest[left];
        next[best] = next[left];
        head[best] = head[left];
        weights[best] = weights[left];
      }
    }
  }
}
