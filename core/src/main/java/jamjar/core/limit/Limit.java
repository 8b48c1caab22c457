package jamjar.core.limit;

import jamjar.core.counter.Worse;

/**
 * What is in force for one series: the numbers, holds and clear conditions of its warning and
 * critical.
 *
 * @param worse the direction in which the counter gets worse; tells which side counts for outside
 *     normal
 * @param clearMillis how long it must stay beyond clear before it is calm
 * @param stepMillis from one judging to the next
 */
public record Limit(
    Condition condition,
    Worse worse,
    Threshold warning,
    Threshold critical,
    long clearMillis,
    long stepMillis) {

  public Limit {
    if (!warning.present() && !critical.present()) {
      throw new IllegalArgumentException("a limit has a warning or a critical number");
    }
  }

  /** The threshold that is passed first: an alert is calm only when this one has cleared. */
  public Threshold lowest() {
    return warning.present() ? warning : critical;
  }

  /** A number or value on a scale on which more is always worse; not for outside normal. */
  public double badness(double number) {
    return condition == Condition.BELOW ? -number : number;
  }

  /**
   * What is held against the numbers, on a scale on which more is always worse: the value itself,
   * or for outside normal its distance in the worse direction.
   */
  double badness(Judging judging) {
    if (condition != Condition.OUTSIDE) {
      return badness(judging.value());
    }
    return switch (worse) {
      case UP -> judging.distance();
      case DOWN -> -judging.distance();
      case BOTH -> Math.abs(judging.distance());
    };
  }
}
