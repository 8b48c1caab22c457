package jamjar.core.limit;

import jamjar.core.baseline.Normal;

/**
 * What is held against a limit at one edge of its grid.
 *
 * @param edge the edge of the UTC grid, epoch ms
 * @param at when the last reading before the edge was taken, epoch ms; the edge when there was none
 * @param arrived when that reading arrived, epoch ms; when it was given up on when there was none
 * @param outcome whether there is a value
 * @param value the mean of the readings since the edge before, in the unit as shown
 * @param normal what is normal at that time
 * @param distance in spreads from the middle of the normal; NaN when that is not known
 * @param covers how many judgings it stands for: more than 1 for a stored step that is longer than
 *     one
 */
public record Judging(
    long edge,
    long at,
    long arrived,
    Outcome outcome,
    double value,
    Normal normal,
    double distance,
    int covers) {

  /** Whether there is something to judge. */
  public enum Outcome {
    VALUE,
    /** Too few for a quotient, or a normal that is not learned yet: counts for nothing. */
    TOO_FEW,
    /** No reading came in time. */
    MISSING
  }

  public static Judging value(long edge, double value) {
    return new Judging(edge, edge, edge, Outcome.VALUE, value, Normal.NONE, Double.NaN, 1);
  }

  public static Judging missing(long edge, long arrived) {
    return new Judging(
        edge, edge, arrived, Outcome.MISSING, Double.NaN, Normal.NONE, Double.NaN, 1);
  }

  public static Judging tooFew(long edge, long at, long arrived) {
    return new Judging(edge, at, arrived, Outcome.TOO_FEW, Double.NaN, Normal.NONE, Double.NaN, 1);
  }
}
