package jamjar.server.limits;

import static jamjar.server.limits.Freight.FROM;
import static jamjar.server.limits.Freight.RECIPE;
import static jamjar.server.limits.Freight.SPAN;
import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Normal;
import jamjar.core.counter.Pace;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Rule;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.server.limits.InstanceJudge.Setting;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** A pool that is undeployed while its alert is open. */
class RetiredLabelTest {
  private static final SeriesKey CARGO = SeriesKey.of("pool.waiting", "pool", "cargo");
  private static final SeriesKey CREW = SeriesKey.of("pool.waiting", "pool", "crew");

  @Test
  void an_alert_of_a_label_that_is_gone_for_ten_readings_ends_as_retired() {
    TemporaryCluster cluster = TemporaryCluster.shared();
    String database = cluster.newDatabase();
    try (Store store =
        Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      int id = store.instances().add(Freight.instance());
      InstanceRow row = store.instances().byId(id).orElseThrow();
      List<Rule> waiting =
          RECIPE.limits().stream().filter(r -> r.counter().equals(CARGO.counter())).toList();
      InstanceJudge judge =
          new InstanceJudge(
              Setting.of(row, RECIPE.recipe(), Optional.empty(), FROM),
              new StoredPast(
                  store, id, Clock.fixed(Instant.ofEpochMilli(FROM), ZoneOffset.UTC), () -> {}),
              (series, at) -> Normal.NONE,
              waiting,
              SPAN);
      List<AlertState> told = new ArrayList<>();
      long at = FROM;
      for (int i = 0; i < 5; i++, at += 10_000) {
        told.addAll(read(store, judge, id, at, CARGO, CREW));
      }
      assertThat(told).containsExactly(AlertState.BUILDING, AlertState.WARNING);
      told.clear();
      for (int i = 0; i < 9; i++, at += 10_000) {
        told.addAll(read(store, judge, id, at, CREW));
      }
      // not measured, and that is not calm
      assertThat(told).doesNotContain(AlertState.CALM, AlertState.RETIRED);
      told.clear();
      for (int i = 0; i < 2; i++, at += 10_000) {
        told.addAll(read(store, judge, id, at, CREW));
      }
      assertThat(told).containsExactly(AlertState.RETIRED);
      assertThat(store.states().ofInstance(id).values())
          .allMatch(state -> state.state() == AlertState.CALM);
    }
  }

  /** Five wait for the cargo pool, nobody for the crew's. */
  private static List<AlertState> read(
      Store store, InstanceJudge judge, int id, long at, SeriesKey... keys) {
    List<SeriesKey> all = Arrays.asList(keys);
    int[] ids = store.readings().numbers(id, all, Instant.ofEpochMilli(at));
    List<Shown> shown =
        all.stream()
            .map(
                key ->
                    new Shown(key, key.equals(CARGO) ? 5 : 0, null, key.equals(CARGO) ? 5 : 0, 1))
            .toList();
    Judged judged = judge.read(SPAN, Pace.FAST, at, at + 5, ids, shown);
    store.judged().write(judged);
    return judged.changes().stream()
        .flatMap(change -> change.transitions().stream())
        .map(transition -> transition.to())
        .toList();
  }
}
