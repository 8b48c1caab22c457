package jamjar.core.limit;

import java.util.List;

/** How near a jar is to its tightest critical limit: 1 at the limit. */
public final class Fullness {
  private static final double MOST = 1.2;
  private static final double LEAD = 0.05;

  private Fullness() {}

  /**
   * (g − x) / (g − L), held within 0 … 1.2.
   *
   * @param good the counter's good end; for a limit below without one, p95 of its normal
   * @param value the 1-minute mean
   * @param critical the critical number
   * @return NaN when value or good end is not known, or the limit lies at the good end
   */
  public static double of(double good, double value, double critical) {
    double share = (good - value) / (good - critical);
    return Double.isFinite(share) ? Math.min(MOST, Math.max(0, share)) : Double.NaN;
  }

  /** One counter's share. */
  public record Share(int series, double share) {}

  /**
   * The tightest: the one shown before, unless another leads it by 5 points.
   *
   * @param shares none of them NaN, not empty
   * @param shown the series shown before; 0 for none
   */
  public static Share tightest(List<Share> shares, int shown) {
    Share best = shares.get(0);
    Share before = null;
    for (Share share : shares) {
      if (share.share() > best.share()) {
        best = share;
      }
      if (share.series() == shown) {
        before = share;
      }
    }
    return before != null && best.share() < before.share() + LEAD ? before : best;
  }
}
