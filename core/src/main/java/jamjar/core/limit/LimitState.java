package jamjar.core.limit;

import java.util.Arrays;
import java.util.Objects;

/**
 * The state of one series under one limit; immutable. Nearly all are calm at nearly all times, and
 * then only the edge last judged changes.
 *
 * @param standing where it stands
 * @param judged the edge last judged, epoch ms
 */
public record LimitState(Standing standing, long judged) {

  /** Calm, and nothing of the past that matters. */
  public static LimitState calm(long judged) {
    return new LimitState(Standing.CALM, judged);
  }

  static LimitState calm(long judged, long[] entries) {
    return new LimitState(entries.length == 0 ? Standing.CALM : Standing.calm(entries), judged);
  }

  /** Whether nothing need be kept of it: a calm one can be made anew. */
  public boolean idle() {
    return standing.equals(Standing.CALM);
  }

  /**
   * The same where nothing up to a time is judged any more.
   *
   * @param at epoch ms; edges after it are judged
   */
  public LimitState judgedUpTo(long at) {
    return new LimitState(standing, at);
  }

  /**
   * The same after judgings that left it as it is, but for its worst value.
   *
   * @param edge of the last of them
   */
  LimitState stayed(long edge, double worst, double worstBadness) {
    return new LimitState(
        new Standing(
            standing.state(),
            standing.beneath(),
            standing.severity(),
            standing.warningPasses(),
            standing.criticalPasses(),
            standing.since(),
            worst,
            worstBadness,
            standing.clearedMillis(),
            standing.missing(),
            standing.entries(),
            standing.flapping(),
            standing.first()),
        edge);
  }

  public AlertState state() {
    return standing.state();
  }

  public boolean open() {
    return standing.state().open();
  }

  /** The first judging that passed, epoch ms; 0 when calm. */
  public long since() {
    return standing.since();
  }

  /** The worst value since then; NaN when calm. */
  public double worst() {
    return standing.worst();
  }

  public boolean flapping() {
    return standing.flapping();
  }

  /**
   * @param state what it is in
   * @param beneath what it was in when it became not measured; else the same as state
   * @param severity of the open alert, kept while settling; none when no alert is open
   * @param warningPasses the last judgings that had a value, newest in bit 0: which passed warning
   * @param criticalPasses the same for critical
   * @param since the first judging that passed, epoch ms; 0 when calm
   * @param worst the worst value since then; NaN when calm
   * @param worstBadness the same on the scale on which more is worse
   * @param clearedMillis how long it has been beyond clear; −1 when it is not
   * @param missing how many judgings in a row had nothing
   * @param entries the last entries into warning or critical within an hour, epoch ms
   * @param flapping whether there were more than three of them while this alert was open
   * @param first the transition into building, as long as no alert has risen from it; else null
   */
  public record Standing(
      AlertState state,
      AlertState beneath,
      Severity severity,
      long warningPasses,
      long criticalPasses,
      long since,
      double worst,
      double worstBadness,
      long clearedMillis,
      int missing,
      long[] entries,
      boolean flapping,
      Transition first) {
    static final Standing CALM = calm(new long[0]);

    static Standing calm(long[] entries) {
      return new Standing(
          AlertState.CALM,
          AlertState.CALM,
          Severity.NONE,
          0,
          0,
          0,
          Double.NaN,
          Double.NEGATIVE_INFINITY,
          -1,
          0,
          entries,
          false,
          null);
    }

    @Override
    public boolean equals(Object o) {
      return o instanceof Standing other
          && state == other.state
          && beneath == other.beneath
          && severity == other.severity
          && warningPasses == other.warningPasses
          && criticalPasses == other.criticalPasses
          && since == other.since
          && Double.compare(worst, other.worst) == 0
          && clearedMillis == other.clearedMillis
          && missing == other.missing
          && Arrays.equals(entries, other.entries)
          && flapping == other.flapping
          && Objects.equals(first, other.first);
    }

    @Override
    public int hashCode() {
      return Objects.hash(state, severity, warningPasses, criticalPasses, since);
    }
  }
}
