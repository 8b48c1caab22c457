package jamjar.core.value;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;

/**
 * What one value is, for charting, judging and watching alike: how it is made of what was read, and
 * how long it holds.
 */
public final class Value {
  /** The shortest step that is judged, ms: "too few" is told of such a step, not of a reading. */
  public static final long LEAST_STEP = 10_000;

  private static final double LONGEST_HOLD = 1.5;
  private static final double LONGEST_ELAPSED = 2.5;

  private Value() {}

  /**
   * The value as shown: a level, an increase per second or a quotient; NaN where there is none.
   * Several readings are added up above and below the line before they are divided.
   *
   * @param above the levels, the increases, or what stands above the line of a quotient
   * @param below their number, the seconds that they cover, or what stands below the line
   */
  public static double shown(CounterDefinition counter, double above, double below) {
    return tooFew(counter, below) ? Double.NaN : above / below * counter.factor();
  }

  /** Whether a quotient's denominator is 0 or under its least. */
  public static boolean tooFew(CounterDefinition counter, double below) {
    return counter.shape() == Shape.QUOTIENT && !(below > 0 && below >= counter.least());
  }

  /**
   * Whether an increase over this time is drawn and judged, or enters sums only: at most 2.5
   * intervals. Both in ms.
   */
  public static boolean covers(long elapsed, long interval) {
    return elapsed <= longest(interval);
  }

  /** The longest that two readings may lie apart without a gap between them, ms. */
  public static long longest(long interval) {
    return Math.round(interval * LONGEST_ELAPSED);
  }

  /** How long a level holds at most when no other follows, ms: 1.5 intervals. */
  public static long holds(long interval) {
    return Math.round(interval * LONGEST_HOLD);
  }
}
