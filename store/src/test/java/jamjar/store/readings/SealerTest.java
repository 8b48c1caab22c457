package jamjar.store.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Stepping;
import jamjar.core.chart.Steps;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.watching.Gap;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.ClusterCopy;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SealerTest {
  private static final Instant FIRST = Instant.parse("2026-11-24T21:10:00.123456Z");
  private static final Instant LAST = Instant.parse("2026-11-26T03:00:00Z");
  private static final Instant EVER = Instant.parse("2026-11-01T00:00:00Z");
  private static final long DAY = Duration.ofDays(1).toMillis();
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
    reopen();
    instance = store.instances().add(Instances.named("booking-db-a"));
  }

  private void reopen() {
    store = Store.open(CLUSTER.cluster().url(database), "postgres", CLUSTER.cluster().password());
  }

  @AfterEach
  void close() {
    store.close();
  }

  @Test
  void what_is_sealed_reads_as_it_did_to_the_bit_by_hours_and_by_days() {
    assertThat(store.readings().firstAt(instance, EVER)).isEmpty();
    history();
    assertThat(store.readings().firstAt(instance, EVER)).hasValue(FIRST);
    List<StoredReading> before = readings();
    Samples samples = samples();
    assertThat(before).hasSizeGreaterThan(2_000);

    // two hours after the first reading nothing is old enough yet
    assertThat(seal("2026-11-24T22:04:59Z").any()).isFalse();
    assertThat(seal("2026-11-24T22:05:00Z").spans()).isEqualTo(2);
    same(before, samples);
    Sealer.Done whole = seal("2026-11-26T03:00:00Z");
    // from 22 to 24, twelve of the day after and one of the next, of both sources
    assertThat(whole.spans()).isEqualTo(2 * 14);
    assertThat(whole.days()).isEqualTo(4);
    assertThat(whole.dropped()).isEqualTo(2);
    same(before, samples);
    assertThat(count("select count(*) from span_days")).isEqualTo(4);
    assertThat(count("select count(*) from span_hours")).isEqualTo(2);
    assertThat(count("select count(*) from reading where at < '2026-11-26 00:00+00'")).isZero();
    assertThat(store.readings().count(instance, 1)).isEqualTo(seq);
    assertThat(store.readings().firstAt(instance, EVER).orElseThrow()).isBefore(FIRST);
  }

  @Test
  void a_day_that_is_over_has_steps_as_of_all_its_readings_also_after_one_came_late() {
    history();
    seal("2026-11-26T03:00:00Z");
    assertThat(days(ids()[0], 1)).hasSize(2);
    assertThat(days(ids()[0], 15)).hasSize(2);
    asOfReadings(ids()[0], Shape.LEVEL);
    int slow =
        store.readings().numbers(instance, List.of(SeriesKey.of("rows", "table", "t1")), FIRST)[0];
    assertThat(days(slow, 1)).as("it is read every five minutes").isEmpty();
    assertThat(days(slow, 15)).hasSize(2);
    asOfReadings(slow, Shape.TOTAL);

    write(1, Instant.parse("2026-11-25T10:00:00.5Z"), List.of(USED), 4711);
    seal("2026-11-26T03:01:00Z");
    assertThat(days(ids()[0], 1).get(1).greatest()[600]).isEqualTo(4711);
    asOfReadings(ids()[0], Shape.LEVEL);
  }

  private List<Steps> days(int series, int minutes) {
    return store
        .readings()
        .steps(new int[] {series}, minutes, EVER, LAST)
        .getOrDefault(series, List.of());
  }

  private void asOfReadings(int series, Shape shape) {
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
    seal("2026-11-26T03:00:00Z");
    int n = readings().size();

    Instant late = Instant.parse("2026-11-25T10:00:00.5Z");
    write(1, late, List.of(USED), 4711);
    // where there was nothing at all
    Instant lonely = Instant.parse("2026-11-20T10:00:00.5Z");
    write(1, lonely, List.of(USED), 4712);
    assertThat(readings()).hasSize(n);
    assertThat(seal("2026-11-26T03:01:00Z").again()).isEqualTo(2);

    List<StoredReading> all = readings();
    assertThat(all).hasSize(n + 2);
    assertThat(all).extracting(StoredReading::at).contains(late, lonely).isSorted();
    assertThat(all.stream().filter(r -> r.at().equals(late)).findFirst().orElseThrow().values())
        .containsExactly(4711);
    assertThat(count("select max(revision) from span")).isEqualTo(2);
    // and their rows are dropped with their day
    seal("2026-11-26T03:02:00Z");
    assertThat(count("select count(*) from reading where at < '2026-11-26 00:00+00'")).isZero();
    assertThat(readings()).hasSize(n + 2);
  }

  @Test
  void what_was_stamped_by_a_clock_that_was_set_back_counts_nowhere_sealed_or_not() {
    history();
    seal("2026-11-26T03:00:00Z");
    List<StoredReading> before = readings();
    Instant now = Instant.parse("2026-11-25T20:00:00Z");
    Instant then = Instant.parse("2026-11-26T02:30:00Z");
    store.watching().overlapped(now, then);
    store.watching().sealedOverlapped(now, then);
    store.readings().setBackTo(now);
    seal("2026-11-25T20:01:00Z");
    int left =
        before.stream().filter(r -> !r.at().isAfter(now) || r.at().isAfter(then)).toList().size();
    assertThat(readings())
        .hasSize(left)
        .noneMatch(r -> r.at().isAfter(now) && !r.at().isAfter(then));

    // what comes from now on is seen at once, and packed with what was there of that time
    Instant fresh = now.plusSeconds(7);
    write(1, fresh, List.of(USED), 4711);
    assertThat(count("select count(*) from unsealed")).as("it is not late").isZero();
    assertThat(readings()).hasSize(left + 1);
    assertThat(seal("2026-11-25T22:06:00Z").spans()).isEqualTo(1);
    assertThat(readings()).hasSize(left + 1);
    seal("2026-11-26T03:02:00Z");
    List<StoredReading> after = readings();
    assertThat(after).hasSize(left + 1).extracting(StoredReading::at).contains(fresh).isSorted();
    asOfReadings(ids()[0], Shape.LEVEL);
    assertThat(count("select count(*) from span_hours where from_at < '2026-11-26 00:00+00'"))
        .isZero();
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
    for (String at : List.of("2026-11-25T03:00:00Z", "2026-11-26T03:00:00Z")) {
      seal(at);
    }
    over.set(true);
    assertThat(seen.get()).containsOnly(n);
  }

  @Test
  void what_is_written_of_long_ago_while_days_are_dropped_is_never_lost() throws Exception {
    AtomicBoolean over = new AtomicBoolean();
    CompletableFuture<Void> sealing =
        CompletableFuture.runAsync(
            () -> {
              while (!over.get()) {
                seal("2026-11-26T03:00:00Z");
              }
            });
    int n = 150;
    for (int i = 0; i < n; i++) {
      // one day after the other, and sources that are new
      write(1 + i % 3, FIRST.minus(Duration.ofDays(i % 10)).plusSeconds(i), List.of(USED), i);
    }
    over.set(true);
    sealing.get();
    seal("2026-11-26T03:01:00Z");
    assertThat(readings()).hasSize(n);
    assertThat(count("select count(*) from reading")).isZero();
  }

  @Test
  void a_chunk_that_was_changed_is_told_with_its_series_and_time() {
    history();
    seal("2026-11-26T03:00:00Z");
    CLUSTER.run(database, "update chunk set body = set_byte(body, 3, get_byte(body, 3) # 16)");
    assertThatThrownBy(this::samples)
        .hasMessageContaining("The chunk of series " + ids()[0] + " from 2026-11-24T00:00:00Z")
        .hasMessageContaining("its check sum does not fit");
  }

  @Test
  void what_fails_half_way_leaves_all_as_it_was_and_is_done_next_time() {
    history();
    List<StoredReading> readings = readings();
    Samples samples = samples();
    CLUSTER.run(
        database,
        "create function refuse() returns trigger language plpgsql as $$ begin"
            + " if new.from_at >= '2026-11-25 00:00+00' then raise exception"
            + " 'it is not to be'; end if; return new; end $$");
    for (String table : List.of("chunk", "step")) {
      CLUSTER.run(
          database,
          "create trigger refuse before insert on "
              + table
              + " for each row execute function refuse()");
      assertThat(seal("2026-11-26T03:00:00Z").failed()).isEqualTo(2);
      same(readings, samples);
      CLUSTER.run(database, "drop trigger refuse on " + table);
    }
    assertThat(seal("2026-11-26T03:01:00Z").days()).isEqualTo(2);
    same(readings, samples);
  }

  @Test
  void a_day_that_somebody_reads_is_dropped_later() throws Exception {
    history();
    try (Connection reader = CLUSTER.connect(database);
        Statement statement = reader.createStatement()) {
      reader.setAutoCommit(false);
      statement.execute("select * from reading limit 1");
      assertThat(seal("2026-11-26T03:00:00Z").dropped()).isZero();
      write(1, LAST.plusSeconds(10), List.of(USED), 9);
    }
    assertThat(seal("2026-11-26T03:01:00Z").dropped()).isEqualTo(2);
  }

  @Test
  void what_is_older_than_is_kept_goes_by_months_and_leaves_its_steps() {
    history();
    seal("2026-11-26T03:00:00Z");
    Steps before = days(ids()[0], 15).get(1);
    // nothing newer was read: by the clock alone nothing is old
    assertThat(ageOut("2028-01-26T00:00:00Z")).isZero();
    // the month ends with November, and 56 days after it with the 25th of January
    reads("2027-01-26T00:00:00Z");
    assertThat(ageOut("2027-01-25T23:59:59Z")).isZero();
    // what has no steps gets them first
    CLUSTER.run(database, "delete from step where from_at < '2026-11-25 00:00+00'");
    CLUSTER.run(database, "delete from step_month");
    assertThat(ageOut("2027-01-26T00:10:00Z")).isZero();
    assertThat(seal("2027-01-26T00:11:00Z").again()).isEqualTo(6);
    assertThat(days(ids()[0], 15)).hasSizeGreaterThan(2);
    assertThat(ageOut("2027-01-26T00:12:00Z")).isEqualTo(2);
    assertThat(readings()).isEmpty();
    assertThat(days(ids()[0], 1)).hasSizeGreaterThan(2);

    // what comes now for such a day can't be joined with it any more
    write(1, Instant.parse("2026-11-25T10:00:00.5Z"), List.of(USED), 4711);
    seal("2027-01-26T00:13:00Z");
    assertThat(days(ids()[0], 15).get(1).amount()).isEqualTo(before.amount());
    reads("2027-06-30T00:00:00Z");
    assertThat(ageOut("2027-05-30T00:00:00Z")).isPositive();
    assertThat(days(ids()[0], 1)).noneMatch(day -> day.from() < LAST.toEpochMilli() - DAY);
    assertThat(days(ids()[0], 15).get(1).amount()).isEqualTo(before.amount());
  }

  @Test
  void a_clock_that_leapt_drops_nothing_for_a_week() {
    history();
    seal("2026-11-26T03:00:00Z");
    Instant wrong = Instant.parse("2027-03-02T10:00:00Z");
    store.watching().add(Gap.notRunning(LAST.toEpochMilli(), wrong.toEpochMilli()));
    reads("2027-03-02T10:00:00Z");
    reads("2027-03-10T10:00:00Z");
    assertThat(ageOut("2027-03-09T09:59:00Z")).isZero();
    assertThat(ageOut("2027-03-09T10:01:00Z")).isEqualTo(2);
  }

  @Test
  void the_days_of_a_month_that_is_over_lie_in_one_row_and_what_comes_late_still_counts() {
    history();
    seal("2026-11-26T03:00:00Z");
    List<Steps> quarters = days(ids()[0], 15);
    List<Steps> coarse = days(ids()[0], 360);
    assertThat(quarters).hasSize(2);
    assertThat(coarse).extracting(Steps::size).containsExactly(4, 4);
    reads("2026-12-05T10:00:00Z");
    assertThat(count("select count(*) from step where minutes <> 1 and from_at < '2026-12-01'"))
        .isZero();
    // of each month of each series one row for each width
    assertThat(count("select count(*) from step_month")).isEqualTo(2 * 5);
    assertThat(amounts(days(ids()[0], 15).subList(0, 2))).isEqualTo(amounts(quarters));
    assertThat(amounts(days(ids()[0], 360).subList(0, 2))).isEqualTo(amounts(coarse));
    asOfReadings(ids()[0], Shape.LEVEL);

    write(1, Instant.parse("2026-11-25T10:00:00.5Z"), List.of(USED), 4711);
    seal("2026-12-05T13:01:00Z");
    assertThat(days(ids()[0], 360).get(1).greatest()[1]).isEqualTo(4711);
    assertThat(days(ids()[0], 15).get(1).greatest()[40]).isEqualTo(4711);
    asOfReadings(ids()[0], Shape.LEVEL);
    assertThat(count("select count(*) from step_month")).isEqualTo(2 * 5);
    assertThat(count("select count(*) from step where minutes <> 1 and from_at < '2026-12-01'"))
        .isZero();
  }

  private static List<String> amounts(List<Steps> days) {
    return days.stream()
        .map(day -> day.from() + " " + Arrays.toString(day.amount()) + Arrays.toString(day.least()))
        .toList();
  }

  /** Reads at a moment, and so much later that it is packed. */
  private void reads(String at) {
    Instant moment = Instant.parse(at);
    write(1, moment, List.of(USED), 1);
    store.readings().sealer().run(moment.plus(Duration.ofHours(3)));
  }

  private int ageOut(String now) {
    return store.readings().retention().run(Instant.parse(now), store.keeping().all());
  }

  @Test
  void a_restored_copy_answers_as_the_original_does(@TempDir Path folder) throws Exception {
    history();
    seal("2026-11-25T03:00:00Z");
    Path file = folder.resolve("copy");
    new ClusterCopy(CLUSTER.cluster()).write(database, file);
    List<StoredReading> readings = readings();
    Samples samples = samples();
    store.close();
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
        .isEqualTo("rw-------");

    // what is not whole leaves all as it is
    byte[] bytes = Files.readAllBytes(file);
    Path half = Files.write(folder.resolve("half"), Arrays.copyOf(bytes, bytes.length / 2));
    ClusterCopy copy = new ClusterCopy(CLUSTER.cluster());
    assertThatThrownBy(() -> copy.restore(half, database)).hasMessageContaining("pg_restore");
    assertThat(count("select count(*) from span_days")).isEqualTo(2);
    CLUSTER.run(database, "delete from chunk");

    copy.restore(file, database);
    reopen();
    same(readings, samples);
    assertThat(seal("2026-11-26T03:00:00Z").days()).isEqualTo(2);
    same(readings, samples);
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
    return store.readings().readings(instance, EVER, LAST.plusSeconds(3_600));
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
