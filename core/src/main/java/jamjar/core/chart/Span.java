package jamjar.core.chart;

/**
 * One reading, or one step, of what is to be charted.
 *
 * @param at when it was read, epoch ms; of a step its start
 * @param from start of what it covers, epoch ms: for a level the same as at, for increases at −
 *     elapsed
 * @param to end of what it covers, epoch ms: for a level until the next reading, for increases the
 *     same as at
 * @param numerator area of the value over what it covers (value × s, or increase); NaN where there
 *     is none
 * @param denominator what the area is divided by (s, or the sum below the line of a quotient); NaN
 *     where there is none
 * @param covered ms of it that readings cover
 * @param least the least value in it, as kept; NaN where it is the value itself
 * @param greatest as least
 */
record Span(
    long at,
    long from,
    long to,
    double numerator,
    double denominator,
    double covered,
    double least,
    double greatest) {

  /** A reading. */
  Span(long at, long from, long to, double numerator, double denominator) {
    this(at, from, to, numerator, denominator, to - from, Double.NaN, Double.NaN);
  }

  boolean empty() {
    return Double.isNaN(numerator) || Double.isNaN(denominator);
  }

  /** What of it lies between two times, which touch it; cut evenly. */
  Span within(long begin, long end) {
    if (begin <= from && end >= to) {
      return this;
    }
    long first = Math.max(from, begin);
    long last = Math.min(to, end);
    double share = (last - first) / (double) (to - from);
    return new Span(
        at, first, last, numerator * share, denominator * share, covered * share, least, greatest);
  }
}
