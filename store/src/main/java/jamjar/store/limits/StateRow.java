package jamjar.store.limits;

import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import jamjar.core.limit.LimitState.Standing;
import jamjar.core.limit.Severity;
import jamjar.core.limit.Transition;

/** A state of a limit as stored. */
record StateRow(
    int instance,
    int series,
    String condition,
    String state,
    String beneath,
    String severity,
    long warningPasses,
    long criticalPasses,
    long since,
    double worst,
    double worstBadness,
    long clearedMs,
    int missing,
    long[] entries,
    boolean flapping,
    long judged,
    double[] first) {

  static StateRow of(int instance, Docket.Key key, LimitState whole) {
    Standing state = whole.standing();
    return new StateRow(
        instance,
        key.series(),
        key.condition().name(),
        state.state().name(),
        state.beneath().name(),
        state.severity().name(),
        state.warningPasses(),
        state.criticalPasses(),
        state.since(),
        state.worst(),
        state.worstBadness(),
        state.clearedMillis(),
        state.missing(),
        state.entries(),
        state.flapping(),
        whole.judged(),
        state.first() == null ? null : flat(state.first()));
  }

  Docket.Key key() {
    return new Docket.Key(series, Condition.valueOf(condition));
  }

  LimitState toState() {
    return new LimitState(
        new Standing(
            AlertState.valueOf(state),
            AlertState.valueOf(beneath),
            Severity.valueOf(severity),
            warningPasses,
            criticalPasses,
            since,
            worst,
            worstBadness,
            clearedMs,
            missing,
            entries,
            flapping,
            first == null ? null : building(first)),
        judged);
  }

  private static double[] flat(Transition t) {
    Normal n = t.normal();
    return new double[] {
      t.at(),
      t.arrived(),
      t.value(),
      t.number(),
      t.distance(),
      n.p05(),
      n.p25(),
      n.p50(),
      n.p75(),
      n.p95(),
      n.steps(),
      n.basis().ordinal()
    };
  }

  private static Transition building(double[] f) {
    return new Transition(
        (long) f[0],
        (long) f[1],
        AlertState.CALM,
        AlertState.BUILDING,
        f[2],
        new Normal(f[5], f[6], f[7], f[8], f[9], (int) f[10], Basis.values()[(int) f[11]]),
        f[3],
        f[4]);
  }
}
