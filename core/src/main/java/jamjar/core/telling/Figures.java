package jamjar.core.telling;

import jamjar.core.limit.Transition;

/**
 * The numbers of an alert as they were last judged; NaN for none.
 *
 * @param number of the limit that mattered
 * @param since the first judging that passed, epoch ms
 */
public record Figures(
    double value, double normalLow, double normalHigh, double number, double distance, long since) {

  public static Figures of(Transition transition, long since) {
    return new Figures(
        transition.value(),
        transition.normal().p05(),
        transition.normal().p95(),
        transition.number(),
        transition.distance(),
        since);
  }
}
