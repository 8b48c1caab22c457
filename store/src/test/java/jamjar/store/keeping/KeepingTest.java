package jamjar.store.keeping;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.readings.Import;
import jamjar.store.readings.Instances;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.LaidOut;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;

class KeepingTest {
  private static final SeriesKey USED = SeriesKey.of("used");
  private static final Duration DAY = Duration.ofDays(1);
  private static final Instant SEPTEMBER = Instant.parse("2026-09-10T00:00:00Z");
  private static final Instant OCTOBER = Instant.parse("2026-10-20T00:00:00Z");
  private static final Instant NOW = Instant.parse("2026-10-25T10:00:00Z");
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  private final String database = CLUSTER.newDatabase();

  @Test
  void each_class_is_kept_for_its_own_time_and_a_change_holds_for_what_comes() {
    try (Store store = open()) {
      int usual = store.instances().add(Instances.named("booking-db-a"));
      int other = store.instances().add(Instances.named("trial"));
      store.keeping().keepAs(other, 1);
      for (int instance : List.of(usual, other)) {
        store.readings().write(List.of(kept(instance, NOW)));
        bring(store, instance, SEPTEMBER);
        // the clock goes on, so that what is old is known to be
        bring(store, instance, NOW.minus(DAY.multipliedBy(2)));
      }
      store.keeping().keepAs(other, 2);
      bring(store, other, OCTOBER);
      assertThat(store.keeping().others()).containsExactly(new KeepingMapper.KeptAs(other, 2));

      assertThat(aged(store)).isEqualTo(2);
      assertThat(read(store, usual)).containsExactly(1_440, 0, 1_440);
      assertThat(read(store, other)).containsExactly(0, 1_440, 1_440);
      // of what is gone there are steps still
      int[] series = store.readings().numbers(other, List.of(USED), NOW);
      assertThat(store.readings().steps(series, 1, SEPTEMBER, NOW).get(series[0])).hasSize(3);

      // what was kept as one class goes as that, whatever it is now
      Keeping shorter = new Keeping(1, "short", 1, 1);
      store.keeping().change(shorter, NOW);
      assertThat(store.keeping().settled(NOW))
          .extracting(Keeping::keep)
          .containsExactlyInAnyOrder(0, 2);
      assertThat(store.keeping().byNumber(1)).hasValue(shorter);
      assertThat(aged(store)).isEqualTo(1);
      assertThat(store.readings().steps(series, 1, SEPTEMBER, NOW).get(series[0])).hasSize(2);
      store.keeping().keepAsUsual(other);
      assertThat(store.keeping().of(other)).isEqualTo(Keeping.USUAL);
    }
  }

  @Test
  void what_was_there_before_there_were_classes_is_of_the_usual_one() {
    Flyway.configure()
        .dataSource(url(), "postgres", CLUSTER.cluster().password())
        .locations("classpath:db/migration")
        .target("10")
        .load()
        .migrate();
    for (String of : List.of("span", "chunk", "step")) {
      String days = of.equals("step") ? "step_1" : of + "_days";
      CLUSTER.run(
          database,
          "create table "
              + days
              + "_202609 (like "
              + of
              + " including all); alter table "
              + days
              + " attach partition "
              + days
              + "_202609 for values from ('2026-09-01 00:00:00+00') to ('2026-10-01 00:00:00+00')");
    }
    CLUSTER.run(
        database,
        "insert into span (instance, source, day, from_at, to_at, revision, layouts, counts, times)"
            + " values (7, 1, true, '2026-09-10Z', '2026-09-11Z', 1, '{3}', '{4}', '\\x01')");
    CLUSTER.run(
        database,
        "insert into chunk values (9, 1, true, '2026-09-10Z', 4, 1, 2, 3, 1, 2, '\\x02')");
    CLUSTER.run(
        database,
        "insert into step select 9, 1, m, '2026-09-10Z', '\\x03' from unnest('{1,15}'::int[]) m");
    try (Store store = open()) {
      assertThat(number("select count(*) from span_days_0_202609 where keep = 0")).isEqualTo(1);
      assertThat(number("select count(*) from chunk_days_0_202609 where series = 9")).isEqualTo(1);
      assertThat(number("select count(*) from step where series = 9")).isEqualTo(2);
      assertThat(number("select count(*) from step_1_0_202609")).isEqualTo(1);
      // found by its key
      assertThat(
              number(
                  "select count(*) from pg_index where indrelid = 'chunk_days_0_202609'::regclass"))
          .isEqualTo(1);
      assertThat(store.keeping().all()).extracting(Keeping::name).contains("usual", "short");
    }
  }

  private long number(String sql) {
    return CLUSTER.number(database, sql);
  }

  private static int aged(Store store) {
    int all = 0;
    for (int dropped = -1; dropped != 0; all += dropped) {
      dropped = store.readings().retention().run(NOW, store.keeping().all());
    }
    return all;
  }

  /** How many there are of each of the three days. */
  private static List<Integer> read(Store store, int instance) {
    return List.of(SEPTEMBER, OCTOBER, NOW.minus(DAY.multipliedBy(2))).stream()
        .map(at -> Import.begin(at, true))
        .map(day -> store.readings().readings(instance, day, day.plus(DAY).minusMillis(1)).size())
        .toList();
  }

  private static void bring(Store store, int instance, Instant at) {
    Instant day = Import.begin(at, true);
    List<LaidOut> all = new ArrayList<>();
    for (Instant minute = day; minute.isBefore(day.plus(DAY)); minute = minute.plusSeconds(60)) {
      all.add(store.readings().lay(kept(instance, minute)));
    }
    assertThat(store.readings().old().add(day, true, all)).isTrue();
  }

  private static KeptReading kept(int instance, Instant at) {
    Reading reading =
        new Reading(
            at, 60_000, List.of(USED), new double[] {at.getEpochSecond() % 7}, new WhyNothing[1]);
    LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
    return new KeptReading(
        instance, 1, 60, 1, at, new Increases.Step(reading, last), Judged.NOTHING);
  }

  private String url() {
    return CLUSTER.cluster().url(database);
  }

  private Store open() {
    return Store.open(url(), "postgres", CLUSTER.cluster().password());
  }
}
