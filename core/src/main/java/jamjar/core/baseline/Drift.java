package jamjar.core.baseline;

import java.util.stream.IntStream;

/** How far a baseline has moved from one that was kept: slowly, as no single day would tell. */
public final class Drift {
  private Drift() {}

  /**
   * The middle, over the quarter-hours of the week, of how far the middles of now lie from those of
   * then.
   *
   * @param matters as for {@link Normal#distance}
   * @return in the spreads of then, positive above; NaN where nothing is known of both
   */
  public static double of(Baseline then, Baseline now, double matters, double resolution) {
    double[] distances =
        IntStream.range(0, Timeline.SLOTS)
            .filter(slot -> then.at(slot).known() && now.at(slot).known())
            .mapToDouble(slot -> then.at(slot).distance(now.at(slot).p50(), matters, resolution))
            .toArray();
    return distances.length == 0 ? Double.NaN : BadWeeks.median(distances);
  }
}
