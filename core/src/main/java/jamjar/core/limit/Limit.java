package jamjar.core.limit;

import jamjar.core.counter.Worse;
import java.time.ZoneId;
import java.time.ZoneOffset;

/**
 * What is in force for one series: the numbers, holds and clear conditions of its warning and
 * critical.
 *
 * @param worse the direction in which the counter gets worse; tells which side counts for outside
 *     normal
 * @param clearMillis how long it must stay beyond clear before it is calm
 * @param stepMillis from one judging to the next
 * @param against what it is held against beside its numbers: the minute of the local day at which
 *     it is due, or the value that will be reached; NaN for none
 * @param zone the zone of the local day
 */
public record Limit(
    Condition condition,
    Worse worse,
    Threshold warning,
    Threshold critical,
    long clearMillis,
    long stepMillis,
    double against,
    ZoneId zone) {

  /** One that needs nothing beside its numbers. */
  public Limit(
      Condition condition,
      Worse worse,
      Threshold warning,
      Threshold critical,
      long clearMillis,
      long stepMillis) {
    this(condition, worse, warning, critical, clearMillis, stepMillis, Double.NaN, ZoneOffset.UTC);
  }

  public Limit {
    if (!warning.present() && !critical.present()) {
      throw new IllegalArgumentException("a limit has a warning or a critical number");
    }
    if (condition.needsAgainst() && Double.isNaN(against)) {
      throw new IllegalArgumentException("when is it due, or what will be reached?");
    }
  }

  /** The threshold that is passed first: an alert is calm only when this one has cleared. */
  public Threshold lowest() {
    return warning.present() ? warning : critical;
  }

  /** By when it is to have happened each day; only of what may be overdue. */
  Due due() {
    return new Due((int) against, zone);
  }

  /** A number or value on a scale on which more is always worse; not for outside normal. */
  public double badness(double number) {
    return condition.downwards() ? -number : number;
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
