package jamjar.store.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.chart.Samples;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.series.NothingSpan;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class ReadingStoreTest {
  private static final Instant AT = Instant.parse("2026-11-24T23:59:50Z");
  private static final SeriesKey USED = SeriesKey.of("used");
  private static final SeriesKey COMMITS = SeriesKey.of("commits", "database", "a");

  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();
  private static final String DATABASE = CLUSTER.newDatabase();
  private static int made;

  private Store store;
  private int instance;

  @BeforeEach
  void open() {
    store = reopened();
    instance = store.instances().add(Instances.named("booking-db-" + ++made));
  }

  @AfterEach
  void close() {
    store.close();
  }

  @Test
  void readings_come_back_as_they_were_across_midnight_and_a_change_of_layout() {
    store.readings().write(List.of(kept(1, AT, 10, List.of(USED), 1.5)));
    store
        .readings()
        .write(List.of(kept(2, AT.plusSeconds(10), 10, List.of(COMMITS, USED), 7, 2.5)));
    store.readings().write(List.of(kept(3, AT.plusSeconds(20), 1, List.of(USED), 3.5)));

    Samples samples = samplesOf(USED);
    assertThat(samples.value()).containsExactly(1.5, 2.5, 3.5);
    assertThat(samples.interval()).containsExactly(10_000, 10_000, 1_000);
    assertThat(samples.at())
        .containsExactly(AT.toEpochMilli(), AT.toEpochMilli() + 10_000, AT.toEpochMilli() + 20_000);
  }

  @Test
  void readings_without_the_layout_that_they_are_in_are_told_as_what_they_are() {
    store.readings().write(List.of(kept(1, AT, 10, List.of(USED), 1.5)));
    CLUSTER.run(DATABASE, "delete from layout where instance = " + instance);
    store.close();
    store = reopened();
    assertThatThrownBy(() -> store.readings().readings(instance, AT, AT.plusSeconds(60)))
        .isInstanceOf(IllegalStateException.class)
        .hasMessageContaining("layouts that are not");
  }

  @Test
  void nothing_is_kept_as_nothing_and_why_as_a_span() {
    store.readings().write(List.of(nothing(1, AT, WhyNothing.NOT_PERMITTED)));
    store.readings().write(List.of(nothing(2, AT.plusSeconds(10), WhyNothing.NOT_PERMITTED)));
    store.readings().write(List.of(kept(3, AT.plusSeconds(20), 10, List.of(USED), 4)));

    assertThat(samplesOf(USED).value()).containsExactly(Double.NaN, Double.NaN, 4);
    assertThat(store.series().touching(ids(USED), AT, AT.plusSeconds(60)))
        .containsExactly(new NothingSpan(ids(USED)[0], AT, AT.plusSeconds(20), "NOT_PERMITTED"));
  }

  @Test
  void a_label_that_a_whole_reading_does_not_hold_any_more_is_retired_until_it_comes_back() {
    SeriesKey cargo = SeriesKey.of("pool", "pool", "cargo");
    SeriesKey crew = SeriesKey.of("pool", "pool", "crew");
    write(1, 0, Set.of("pool"), cargo, crew);
    write(2, 10, Set.of("pool"), cargo);
    // a group that failed says nothing of what is there
    write(3, 20, Set.of());
    write(4, 30, Set.of("pool"), crew);

    assertThat(store.series().touching(ids(crew), AT, AT.plusSeconds(60)))
        .containsExactly(
            new NothingSpan(ids(crew)[0], AT.plusSeconds(10), AT.plusSeconds(30), "RETIRED"));
    assertThat(store.series().touching(ids(cargo), AT, AT.plusSeconds(60))).isEmpty();
  }

  private void write(long seq, long seconds, Set<String> whole, SeriesKey... keys) {
    Instant at = AT.plusSeconds(seconds);
    Reading reading =
        new Reading(
            at, 10_000, List.of(keys), new double[keys.length], new WhyNothing[keys.length]);
    LastTotals last = new LastTotals(at, 0, 0, 0, whole, Map.of(), Set.of());
    store
        .readings()
        .write(
            List.of(
                new KeptReading(
                    instance, 1, 10, seq, at, new Increases.Step(reading, last), Judged.NOTHING)));
  }

  @Test
  void the_last_totals_survive_a_restart_so_that_no_interval_is_lost() {
    LastTotals last =
        new LastTotals(
            AT,
            123_456,
            99,
            42,
            Set.of("used", "commits"),
            Map.of(COMMITS, new LastTotals.Raw((1L << 62) + 1, 7)),
            Set.of(USED));
    Reading reading =
        new Reading(
            AT,
            10_000,
            List.of(USED, COMMITS),
            new double[] {Double.NaN, 3},
            new WhyNothing[] {WhyNothing.NOT_YET_KNOWN, null});
    store
        .readings()
        .write(
            List.of(
                new KeptReading(
                    instance, 1, 10, 5, AT, new Increases.Step(reading, last), Judged.NOTHING)));
    store.close();
    store = reopened();

    LastTotals found = store.readings().last(instance, 1).orElseThrow();
    assertThat(found.totals()).isEqualTo(last.totals());
    assertThat(found.counters()).isEqualTo(last.counters());
    assertThat(found.nothing()).isEqualTo(last.nothing());
    assertThat(found.start()).isEqualTo(42);
    assertThat(found.sourceMicros()).isEqualTo(123_456);
    assertThat(found.monotonicNanos()).isEqualTo(LastTotals.NO_MONOTONIC);
    assertThat(store.readings().lastSeq(instance, 1)).isEqualTo(5);
  }

  @Test
  void a_series_keeps_its_number_over_a_restart_and_readings_of_other_instances_do_not_mix() {
    int other = store.instances().add(Instances.named("freight-db-" + made));
    store.readings().write(List.of(kept(1, AT, 10, List.of(USED), 1)));
    int[] before = ids(USED);
    store.close();
    store = reopened();
    store.readings().write(List.of(kept(2, AT.plusSeconds(10), 10, List.of(USED), 2)));

    assertThat(ids(USED)).isEqualTo(before);
    assertThat(store.series().ofInstance(other)).isEmpty();
    assertThat(samplesOf(USED).value()).containsExactly(1, 2);
  }

  @Test
  void a_removed_instance_gives_its_name_free() {
    store.instances().remove(instance, AT);
    assertThat(store.instances().byId(instance)).isEmpty();
    assertThat(store.instances().add(Instances.named("booking-db-" + made))).isNotEqualTo(instance);
  }

  private Store reopened() {
    return Store.open(CLUSTER.cluster().url(DATABASE), "postgres", CLUSTER.cluster().password());
  }

  private int[] ids(SeriesKey key) {
    return store.readings().numbers(instance, List.of(key), AT);
  }

  private Samples samplesOf(SeriesKey key) {
    return store.readings().samples(instance, ids(key), AT.minusSeconds(60), AT.plusSeconds(600));
  }

  private KeptReading kept(
      long seq, Instant at, int interval, List<SeriesKey> keys, double... values) {
    Reading reading = new Reading(at, 10_000, keys, values, new WhyNothing[values.length]);
    return new KeptReading(
        instance, 1, interval, seq, at, new Increases.Step(reading, noTotals(at)), Judged.NOTHING);
  }

  private KeptReading nothing(long seq, Instant at, WhyNothing why) {
    Reading reading =
        new Reading(at, 10_000, List.of(USED), new double[] {Double.NaN}, new WhyNothing[] {why});
    return new KeptReading(
        instance, 1, 10, seq, at, new Increases.Step(reading, noTotals(at)), Judged.NOTHING);
  }

  private static LastTotals noTotals(Instant at) {
    return new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
  }
}
