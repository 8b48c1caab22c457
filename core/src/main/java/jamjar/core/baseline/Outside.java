package jamjar.core.baseline;

import java.util.function.LongFunction;

/**
 * How often a series lay outside of its band, p05 to p95, minute by minute. Of one that scatters as
 * it was learned one minute in ten does.
 *
 * @param minutes that had a value and a normal
 * @param outside how many of them lay outside
 * @param longestFrom begin of the longest stay outside, epoch ms; 0 for none
 * @param longestTo its end
 */
public record Outside(int minutes, int outside, long longestFrom, long longestTo) {

  /**
   * @param from start of the first minute, epoch ms
   * @param values the mean of each minute; NaN for none, which ends a stay
   * @param normal what is normal at a moment
   */
  public static Outside of(long from, double[] values, LongFunction<Normal> normal) {
    int minutes = 0;
    int outside = 0;
    int stay = 0;
    int longest = 0;
    int longestEnd = 0;
    for (int i = 0; i < values.length; i++) {
      Normal here =
          Double.isNaN(values[i]) ? Normal.NONE : normal.apply(from + i * Timeline.MINUTE);
      boolean known = here.known();
      boolean out = known && (values[i] < here.p05() || values[i] > here.p95());
      minutes += known ? 1 : 0;
      outside += out ? 1 : 0;
      stay = out ? stay + 1 : 0;
      if (stay > longest) {
        longest = stay;
        longestEnd = i + 1;
      }
    }
    return new Outside(
        minutes,
        outside,
        longest == 0 ? 0 : from + (longestEnd - longest) * Timeline.MINUTE,
        longest == 0 ? 0 : from + longestEnd * Timeline.MINUTE);
  }
}
