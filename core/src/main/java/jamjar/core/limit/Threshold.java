package jamjar.core.limit;

/**
 * One severity of a limit: passed when m of the last n judgings that had a value were at or beyond
 * the number; cleared at or beyond the clear number on the good side.
 *
 * @param number in the unit of the counter as shown; for outside normal in spreads, for silent and
 *     unreachable in intervals; NaN when the limit has no such severity
 * @param clear in the same unit
 * @param m 1 … n
 * @param n at most 60
 */
public record Threshold(double number, double clear, int m, int n) {
  public static final int MOST = 60;
  public static final Threshold NONE = new Threshold(Double.NaN, Double.NaN, 1, 1);

  public Threshold {
    if (m < 1 || n < m || n > MOST) {
      throw new IllegalArgumentException(
          "a hold is m of n judgings with 1 ≤ m ≤ n ≤ " + MOST + ", not " + m + " of " + n);
    }
  }

  public boolean present() {
    return !Double.isNaN(number);
  }
}
