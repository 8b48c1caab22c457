package jamjar.core.limit;

import jamjar.core.baseline.Normal;
import jamjar.core.limit.Judging.Outcome;
import jamjar.core.limit.LimitState.Standing;
import java.util.Arrays;
import java.util.function.Consumer;

/**
 * The one state machine of limits, a pure function of state and judging, so that what runs live
 * also replays later: calm → building → warning | critical → settling → calm.
 *
 * <ul>
 *   <li>A warning rises when m of the last n judgings that had a value passed, the last one among
 *       them; critical likewise with its own hold, straight from calm too.
 *   <li>Critical falls to warning at the first judging at or beyond critical's clear number.
 *   <li>Settling starts at the first judging at or beyond the clear number of the lowest threshold
 *       and keeps severity and identity; one between the two numbers starts its time again; one
 *       that passes returns to the same alert.
 *   <li>A missing judging counts for neither hold nor clear; at the second in a row an open alert
 *       is not measured. Too few counts for nothing at all.
 *   <li>A judging that is not newer than the last one judged is not judged.
 * </ul>
 */
public final class Judge {
  private static final int SILENT_AFTER = 2;
  private static final long HOUR = 3_600_000;
  private static final int FLAPPING_ABOVE = 3;

  private Judge() {}

  /**
   * Judges once.
   *
   * @param sink is told every change of state, in order
   */
  public static LimitState judge(
      Limit limit, LimitState state, Judging judging, Consumer<Transition> sink) {
    if (judging.edge() <= state.judged()) {
      return state;
    }
    if (judging.outcome() == Outcome.VALUE) {
      double badness = limit.badness(judging);
      return staysCalm(limit, state, badness)
          ? LimitState.calm(judging.edge())
          : new Step(limit, state, judging, badness, sink).value();
    }
    return new Step(limit, state, judging, Double.NaN, sink).nothing();
  }

  /**
   * Whether a value leaves a state calm: it passes nothing, and nothing of the past matters. Nearly
   * all judgings end here.
   *
   * @param badness of the value, see {@link Limit#badness(double)}
   */
  public static boolean staysCalm(Limit limit, LimitState state, double badness) {
    return state.idle()
        && !passes(limit.warning(), limit, badness)
        && !passes(limit.critical(), limit, badness);
  }

  /**
   * Values that leave an open alert as it is.
   *
   * @param above more than this, on the scale on which more is worse
   * @param below and less than this
   */
  record Between(double above, double below) {}

  /**
   * Which values leave a state as it is, but for the worst value and what its holds look back at;
   * null where none do.
   */
  static Between stays(Limit limit, LimitState state) {
    double clear = limit.badness(limit.lowest().clear());
    boolean hasCritical = limit.critical().present();
    return switch (state.state()) {
      case WARNING ->
          new Between(
              clear,
              hasCritical ? limit.badness(limit.critical().number()) : Double.POSITIVE_INFINITY);
      case CRITICAL ->
          hasCritical
              ? new Between(
                  Math.max(clear, limit.badness(limit.critical().clear())),
                  Double.POSITIVE_INFINITY)
              : null;
      default -> null;
    };
  }

  /** The limit was changed: what was counted for its old numbers counts no more; an alert stays. */
  public static LimitState edited(LimitState state, Consumer<Transition> sink) {
    Standing at = state.standing();
    if (!state.open()) {
      if (state.state() == AlertState.BUILDING) {
        sink.accept(bare(state, AlertState.CALM, state.judged()));
      }
      return LimitState.calm(state.judged(), at.entries());
    }
    return new LimitState(
        new Standing(
            at.state(),
            at.beneath(),
            at.severity(),
            0,
            0,
            at.since(),
            at.worst(),
            at.worstBadness(),
            -1,
            at.missing(),
            at.entries(),
            at.flapping(),
            null),
        state.judged());
  }

  /**
   * Ends an alert from outside.
   *
   * @param as retired or switched off
   * @param at epoch ms
   */
  public static LimitState ended(
      LimitState state, AlertState as, long at, Consumer<Transition> sink) {
    if (state.state() != AlertState.CALM) {
      sink.accept(bare(state, state.open() ? as : AlertState.CALM, at));
    }
    return LimitState.calm(state.judged());
  }

  private static Transition bare(LimitState state, AlertState to, long at) {
    return new Transition(
        at, at, state.state(), to, Double.NaN, Normal.NONE, Double.NaN, Double.NaN);
  }

  private static boolean passes(Threshold threshold, Limit limit, double badness) {
    return badness >= limit.badness(threshold.number());
  }

  private static boolean clears(Threshold threshold, Limit limit, double badness) {
    return badness <= limit.badness(threshold.clear());
  }

  /** One judging under way. */
  private static final class Step {
    private final Limit limit;
    private final Standing before;
    private final Judging judging;
    private final double badness;
    private final Consumer<Transition> sink;
    private AlertState state;
    private Severity severity;
    private long warningPasses;
    private long criticalPasses;
    private long since;
    private double worst;
    private double worstBadness;
    private long cleared;
    private long[] entries;
    private boolean flapping;
    private Transition first;

    Step(
        Limit limit, LimitState state, Judging judging, double badness, Consumer<Transition> sink) {
      this.limit = limit;
      this.before = state.standing();
      this.judging = judging;
      this.badness = badness;
      this.sink = sink;
      this.state = before.state();
      severity = before.severity();
      warningPasses = before.warningPasses();
      criticalPasses = before.criticalPasses();
      since = before.since();
      worst = before.worst();
      worstBadness = before.worstBadness();
      cleared = before.clearedMillis();
      entries = before.entries();
      flapping = before.flapping();
      first = before.first();
    }

    LimitState nothing() {
      if (state == AlertState.CALM) {
        return LimitState.calm(judging.edge(), entries);
      }
      boolean isMissing = judging.outcome() == Outcome.MISSING;
      int missing = isMissing ? before.missing() + judging.covers() : 0;
      AlertState beneath = before.beneath();
      if (missing >= SILENT_AFTER && state.open() && state != AlertState.NOT_MEASURED) {
        beneath = state;
        go(AlertState.NOT_MEASURED, Double.NaN);
      }
      return after(state == AlertState.NOT_MEASURED ? beneath : state, missing);
    }

    LimitState value() {
      if (state == AlertState.NOT_MEASURED) {
        go(before.beneath(), Double.NaN);
      }
      boolean critical = passes(limit.critical(), limit, badness);
      boolean warning = critical || passes(limit.warning(), limit, badness);
      Threshold lowest = limit.lowest();
      warningPasses = pushed(warningPasses, warning, lowest.n());
      criticalPasses = pushed(criticalPasses, critical, limit.critical().n());
      boolean holdsCritical = critical && Long.bitCount(criticalPasses) >= limit.critical().m();
      boolean holdsWarning =
          warning && limit.warning().present() && Long.bitCount(warningPasses) >= lowest.m();
      boolean clear = clears(lowest, limit, badness);
      entries = recent(entries);
      switch (state) {
        case CALM, BUILDING -> rise(holdsCritical, holdsWarning);
        case WARNING -> {
          if (holdsCritical) {
            enter(AlertState.CRITICAL);
          } else if (clear) {
            settle();
          }
        }
        case CRITICAL -> {
          if (clear) {
            settle();
          } else if (!limit.critical().present() || clears(limit.critical(), limit, badness)) {
            criticalPasses = 0;
            enter(AlertState.WARNING);
          }
        }
        case SETTLING -> settling(holdsCritical, critical, warning, clear);
        default -> throw new IllegalStateException("no judging in state " + state);
      }
      if (state.open() && badness > worstBadness) {
        worst = judging.value();
        worstBadness = badness;
      }
      return state == AlertState.CALM ? LimitState.calm(judging.edge(), entries) : after(state, 0);
    }

    private void rise(boolean holdsCritical, boolean holdsWarning) {
      boolean passed = (warningPasses | criticalPasses) != 0;
      if (passed && since == 0) {
        since = judging.at();
      }
      if (holdsCritical) {
        enter(AlertState.CRITICAL);
      } else if (holdsWarning) {
        enter(AlertState.WARNING);
      } else if (passed && state == AlertState.CALM) {
        first = go(AlertState.BUILDING, limit.lowest().number());
      } else if (!passed && state == AlertState.BUILDING) {
        go(AlertState.CALM, Double.NaN);
      }
    }

    private void settle() {
      go(AlertState.SETTLING, limit.lowest().clear());
      cleared = (judging.covers() - 1) * limit.stepMillis();
      calmDown();
    }

    private void settling(boolean holdsCritical, boolean critical, boolean warning, boolean clear) {
      if (holdsCritical || (critical && severity == Severity.CRITICAL)) {
        enter(AlertState.CRITICAL);
      } else if (warning) {
        enter(AlertState.WARNING);
      } else if (clear) {
        cleared =
            cleared < 0
                ? (judging.covers() - 1) * limit.stepMillis()
                : cleared + judging.covers() * limit.stepMillis();
        calmDown();
      } else {
        cleared = -1;
      }
    }

    private void calmDown() {
      if (cleared >= limit.clearMillis()) {
        go(AlertState.CALM, limit.lowest().clear());
      }
    }

    private void enter(AlertState to) {
      severity = to == AlertState.CRITICAL ? Severity.CRITICAL : Severity.WARNING;
      cleared = -1;
      first = null;
      entries = Arrays.copyOf(entries, entries.length + 1);
      entries[entries.length - 1] = judging.at();
      if (entries.length > FLAPPING_ABOVE) {
        flapping = true;
        entries = Arrays.copyOfRange(entries, entries.length - FLAPPING_ABOVE - 1, entries.length);
      }
      go(to, (to == AlertState.CRITICAL ? limit.critical() : limit.lowest()).number());
    }

    private Transition go(AlertState to, double number) {
      Transition transition =
          new Transition(
              judging.at(),
              judging.arrived(),
              state,
              to,
              judging.value(),
              judging.normal(),
              number,
              judging.distance());
      sink.accept(transition);
      state = to;
      return transition;
    }

    private long pushed(long passes, boolean passed, int n) {
      long mask = -1L >>> (64 - n);
      int covers = Math.min(judging.covers(), n);
      long newest = passed ? -1L >>> (64 - covers) : 0;
      return ((passes << covers) | newest) & mask;
    }

    private long[] recent(long[] times) {
      int old = 0;
      while (old < times.length && times[old] <= judging.at() - HOUR) {
        old++;
      }
      return old == 0 ? times : Arrays.copyOfRange(times, old, times.length);
    }

    private LimitState after(AlertState beneath, int missing) {
      return new LimitState(
          new Standing(
              state,
              beneath,
              severity,
              warningPasses,
              criticalPasses,
              since,
              worst,
              worstBadness,
              cleared,
              missing,
              entries,
              flapping,
              first),
          judging.edge());
    }
  }
}
