package jamjar.core.chart;

import java.util.Arrays;
import java.util.List;

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

  /** Steps of which the least and the greatest are not known. */
  public static Steps ofMeans(
      long from, long width, double[] covered, double[] amount, double[] beside) {
    double[] none = new double[covered.length];
    Arrays.fill(none, Double.NaN);
    return new Steps(from, width, covered, amount, beside, none, none);
  }

  public int size() {
    return covered.length;
  }

  /** When the last step ends, epoch ms. */
  public long to() {
    return from + width * size();
  }

  /** Whether nothing is known of any of them. */
  public boolean empty() {
    for (int i = 0; i < covered.length; i++) {
      if (covered[i] != 0 || beside[i] != 0) {
        return false;
      }
    }
    return true;
  }

  /**
   * Some of them.
   *
   * @param begin epoch ms, where a step begins, as is the end
   */
  public Steps within(long begin, long end) {
    int first = (int) ((begin - from) / width);
    int last = (int) ((end - from) / width);
    return new Steps(
        begin,
        width,
        Arrays.copyOfRange(covered, first, last),
        Arrays.copyOfRange(amount, first, last),
        Arrays.copyOfRange(beside, first, last),
        Arrays.copyOfRange(least, first, last),
        Arrays.copyOfRange(greatest, first, last));
  }

  /**
   * Steps of one width in a longer row of them; nothing where there are none.
   *
   * @param parts of two that overlap the later one counts
   * @param from where the row begins, epoch ms
   * @param to where it ends
   */
  public static Steps together(List<Steps> parts, long from, long to) {
    long width = parts.get(0).width();
    Steps all = empty(from, width, (int) ((to - from) / width));
    Arrays.fill(all.amount, Double.NaN);
    for (Steps part : parts) {
      int at = (int) ((part.from() - from) / width);
      int n = part.size();
      System.arraycopy(part.covered, 0, all.covered, at, n);
      System.arraycopy(part.amount, 0, all.amount, at, n);
      System.arraycopy(part.beside, 0, all.beside, at, n);
      System.arraycopy(part.least, 0, all.least, at, n);
      System.arraycopy(part.greatest, 0, all.greatest, at, n);
    }
    return all;
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
