package jamjar.store.alerts;

import jamjar.core.limit.AlertState;
import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import jamjar.core.limit.Transition;
import jamjar.core.reading.SeriesKey;
import jamjar.store.limits.LimitStates;
import java.time.Instant;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/** Writes what judging changed: states, alerts and their transitions, in one transaction. */
public final class JudgedStore {
  private final SqlSessionFactory factory;

  public JudgedStore(SqlSessionFactory factory) {
    this.factory = factory;
  }

  /**
   * What judging changed on one instance.
   *
   * @param keys per change the series it is about; no labels and no counter for the whole instance
   */
  public record Judged(int instance, List<Docket.Change> changes, List<SeriesKey> keys) {
    public static final Judged NOTHING = new Judged(0, List.of(), List.of());
  }

  /** Writes changes in a transaction of their own. */
  public void write(Judged judged) {
    try (SqlSession batch = factory.openSession(ExecutorType.BATCH, false)) {
      write(batch, judged);
      batch.commit();
    }
  }

  /** As above, within somebody's transaction. */
  public static void write(SqlSession batch, Judged judged) {
    AlertMapper alerts = batch.getMapper(AlertMapper.class);
    // of several judgings at once only the last state of each limit is kept
    Map<Docket.Key, Docket.Change> last = new LinkedHashMap<>();
    judged.changes().forEach(change -> last.put(change.key(), change));
    last.values().forEach(change -> LimitStates.keep(batch, judged.instance(), change));
    for (int i = 0; i < judged.changes().size(); i++) {
      Docket.Change change = judged.changes().get(i);
      write(alerts, judged.instance(), change, judged.keys().get(i));
    }
  }

  private static void write(
      AlertMapper alerts, int instance, Docket.Change change, SeriesKey series) {
    AlertState at = change.before().state();
    boolean open = at.open();
    for (Transition transition : change.transitions()) {
      if (!open && rises(transition.to())) {
        alerts.rise(row(instance, change, series, transition));
        first(change).ifPresent(t -> pass(alerts, instance, change, t));
        open = true;
      }
      if (open) {
        pass(alerts, instance, change, transition);
        alerts.follow(row(instance, change, series, transition));
        open = transition.to().open();
      }
    }
    if (open && change.transitions().isEmpty() && worse(change)) {
      alerts.follow(row(instance, change, series, still(change)));
    }
  }

  private static boolean rises(AlertState to) {
    return to == AlertState.WARNING || to == AlertState.CRITICAL;
  }

  /** The first judging that passed stands before the alert's own transitions. */
  private static Optional<Transition> first(Docket.Change change) {
    return Optional.ofNullable(change.before().standing().first());
  }

  private static boolean worse(Docket.Change change) {
    return change.after().standing().worstBadness() > change.before().standing().worstBadness()
        || change.after().flapping() != change.before().flapping();
  }

  private static Transition still(Docket.Change change) {
    LimitState state = change.after();
    return new Transition(
        state.judged(),
        state.judged(),
        state.state(),
        state.state(),
        state.worst(),
        jamjar.core.baseline.Normal.NONE,
        Double.NaN,
        Double.NaN);
  }

  private static void pass(
      AlertMapper alerts, int instance, Docket.Change change, Transition transition) {
    alerts.pass(
        instance,
        change.key().series(),
        change.key().condition().name(),
        new TransitionRow(
            0,
            Instant.ofEpochMilli(transition.at()),
            Instant.ofEpochMilli(transition.arrived()),
            transition.from().words(),
            transition.to().words(),
            transition.value(),
            transition.normal().p05(),
            transition.normal().p50(),
            transition.normal().p95(),
            transition.number(),
            transition.distance()));
  }

  private static AlertRow row(
      int instance, Docket.Change change, SeriesKey series, Transition transition) {
    LimitState state = change.after();
    boolean ends = !transition.to().open();
    SortedMap<String, String> labels =
        series.labels().isEmpty()
            ? Collections.unmodifiableSortedMap(new TreeMap<>())
            : series.labels();
    long began = (ends ? change.before() : state).since();
    long since = began == 0 ? transition.at() : began;
    String severity =
        (ends ? change.before() : state)
            .standing()
            .severity()
            .name()
            .toLowerCase(java.util.Locale.ROOT);
    return AlertRow.unseen(
        change.rule(),
        instance,
        change.key().series(),
        series.counter(),
        labels,
        change.key().condition().name(),
        transition.to().words(),
        severity,
        Instant.ofEpochMilli(since),
        // a clock that was set back does not end an alert before it began
        ends ? Instant.ofEpochMilli(Math.max(transition.at(), since)) : null,
        transition.value(),
        transition.normal().p05(),
        transition.normal().p95(),
        transition.number(),
        state.worst(),
        state.flapping());
  }
}
