package jamjar.core.statement;

import java.util.Arrays;
import java.util.function.Predicate;

/**
 * What some statements did over time, in steps of one length. A step that nothing was counted in
 * has no value.
 */
public final class StatementPast {
  private final long from;
  private final long stepMs;
  private final Predicate<StatementKey> of;
  private final long[] elapsedMs;
  private final StatementCounts[] counts;

  /**
   * @param from begin of the first step, epoch ms
   * @param stepMs length of a step, ms
   * @param of which statements count
   */
  public StatementPast(long from, long stepMs, int steps, Predicate<StatementKey> of) {
    this.from = from;
    this.stepMs = stepMs;
    this.of = of;
    this.elapsedMs = new long[steps];
    this.counts = new StatementCounts[steps];
    Arrays.fill(counts, StatementCounts.NONE);
  }

  /** What was counted belongs to the step in which it ends; of another time it counts nowhere. */
  public void add(Counted counted) {
    // an end on an edge is of the step before it
    long step = Math.floorDiv(counted.at().toEpochMilli() - 1 - from, stepMs);
    if (step < 0 || step >= counts.length) {
      return;
    }
    int i = (int) step;
    elapsedMs[i] += counted.elapsedMs();
    counted
        .statements()
        .forEach(
            (key, theirs) -> {
              if (of.test(key)) {
                counts[i] = counts[i].plus(theirs);
              }
            });
  }

  /** Begin of each step, epoch ms. */
  public long[] at() {
    long[] at = new long[counts.length];
    Arrays.setAll(at, i -> from + i * stepMs);
    return at;
  }

  /** Calls per second. */
  public double[] calls() {
    double[] calls = new double[counts.length];
    Arrays.setAll(
        calls, i -> elapsedMs[i] == 0 ? Double.NaN : 1000.0 * counts[i].calls() / elapsedMs[i]);
    return calls;
  }

  /** Seconds per call; no value where there is none. */
  public double[] mean() {
    double[] mean = new double[counts.length];
    Arrays.setAll(
        mean,
        i -> counts[i].calls() == 0 ? Double.NaN : counts[i].timeUs() / 1e6 / counts[i].calls());
    return mean;
  }
}
