package jamjar.core.baseline;

/**
 * What is normal for one series at one quarter-hour of the week. Quantiles in the unit as shown;
 * NaN where nothing is learned yet.
 *
 * @param steps how many 1-minute steps it was learned from
 */
public record Normal(
    double p05, double p25, double p50, double p75, double p95, int steps, Basis basis) {

  public static final Normal NONE =
      new Normal(Double.NaN, Double.NaN, Double.NaN, Double.NaN, Double.NaN, 0, Basis.NONE);

  /** A normal distribution's p95 lies this many standard deviations above its median. */
  private static final double P95_IN_DEVIATIONS = 1.645;

  /** By so many spreads it is another one. */
  private static final double MOVED = 0.5;

  /** The least spread, as a share of the median. */
  private static final double LEAST_SHARE = 0.02;

  /** As of what is good at zero only: learned as well as this one, and nothing else is normal. */
  Normal zero() {
    return known() ? new Normal(0, 0, 0, 0, 0, steps, basis) : this;
  }

  public boolean known() {
    return basis != Basis.NONE;
  }

  /**
   * How far a value is from the middle, in spreads s: (x − p50) / s, where s is (p95 − p50) / 1.645
   * above the middle and (p50 − p05) / 1.645 below it, but at least the smallest difference that
   * matters, 2 % of the middle and the resolution.
   *
   * @param x a 1-minute mean: shorter readings scatter more than what was learned
   * @param matters smallest difference that matters, in the unit as shown
   * @param resolution step to which the value is rounded; 0 for none
   * @return positive above the middle, negative below; NaN when no normal is known
   */
  public double distance(double x, double matters, double resolution) {
    double off = x - p50;
    return off == 0 ? 0 : off / spread(off > 0, matters, resolution);
  }

  private double spread(boolean above, double matters, double resolution) {
    double side = above ? p95 - p50 : p50 - p05;
    return Math.max(
        Math.max(side / P95_IN_DEVIATIONS, matters),
        Math.max(LEAST_SHARE * Math.abs(p50), resolution));
  }

  /**
   * Whether another one is so far from this one that it counts as another: its middle or an edge of
   * its band by more than half a spread of this one, on that side; or it was learned from something
   * else.
   *
   * @param matters as for {@link #distance}
   */
  public boolean left(Normal other, double matters, double resolution) {
    if (basis != other.basis) {
      return true;
    }
    return Math.abs(distance(other.p50, matters, resolution)) > MOVED
        || Math.abs(other.p95 - p95) > MOVED * spread(true, matters, resolution)
        || Math.abs(other.p05 - p05) > MOVED * spread(false, matters, resolution);
  }
}
