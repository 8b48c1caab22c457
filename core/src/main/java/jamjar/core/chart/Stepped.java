package jamjar.core.chart;

import java.util.List;

/**
 * A series over a window: whole days in steps, and as it was read where there are none.
 *
 * @param parts the series, or the parts of a quotient, the one above the line first: of each the
 *     same days in steps of the same width, in order of time
 * @param rest the stretches between and after them, in order of time
 */
public record Stepped(List<List<Steps>> parts, List<Stretch> rest) {

  /**
   * @param from epoch ms
   * @param to epoch ms
   * @param samples the readings, with one more on either side where there is one
   */
  public record Stretch(long from, long to, Samples samples) {}

  /** As it was read all the time. */
  public static Stepped of(Samples samples) {
    return new Stepped(List.of(), List.of(new Stretch(Long.MIN_VALUE, Long.MAX_VALUE, samples)));
  }
}
