package jamjar.core.baseline;

import java.util.Optional;
import java.util.function.LongFunction;

/**
 * Whether a series has left its normal, minute by minute: as the mean of a minute, as normal was
 * learned from such, and not before it lasts as long as a shipped hold. Not safe for several
 * threads.
 */
public final class Departing {
  /**
   * So many spreads from the middle is outside: of a series that scatters as it was learned about
   * one minute in ten thousand is.
   */
  public static final double FAR = 4;

  /** So many minutes in a row, of those that have a value. */
  static final int HOLD = 3;

  /** After a longer time without a value it begins anew, ms; slow series by their own interval. */
  private static final long GAP = 3 * Timeline.MINUTE;

  private static final double MISSED_INTERVALS = 2.5;

  /**
   * How far it is outside and for how long.
   *
   * @param distance in spreads, of the last whole minute; positive above its normal
   * @param since epoch ms, the begin of the first minute outside
   */
  public record Departure(double distance, long since) {}

  /** So long after a start nothing is as usual, ms. */
  private static final long SETTLES = 5 * Timeline.MINUTE;

  private final double matters;
  private final double resolution;
  private final long gap;
  private long minute;
  private double sum;
  private int n;
  private int held;
  private long since;
  private double distance;

  /**
   * One series.
   *
   * @param matters smallest difference that matters, in the unit as shown
   * @param resolution step to which its values are rounded; 0 for none
   * @param intervalMillis between two of its readings
   */
  public Departing(double matters, double resolution, long intervalMillis) {
    this.matters = matters;
    this.resolution = resolution;
    this.gap = Math.max(GAP, (long) (MISSED_INTERVALS * intervalMillis));
  }

  /**
   * Whether what was started is to be held against its normal again: not for five minutes. Its
   * clock may be a little ahead of ours.
   *
   * @param started epoch ms; 0 where it is not known
   */
  public static boolean settled(long started, long at) {
    return Math.abs(at - started) >= SETTLES;
  }

  /**
   * Takes a value; the minute before is closed by the first one of a later minute.
   *
   * @param at epoch ms, later than the one before; an earlier one begins anew
   * @param value in the unit as shown; NaN for none
   * @param normal what is normal at a moment
   */
  public void read(long at, double value, LongFunction<Normal> normal) {
    if (Double.isNaN(value)) {
      return;
    }
    long now = Math.floorDiv(at, Timeline.MINUTE);
    if (n > 0 && now != minute) {
      close(normal.apply(minute * Timeline.MINUTE));
      if (now < minute || (now - minute) * Timeline.MINUTE > gap) {
        held = 0;
      }
      sum = 0;
      n = 0;
    }
    minute = now;
    sum += value;
    n++;
  }

  private void close(Normal normal) {
    double before = distance;
    distance = normal.known() ? normal.distance(sum / n, matters, resolution) : 0;
    if (Math.abs(distance) < FAR) {
      held = 0;
    } else if (held > 0 && Math.signum(before) == Math.signum(distance)) {
      held++;
    } else {
      held = 1;
      since = minute * Timeline.MINUTE;
    }
  }

  /** Empty while it is within its normal, or outside of it for too short a time. */
  public Optional<Departure> departure() {
    return held < HOLD ? Optional.empty() : Optional.of(new Departure(distance, since));
  }
}
