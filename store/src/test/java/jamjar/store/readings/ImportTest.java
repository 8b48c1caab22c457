package jamjar.store.readings;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Stepping;
import jamjar.core.chart.Steps;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.TemporaryCluster;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class ImportTest {
  private static final SeriesKey USED = SeriesKey.of("used");
  private static final SeriesKey ROWS = SeriesKey.of("rows");
  private static final Instant LIVE = Instant.parse("2026-11-26T13:17:04.5Z");
  private static final Instant TODAY = Instant.parse("2026-11-26T00:00:00Z");
  private static final Instant EVER = Instant.parse("2026-11-01T00:00:00Z");
  private static final Duration DAY = Duration.ofDays(1);
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  private Store store;
  private int instance;
  private Import old;

  @BeforeEach
  void open() {
    store =
        Store.open(
            CLUSTER.cluster().url(CLUSTER.newDatabase()), "postgres", CLUSTER.cluster().password());
    instance = store.instances().add(Instances.named("booking-db-a"));
    old = store.readings().old();
    // it is watched already
    for (int i = 0; i < 6; i++) {
      store.readings().write(List.of(kept(LIVE.plusSeconds(10 * i), 10)));
    }
  }

  @AfterEach
  void close() {
    store.close();
  }

  @Test
  void what_was_before_joins_what_is_read_now_without_a_seam() {
    assertThat(old.until(instance, 1)).hasValue(LIVE);
    for (Instant span = Import.begin(LIVE, false); !span.isBefore(TODAY); span = before(span)) {
      assertThat(old.add(span, false, minutes(span, span.plus(Sealer.SPAN)))).isTrue();
    }
    Instant first = TODAY.minus(DAY.multipliedBy(3));
    for (Instant day = TODAY.minus(DAY); !day.isBefore(first); day = day.minus(DAY)) {
      assertThat(old.add(day, true, minutes(day, day.plus(DAY)))).isTrue();
    }
    Samples all = samples();
    // each minute once, and then each ten seconds
    assertThat(all.size()).isEqualTo(3 * 1_440 + 13 * 60 + 17 + 1 + 6);
    assertThat(all.at()).isSorted().doesNotHaveDuplicates();
    steps(all, Shape.LEVEL, USED);
    steps(store.readings().samples(instance, ids(ROWS), EVER, LIVE), Shape.TOTAL, ROWS);

    // packing goes on from there, and its days too
    store.readings().sealer().run(TODAY.plus(DAY).plus(Duration.ofHours(3)));
    assertThat(samples().at()).isEqualTo(all.at());
    assertThat(samples().value()).isEqualTo(all.value());
    assertThat(store.readings().steps(ids(USED), 1, EVER, LIVE).get(ids(USED)[0])).hasSize(4);
  }

  @Test
  void nothing_is_brought_in_twice_nor_where_it_is_read_already() {
    Instant day = TODAY.minus(DAY);
    List<LaidOut> readings = minutes(day, TODAY);
    assertThat(old.add(day, true, readings)).isTrue();
    assertThat(old.add(day, true, readings)).isFalse();
    assertThat(old.add(Import.begin(TODAY.minusSeconds(1), false), false, readings)).isFalse();
    assertThat(old.add(TODAY, true, minutes(TODAY, TODAY.plus(DAY)))).isFalse();
    Instant later = Import.begin(LIVE.plus(Duration.ofHours(3)), false);
    assertThat(old.add(later, false, minutes(later, later.plus(Sealer.SPAN)))).isFalse();
    assertThat(samples().size()).isEqualTo(1_440 + 6);
  }

  private void steps(Samples all, Shape shape, SeriesKey key) {
    List<Steps> days =
        store.readings().steps(ids(key), 15, EVER, LIVE).getOrDefault(ids(key)[0], List.of());
    assertThat(days).hasSize(3);
    for (Steps day : days) {
      Steps wanted = Stepping.of(shape, all, day.from(), day.width(), day.size());
      assertThat(day.amount()).isEqualTo(wanted.amount());
      assertThat(day.covered()).isEqualTo(wanted.covered());
      assertThat(day.greatest()).isEqualTo(wanted.greatest());
    }
  }

  private static Instant before(Instant span) {
    return span.minus(Sealer.SPAN);
  }

  /** One each minute, with some on either side. */
  private List<LaidOut> minutes(Instant from, Instant to) {
    List<LaidOut> all = new ArrayList<>();
    for (Instant at = from.minusSeconds(120); at.isBefore(to.plusSeconds(120)); ) {
      all.add(store.readings().lay(kept(at, 60)));
      at = at.plusSeconds(60);
    }
    return all;
  }

  private KeptReading kept(Instant at, int interval) {
    double value = at.getEpochSecond() / 60 * 7 % 90;
    Reading reading =
        new Reading(
            at,
            1_000L * interval,
            List.of(USED, ROWS),
            new double[] {value, 2 * value},
            new WhyNothing[2]);
    LastTotals last =
        new LastTotals(at, 0, 0, 0, Set.of(), Map.of(ROWS, new LastTotals.Raw(1, 0)), Set.of());
    return new KeptReading(
        instance, 1, interval, 1, at, new Increases.Step(reading, last), Judged.NOTHING);
  }

  private int[] ids(SeriesKey key) {
    return store.readings().numbers(instance, List.of(key), LIVE);
  }

  private Samples samples() {
    return store.readings().samples(instance, ids(USED), EVER, LIVE.plus(DAY));
  }
}
