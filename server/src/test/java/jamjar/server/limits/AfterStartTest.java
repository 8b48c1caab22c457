package jamjar.server.limits;

import static jamjar.server.limits.Freight.FROM;
import static jamjar.server.limits.Freight.RECIPE;
import static jamjar.server.limits.Freight.SPAN;
import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.Pace;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Rule;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.server.limits.InstanceJudge.Setting;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** A queue that fills after a start, as it does on each. */
class AfterStartTest {
  private static final SeriesKey CUSTOMS =
      SeriesKey.of("queue.pending", "queue", "manifest.customs");
  private static final Normal FEW = new Normal(0, 0, 1, 2, 3, 75, Basis.SLOT);
  private static final long MINUTE = 60_000;

  @Test
  void nothing_is_outside_its_normal_for_five_minutes_after_a_start() {
    TemporaryCluster cluster = TemporaryCluster.shared();
    try (Store store =
        Store.open(
            cluster.cluster().url(cluster.newDatabase()),
            "postgres",
            cluster.cluster().password())) {
      int id = store.instances().add(Freight.instance());
      List<Rule> outside =
          RECIPE.limits().stream()
              .filter(rule -> rule.counter().equals(CUSTOMS.counter()))
              .filter(rule -> rule.condition() == Condition.OUTSIDE)
              .toList();
      InstanceJudge judge =
          new InstanceJudge(
              Setting.of(
                  store.instances().byId(id).orElseThrow(),
                  RECIPE.recipe(),
                  Optional.empty(),
                  FROM),
              new StoredPast(
                  store, id, Clock.fixed(Instant.ofEpochMilli(FROM), ZoneOffset.UTC), () -> {}),
              (series, at) -> FEW,
              outside,
              SPAN);
      // it has run for long: three minutes outside are an alert
      assertThat(risen(store, judge, id, FROM, 5)).isPositive();
      assertThat(calm(store, judge, id, FROM + 5 * MINUTE)).isTrue();
      long began = FROM + 20 * MINUTE;
      judge.started(began);
      assertThat(risen(store, judge, id, began, 5)).isZero();
      assertThat(risen(store, judge, id, began + 5 * MINUTE, 5)).isPositive();
    }
  }

  /** How many warnings rose in some minutes in which a thousand waited. */
  private static long risen(Store store, InstanceJudge judge, int id, long from, int minutes) {
    long risen = 0;
    for (long at = from; at < from + minutes * MINUTE; at += 10_000) {
      risen +=
          read(store, judge, id, at, 1_000).stream().filter(s -> s == AlertState.WARNING).count();
    }
    return risen;
  }

  /** Whether an alert is over after ten minutes in which nobody waited. */
  private static boolean calm(Store store, InstanceJudge judge, int id, long from) {
    boolean calm = false;
    for (long at = from; at < from + 10 * MINUTE; at += 10_000) {
      calm |= read(store, judge, id, at, 1).contains(AlertState.CALM);
    }
    return calm;
  }

  private static List<AlertState> read(
      Store store, InstanceJudge judge, int id, long at, double value) {
    int[] ids = store.readings().numbers(id, List.of(CUSTOMS), Instant.ofEpochMilli(at));
    Judged judged =
        judge.read(
            SPAN, Pace.FAST, at, at + 5, ids, List.of(new Shown(CUSTOMS, value, null, value, 1)));
    store.judged().write(judged);
    return judged.changes().stream()
        .flatMap(change -> change.transitions().stream())
        .map(transition -> transition.to())
        .toList();
  }
}
