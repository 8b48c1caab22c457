package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.chart.Samples;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import java.util.Arrays;
import java.util.List;

/** Looks into the store whether its increases add up to what the engine counted meanwhile. */
final class Totals {
  private static final int FAST = 1;

  private final Store store;
  private final int instance;
  private final SeriesKey committed;
  private final LastTotals before;

  private Totals(Store store, int instance, String database) {
    this.store = store;
    this.instance = instance;
    this.committed = SeriesKey.of("transactions.committed", "database", database);
    this.before = last();
  }

  /** Remembers the engine's count as of the last stored reading. */
  static Totals from(Store store, int instance, String database) {
    return new Totals(store, instance, database);
  }

  /** Each reading since then has an increase, and together they are what the engine counted. */
  void noIntervalIsLost() {
    LastTotals now = last();
    int[] ids = store.readings().numbers(instance, List.of(committed), now.at());
    // stored to the µs, both ends
    Samples samples =
        store.readings().samples(instance, ids, before.at().plusNanos(1_000), now.at());
    assertThat(samples.size()).isGreaterThan(1);
    assertThat(samples.value()).doesNotContain(Double.NaN);
    assertThat(Arrays.stream(samples.value()).sum())
        .isEqualTo(now.totals().get(committed).value() - before.totals().get(committed).value());
  }

  private LastTotals last() {
    return store.readings().last(instance, FAST).orElseThrow();
  }
}
