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
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class SealerTest {
  private static final Instant FIRST = Instant.parse("2026-11-24T21:10:00.123456Z");
  private static final Instant LAST = Instant.parse("2026-11-26T03:00:00Z");
  private static final Instant EVER = Instant.parse("2026-11-01T00:00:00Z");
  private static final SeriesKey USED = SeriesKey.of("used");
  private static final SeriesKey SIZE = SeriesKey.of("size");
  private static final TemporaryCluster CLUSTER = TemporaryCluster.shared();

  private final SplittableRandom random = new SplittableRandom(5);
  private final String database = CLUSTER.newDatabase();
  private Store store;
  private int instance;
  private long seq;

  @BeforeEach
  void open() {
    store = Store.open(CLUSTER.cluster().url(database), "postgres", CLUSTER.cluster().password());
    instance = store.instances().add(Instances.named("booking-db-a"));
  }

  @AfterEach
  void close() {
    store.close();
  }

  @Test
  void what_is_sealed_reads_as_it_did_to_the_bit_by_hours_and_by_days() {
    history();
    List<StoredReading> before = readings();
    Samples samples = samples();
    assertThat(before).hasSizeGreaterThan(2_000);

    // two hours after the first reading nothing is old enough yet
    assertThat(seal("2026-11-24T22:04:59Z").any()).isFalse();
    assertThat(seal("2026-11-24T22:05:00Z").spans()).isEqualTo(2);
    same(before, samples);
    Sealer.Done whole = seal("2026-11-26T01:00:00Z");
    // from 22 to 24 and twelve of the day after, of both sources; both days of both
    assertThat(whole.spans()).isEqualTo(2 * 13);
    assertThat(whole.days()).isEqualTo(4);
    assertThat(whole.dropped()).isEqualTo(2);
    same(before, samples);
    assertThat(count("select count(*) from span_days")).isEqualTo(4);
    assertThat(count("select count(*) from span_hours")).isZero();
    assertThat(count("select count(*) from reading where at < '2026-11-26 00:00+00'")).isZero();
    assertThat(store.readings().count(instance, 1)).isEqualTo(seq);
    assertThat(store.readings().firstAt(instance, EVER).orElseThrow()).isBefore(FIRST);
  }

  @Test
  void a_stretch_without_readings_takes_no_spans() {
    write(1, FIRST, List.of(USED), 1);
    write(1, FIRST.plus(Duration.ofDays(40)), List.of(USED), 2);
    Sealer.Done done = seal("2027-01-10T00:00:00Z");
    assertThat(done.spans()).isEqualTo(2);
    assertThat(done.days()).isEqualTo(2);
    assertThat(samples().value()).containsExactly(1, 2);
  }

  @Test
  void what_comes_late_or_after_all_was_dropped_finds_its_place() {
    history();
    seal("2026-11-26T01:00:00Z");
    int n = readings().size();

    Instant late = Instant.parse("2026-11-25T10:00:00.5Z");
    write(1, late, List.of(USED), 4711);
    // where there was nothing at all
    Instant lonely = Instant.parse("2026-11-20T10:00:00.5Z");
    write(1, lonely, List.of(USED), 4712);
    assertThat(readings()).hasSize(n);
    assertThat(seal("2026-11-26T01:01:00Z").again()).isEqualTo(2);

    List<StoredReading> all = readings();
    assertThat(all).hasSize(n + 2);
    assertThat(all).extracting(StoredReading::at).contains(late, lonely).isSorted();
    assertThat(all.stream().filter(r -> r.at().equals(late)).findFirst().orElseThrow().values())
        .containsExactly(4711);
    assertThat(count("select max(revision) from span")).isEqualTo(2);
    // and their rows are dropped with their day
    seal("2026-11-26T01:02:00Z");
    assertThat(count("select count(*) from reading where at < '2026-11-26 00:00+00'")).isZero();
    assertThat(readings()).hasSize(n + 2);
  }

  @Test
  void what_was_stamped_by_a_clock_that_was_set_back_counts_nowhere_sealed_or_not() {
    history();
    seal("2026-11-26T01:00:00Z");
    List<StoredReading> before = readings();
    Instant now = Instant.parse("2026-11-25T20:00:00Z");
    Instant then = Instant.parse("2026-11-26T02:30:00Z");
    store.watching().overlapped(now, then);
    store.watching().sealedOverlapped(now, then);
    seal("2026-11-26T02:31:00Z");
    assertThat(readings())
        .hasSameSizeAs(
            before.stream().filter(r -> !r.at().isAfter(now) || r.at().isAfter(then)).toList())
        .noneMatch(r -> r.at().isAfter(now) && !r.at().isAfter(then));
    assertThat(store.readings().count(instance, 1)).as("it is kept").isEqualTo(seq);
  }

  @Test
  void who_reads_while_it_is_sealed_sees_every_reading_once() throws Exception {
    history();
    int n = samples().size();
    AtomicBoolean over = new AtomicBoolean();
    CompletableFuture<List<Integer>> seen =
        CompletableFuture.supplyAsync(
            () -> {
              List<Integer> sizes = new ArrayList<>();
              while (!over.get() || sizes.isEmpty()) {
                sizes.add(samples().size());
              }
              return sizes;
            });
    for (String at : List.of("2026-11-25T03:00:00Z", "2026-11-26T01:00:00Z")) {
      seal(at);
    }
    over.set(true);
    assertThat(seen.get()).containsOnly(n);
  }

  @Test
  void a_chunk_that_was_changed_is_told_with_its_series_and_time() {
    history();
    seal("2026-11-26T01:00:00Z");
    CLUSTER.run(database, "update chunk set body = set_byte(body, 3, get_byte(body, 3) # 16)");
    assertThatThrownBy(this::samples)
        .hasMessageContaining("The chunk of series " + ids()[0] + " from 2026-11-24T00:00:00Z")
        .hasMessageContaining("its check sum does not fit");
  }

  @Test
  void a_day_that_somebody_reads_is_dropped_later() throws Exception {
    history();
    try (Connection reader = CLUSTER.connect(database);
        Statement statement = reader.createStatement()) {
      reader.setAutoCommit(false);
      statement.execute("select * from reading limit 1");
      assertThat(seal("2026-11-26T01:00:00Z").dropped()).isZero();
      write(1, LAST.plusSeconds(10), List.of(USED), 9);
    }
    assertThat(seal("2026-11-26T01:01:00Z").dropped()).isEqualTo(2);
  }

  /** Two sources with all that happens: gaps, other layouts, nothing, another interval. */
  private void history() {
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

  private void write(int source, Instant at, List<SeriesKey> keys, double... values) {
    store.readings().write(List.of(kept(source, 10, at, keys, values)));
  }

  private KeptReading kept(
      int source, int interval, Instant at, List<SeriesKey> keys, double... values) {
    Reading reading =
        new Reading(at, 1000L * interval + 3, keys, values, new WhyNothing[values.length]);
    LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
    return new KeptReading(
        instance,
        source,
        interval,
        source == 1 ? ++seq : 1,
        at.plusNanos(random.nextInt(9_000) * 1_000L),
        new Increases.Step(reading, last),
        Judged.NOTHING);
  }

  private Sealer.Done seal(String now) {
    return store.readings().sealer().run(Instant.parse(now));
  }

  private void same(List<StoredReading> readings, Samples samples) {
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

  private List<StoredReading> readings() {
    return store.readings().readings(instance, EVER, LAST.plusSeconds(3_600)).all();
  }

  private int[] ids() {
    return store.readings().numbers(instance, List.of(USED), FIRST);
  }

  private Samples samples() {
    return store.readings().samples(instance, ids(), EVER, LAST.plus(Duration.ofDays(60)));
  }

  private long count(String sql) {
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
