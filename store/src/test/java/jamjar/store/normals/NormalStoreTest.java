package jamjar.store.normals;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.readings.Instances;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class NormalStoreTest {
  private static final Instant NIGHT = Instant.parse("2026-11-26T02:30:00Z");
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  private final String database = CLUSTER.newDatabase();
  private Store store;
  private int instance;
  private int[] series;

  @BeforeEach
  void open() {
    store = Store.open(CLUSTER.cluster().url(database), "postgres", CLUSTER.cluster().password());
    instance = store.instances().add(Instances.named("booking-db-a"));
    List<SeriesKey> keys =
        IntStream.range(0, 200).mapToObj(i -> SeriesKey.of("counter." + i)).toList();
    series = store.readings().numbers(instance, keys, NIGHT);
  }

  @AfterEach
  void close() {
    store.close();
  }

  @Test
  void what_was_learned_is_there_after_a_restart() {
    assertThat(store.normals().learned(instance)).isEmpty();
    learn(NIGHT, 1);
    store.close();
    store = Store.open(CLUSTER.cluster().url(database), "postgres", CLUSTER.cluster().password());
    assertThat(store.normals().learned(instance))
        .hasValue(new Learned(instance, NIGHT, "Europe/Oslo", 50_400));
    Map<Integer, Baseline> back = read();
    assertThat(back).hasSize(200);
    for (int i = 0; i < series.length; i++) {
      assertThat(back.get(series[i]).at(300).p50()).isEqualTo(i + 300);
    }
    assertThat(store.normals().of(series[7]).orElseThrow().at(671).p95()).isEqualTo(679);
    assertThat(store.normals().of(series[199] + 1)).isEmpty();
  }

  @Test
  void a_day_of_the_week_is_learned_and_read_alone() {
    learn(NIGHT, 1);
    Normal[] tuesday = new Normal[Timeline.QUARTERS];
    Arrays.fill(tuesday, new Normal(1, 2, 3, 4, 5, 75, Basis.SLOT));
    store
        .normals()
        .keep(
            new Learned(instance, NIGHT.plusSeconds(86_400), "Europe/Oslo", 50_400),
            to -> to.day(tuesday, 1, series[4]));
    Baseline whole = store.normals().of(series[4]).orElseThrow();
    assertThat(whole.at(95).p50()).isEqualTo(4 + 95);
    assertThat(whole.at(96)).isEqualTo(tuesday[0]);
    assertThat(whole.at(191)).isEqualTo(tuesday[95]);
    assertThat(whole.at(192).p50()).isEqualTo(4 + 192);

    Map<Integer, Baseline> days = new HashMap<>();
    store.normals().read(series, new int[] {1, 6}, (baseline, id) -> days.put(id, baseline));
    assertThat(days).hasSize(200);
    assertThat(days.get(series[4]).at(96)).isEqualTo(tuesday[0]);
    assertThat(days.get(series[5]).at(671).p50()).isEqualTo(5 + 671);
    assertThat(days.get(series[5]).at(0).known()).isFalse();
  }

  private static Normal[] tuesdays(double middle) {
    Normal[] slots = new Normal[Timeline.QUARTERS];
    Arrays.fill(slots, new Normal(1, 2, middle, 40, 50, 75, Basis.SLOT));
    return slots;
  }

  /** Learned on a Tuesday night, and by it what is in force since. */
  private void tuesday(Instant night, double middle) {
    Instant since =
        store
            .normals()
            .keep(
                new Learned(instance, night, "Europe/Oslo", 50_400),
                () -> night.plusSeconds(60),
                to -> to.succeeds(tuesdays(middle), 1, series[4]));
    assertThat(since).isEqualTo(night.plusSeconds(60));
  }

  @Test
  void what_was_in_force_stays_known_where_something_is_judged_by_it() {
    learn(NIGHT, 1);
    Instant second = NIGHT.plus(Duration.ofDays(7));
    Instant third = NIGHT.plus(Duration.ofDays(14));
    tuesday(second, 20);
    tuesday(third, 30);
    BaselineHistory history = store.normals().history(series[4], Instant.EPOCH).orElseThrow();
    int slot = 96;
    assertThat(history.at(second.toEpochMilli() + 59_999, slot).p50()).isEqualTo(4 + slot);
    assertThat(history.at(second.toEpochMilli() + 60_000, slot).p50()).isEqualTo(20);
    assertThat(history.at(third.toEpochMilli() + 60_000, slot).p50()).isEqualTo(30);
    assertThat(history.since(0, slot)).isEqualTo(NIGHT.toEpochMilli());
    assertThat(history.since(Long.MAX_VALUE, 0)).isEqualTo(NIGHT.toEpochMilli());
    assertThat(store.normals().of(series[4]).orElseThrow().at(slot).p50()).isEqualTo(30);
    // only what was in force later is asked for
    Map<Integer, BaselineHistory> later = new HashMap<>();
    store.normals().ask(series, new int[] {1}, third, (one, id) -> later.put(id, one));
    assertThat(later.get(series[4]).days()).isEqualTo(8);
    assertThat(later.get(series[5]).days()).isEqualTo(7);
  }

  @Test
  void after_a_week_what_was_in_force_on_a_monday_is_kept_and_after_thirteen_months_nothing() {
    // a Thursday, hour by hour, and a week later
    Instant thursday = Instant.parse("2026-10-01T00:00:00Z");
    learn(thursday, 1);
    tuesday(thursday.plusSeconds(3_600), 10);
    tuesday(thursday.plusSeconds(7_200), 20);
    tuesday(thursday.plus(Duration.ofDays(7)), 30);
    assertThat(store.normals().thin(thursday.plus(Duration.ofDays(7)))).isZero();
    assertThat(store.normals().thin(thursday.plus(Duration.ofDays(15)))).isEqualTo(2);
    BaselineHistory history = store.normals().history(series[4], Instant.EPOCH).orElseThrow();
    // the next that is kept serves
    assertThat(history.at(thursday.toEpochMilli(), 96).p50()).isEqualTo(20);
    assertThat(history.days()).isEqualTo(8);
    assertThat(store.normals().thin(thursday.plus(Duration.ofDays(405)))).isEqualTo(1);
    assertThat(store.normals().history(series[4], Instant.EPOCH).orElseThrow().days()).isEqualTo(7);
  }

  @Test
  void it_is_known_of_which_series_nothing_was_learned() {
    assertThat(store.normals().without(series)).hasSize(200);
    store
        .normals()
        .keep(new Learned(instance, NIGHT, "UTC", 50_400), to -> to.accept(baseline(1), series[9]));
    assertThat(store.normals().without(series)).hasSize(199).doesNotContain(series[9]);
  }

  @Test
  void what_is_learned_anew_stands_instead_and_what_is_not_stays() {
    learn(NIGHT, 1);
    Learned again = new Learned(instance, NIGHT.plusSeconds(86_400), "UTC", 50_400);
    store.normals().keep(again, to -> to.accept(baseline(5_000), series[0]));
    assertThat(store.normals().learned(instance)).hasValue(again);
    assertThat(store.normals().of(series[0]).orElseThrow().at(0).p50()).isEqualTo(5_000);
    assertThat(store.normals().of(series[1]).orElseThrow().at(0).p50()).isEqualTo(1);
  }

  @Test
  void learning_that_fails_leaves_what_there_was() {
    learn(NIGHT, 1);
    assertThatThrownBy(
            () ->
                store
                    .normals()
                    .keep(
                        new Learned(instance, NIGHT.plusSeconds(60), "UTC", 1),
                        to -> {
                          IntStream.range(0, 100)
                              .forEach(i -> to.accept(baseline(9_000), series[i]));
                          throw new IllegalStateException("no more");
                        }))
        .hasMessage("no more");
    assertThat(store.normals().learned(instance).orElseThrow().at()).isEqualTo(NIGHT);
    assertThat(store.normals().of(series[0]).orElseThrow().at(0).p50()).isZero();
  }

  @Test
  void one_that_can_t_be_read_is_as_if_it_were_not_learned() {
    learn(NIGHT, 1);
    CLUSTER.run(
        database,
        "update baseline set body = set_byte(body, 40, 255 - get_byte(body, 40)) where weekday = 2 and series = "
            + series[3]);
    assertThat(read()).hasSize(199).doesNotContainKey(series[3]);
  }

  @Test
  void what_was_learned_of_what_is_gone_for_good_goes_by_and_by() {
    learn(NIGHT, 1);
    CLUSTER.run(
        database,
        "update series set retired_at = '2026-11-26T02:30:00Z' where id = any('{"
            + series[0]
            + ","
            + series[5]
            + "}')");
    assertThat(store.normals().forget(NIGHT)).isZero();
    assertThat(store.normals().forget(NIGHT.plusSeconds(1))).isEqualTo(2);
    assertThat(read()).hasSize(198).doesNotContainKeys(series[0], series[5]);
    store.instances().remove(instance, NIGHT);
    assertThat(store.normals().forget(NIGHT.plusSeconds(1))).isEqualTo(198);
  }

  private void learn(Instant at, int times) {
    store
        .normals()
        .keep(
            new Learned(instance, at, "Europe/Oslo", 50_400),
            to ->
                IntStream.range(0, series.length)
                    .forEach(i -> to.accept(baseline(i * times), series[i])));
  }

  private Map<Integer, Baseline> read() {
    Map<Integer, Baseline> found = new HashMap<>();
    store.normals().ask(series, (baseline, id) -> found.put(id, baseline));
    return found;
  }

  /** One whose middle is that much more than the place of the slot. */
  private static Baseline baseline(int more) {
    Normal[] slots = new Normal[Timeline.SLOTS];
    Arrays.setAll(
        slots,
        slot ->
            new Normal(
                more + slot - 1,
                more + slot - 0.5,
                more + slot,
                more + slot + 0.5,
                more + slot + 1,
                75,
                Basis.SLOT));
    return Baseline.of(slots);
  }
}
