package jamjar.core.limit;

import jamjar.core.baseline.Normal;

/**
 * One change of state, with what was seen then.
 *
 * @param at when the last reading before the judging was taken, epoch ms
 * @param arrived when it arrived, epoch ms
 * @param value NaN where there was none
 * @param number the number of the limit that mattered: passed when it got worse, cleared when it
 *     got better; NaN where none did
 */
public record Transition(
    long at,
    long arrived,
    AlertState from,
    AlertState to,
    double value,
    Normal normal,
    double number,
    double distance) {

  /** The same with what was normal. */
  Transition with(Normal then) {
    return new Transition(at, arrived, from, to, value, then, number, distance);
  }
}
