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
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;

/** Readings of two sources with all that happens, to be packed. */
abstract class PackedHistory {
  static final Instant FIRST = Instant.parse("2026-11-24T21:10:00.123456Z");
  static final Instant LAST = Instant.parse("2026-11-26T03:00:00Z");
  static final Instant EVER = Instant.parse("2026-11-01T00:00:00Z");
  static final long DAY = Duration.ofDays(1).toMillis();
  static final SeriesKey USED = SeriesKey.of("used");
  static final SeriesKey SIZE = SeriesKey.of("size");
  static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  final SplittableRandom random = new SplittableRandom(5);
  final String database = CLUSTER.newDatabase();
  Store store;
  int instance;
  long seq;

  @BeforeEach
  void open() {
    reopen();
    instance = store.instances().add(Instances.named("booking-db-a"));
  }

  void reopen() {
    store = Store.open(CLUSTER.cluster().url(database), "postgres", CLUSTER.cluster().password());
  }

  @AfterEach
  void close() {
    store.close();
  }

  List<Steps> days(int series, int minutes) {
    return store
        .readings()
        .steps(new int[] {series}, minutes, EVER, LAST)
        .getOrDefault(series, List.of());
  }

  void asOfReadings(int series, Shape shape) {
    Samples all =
        store.readings().samples(instance, new int[] {series}, EVER, LAST.plusSeconds(3_600));
    for (int minutes : new int[] {1, 15, 360}) {
      for (Steps day : days(series, minutes)) {
        Steps wanted = Stepping.of(shape, all, day.from(), day.width(), day.size());
        assertThat(day.covered()).isEqualTo(wanted.covered());
        assertThat(day.amount()).isEqualTo(wanted.amount());
        assertThat(day.beside()).isEqualTo(wanted.beside());
        assertThat(day.least()).isEqualTo(wanted.least());
        assertThat(day.greatest()).isEqualTo(wanted.greatest());
      }
    }
  }

  /** Two sources with all that happens: gaps, other layouts, nothing, another interval. */
  void history() {
    List<KeptReading> all = new ArrayList<>();
    Instant at = FIRST;
    for (int i = 0; at.isBefore(LAST); i++) {
      List<SeriesKey> keys =
          i % 700 < 40 ? List.of(USED) : i % 700 < 300 ? List.of(USED, SIZE) : List.of(SIZE, USED);
      double[] values = random.doubles(keys.size()).map(v -> Math.rint(v * 50) / 10).toArray();
      if (i % 97 == 0) {
        values[0] = Double.NaN;
      }
      all.add(kept(1, i < 1_000 ? 30 : 60, at, keys, values));
      if (i % 10 == 0) {
        List<SeriesKey> slow = List.of(SeriesKey.of("rows", "table", "t" + i % 3));
        all.add(kept(2, 300, at.plusMillis(7), slow, i));
      }
      at = at.plusSeconds(i % 500 == 499 ? 3_000 : i < 1_000 ? 30 : 60).plusNanos(1_000 * (i % 9));
    }
    for (int from = 0; from < all.size(); from += 200) {
      store.readings().write(all.subList(from, Math.min(all.size(), from + 200)));
    }
  }

  void write(int source, Instant at, List<SeriesKey> keys, double... values) {
    store.readings().write(List.of(kept(source, 10, at, keys, values)));
  }

  KeptReading kept(int source, int interval, Instant at, List<SeriesKey> keys, double... values) {
    Reading reading =
        new Reading(at, 1000L * interval + 3, keys, values, new WhyNothing[values.length]);
    Map<SeriesKey, LastTotals.Raw> totals =
        keys.stream()
            .filter(key -> key.counter().equals("rows"))
            .collect(Collectors.toMap(key -> key, key -> new LastTotals.Raw(1, 0)));
    LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), totals, Set.of());
    return new KeptReading(
        instance,
        source,
        interval,
        source == 1 ? ++seq : 1,
        at.plusNanos(random.nextInt(9_000) * 1_000L),
        new Increases.Step(reading, last),
        Judged.NOTHING);
  }

  Sealer.Done seal(String now) {
    return store.readings().sealer().run(Instant.parse(now));
  }

  void same(List<StoredReading> readings, Samples samples) {
    assertThat(Told.of(readings())).isEqualTo(Told.of(readings));
    assertThat(told(samples())).isEqualTo(told(samples));
  }

  private static List<String> told(Samples samples) {
    return IntStream.range(0, samples.size())
        .mapToObj(
            i ->
                String.join(
                    " ",
                    Long.toString(samples.at()[i]),
                    Long.toString(samples.elapsed()[i]),
                    Long.toString(samples.interval()[i]),
                    Double.toString(samples.value()[i])))
        .toList();
  }

  List<StoredReading> readings() {
    return store.readings().readings(instance, EVER, LAST.plusSeconds(3_600));
  }

  int[] ids() {
    return store.readings().numbers(instance, List.of(USED), FIRST);
  }

  Samples samples() {
    return store.readings().samples(instance, ids(), EVER, LAST.plus(Duration.ofDays(60)));
  }

  long count(String sql) {
    try (Connection connection = CLUSTER.connect(database);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getLong(1);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
