package jamjar.core.pool;

import jamjar.core.baseline.Departing;
import jamjar.core.baseline.Normal;

/**
 * Whether the connections that are lent out are those that the work explains. By Little's law as
 * many are in use, on average, as are handed out in a second times the seconds that each is held.
 *
 * @param expected how many that is; NaN where nothing is said
 * @param notBack how many more are in use: those do not come back; 0 where it agrees
 */
public record PoolCheck(Verdict verdict, double expected, double notBack) {

  /** What can be said. */
  public enum Verdict {
    /** It agrees, and each is held as long as usual. */
    AGREES,
    /** It agrees, and each is held longer than usual: what it is lent for is slow. */
    HELD_LONGER,
    /** More are in use than the work explains. */
    NOT_COMING_BACK,
    /** Fewer are in use: the counts of the pool do not fit each other. */
    DOES_NOT_FIT,
    /** Under five minutes, or under thirty that were handed out. */
    TOO_LITTLE,
    /** The pool does not tell for how long they are held. */
    NOT_TOLD
  }

  /** So much is scatter. */
  private static final double AGREE = 0.15;

  private static final double LEAST_SECONDS = 300;
  private static final double LEAST_ARRIVALS = 30;

  /**
   * Checks.
   *
   * @param seconds how long it was looked at
   * @param inUse mean of the connections lent out
   * @param perSecond handed out in a second
   * @param hold for how long each was held, s, counted when it is given back; NaN where that is not
   *     told
   * @param normalHold what is normal for that
   * @param matters the smallest difference of the hold time that matters, s
   */
  public static PoolCheck of(
      double seconds,
      double inUse,
      double perSecond,
      double hold,
      Normal normalHold,
      double matters) {
    if (Double.isNaN(inUse)
        || Double.isNaN(perSecond)
        || seconds < LEAST_SECONDS
        || perSecond * seconds < LEAST_ARRIVALS) {
      return new PoolCheck(Verdict.TOO_LITTLE, Double.NaN, 0);
    }
    if (Double.isNaN(hold)) {
      return new PoolCheck(Verdict.NOT_TOLD, Double.NaN, 0);
    }
    double expected = perSecond * hold;
    double more = inUse - expected;
    // less than one connection is none
    if (Math.abs(more) > Math.max(1, AGREE * Math.max(inUse, expected))) {
      return more > 0
          ? new PoolCheck(Verdict.NOT_COMING_BACK, expected, more)
          : new PoolCheck(Verdict.DOES_NOT_FIT, expected, 0);
    }
    boolean longer = normalHold.known() && normalHold.distance(hold, matters, 0) >= Departing.FAR;
    return new PoolCheck(longer ? Verdict.HELD_LONGER : Verdict.AGREES, expected, 0);
  }
}
