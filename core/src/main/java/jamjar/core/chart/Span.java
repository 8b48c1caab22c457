package jamjar.core.chart;

/**
 * One reading of what is to be charted.
 *
 * @param at when it was read, epoch ms
 * @param from start of what it covers, epoch ms: for a level the same as at, for increases at −
 *     elapsed
 * @param to end of what it covers, epoch ms: for a level until the next reading, for increases the
 *     same as at
 * @param numerator area of the value over what it covers (value × s, or increase); NaN where there
 *     is none
 * @param denominator what the area is divided by (s, or the sum below the line of a quotient); NaN
 *     where there is none
 */
record Span(long at, long from, long to, double numerator, double denominator) {
  boolean empty() {
    return Double.isNaN(numerator) || Double.isNaN(denominator);
  }
}
