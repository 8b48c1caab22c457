package jamjar.core.statement;

import java.util.Locale;

/**
 * How the time of a statement changed from one window to another, in seconds of statement time per
 * second: with c calls per second of mean m in each, Δtotal = Δc × (m₁+m₂)/2 + Δm × (c₁+c₂)/2.
 *
 * @param kind whether it ran in both
 * @param total all of the change
 * @param moreOften what of it comes from the number of calls; 0 where it ran in one window only
 * @param slower what of it comes from the time of each call; 0 where it ran in one window only.
 *     moreOften + slower = total
 */
public record Change(Kind kind, double total, double moreOften, double slower) {
  /** In which of the windows a statement ran. */
  public enum Kind {
    BOTH,
    NEW,
    VANISHED,
    NEITHER;

    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * @param before what was counted in the window that is compared with
   * @param beforeMs how much time that covers; likewise for now
   */
  public static Change of(StatementCounts before, long beforeMs, StatementCounts now, long nowMs) {
    double time1 = perSecond(before.timeUs() / 1e6, beforeMs);
    double time2 = perSecond(now.timeUs() / 1e6, nowMs);
    double total = time2 - time1;
    if (before.calls() == 0 || now.calls() == 0) {
      Kind kind = now.calls() > 0 ? Kind.NEW : before.calls() > 0 ? Kind.VANISHED : Kind.NEITHER;
      return new Change(kind, total, 0, 0);
    }
    double calls1 = perSecond(before.calls(), beforeMs);
    double calls2 = perSecond(now.calls(), nowMs);
    double moreOften = (calls2 - calls1) * (time1 / calls1 + time2 / calls2) / 2;
    // the formula's other half, so that the parts add up to the last bit
    return new Change(Kind.BOTH, total, moreOften, total - moreOften);
  }

  private static double perSecond(double value, long ms) {
    return ms == 0 ? 0 : value * 1000 / ms;
  }
}
