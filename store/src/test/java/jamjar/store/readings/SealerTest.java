package jamjar.store.readings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.chart.Samples;
import jamjar.core.counter.Shape;
import jamjar.core.reading.SeriesKey;
import jamjar.store.cluster.ClusterCopy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SealerTest extends PackedHistory {

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
  void many_that_come_late_together_find_their_places() {
    history();
    seal("2026-11-26T03:00:00Z");
    int n = readings().size();
    Instant late = Instant.parse("2026-11-25T10:00:00.5Z");
    store
        .readings()
        .write(
            IntStream.range(0, 20)
                .mapToObj(i -> kept(1, 10, late.plusSeconds(10L * i), List.of(USED), 4711))
                .toList());
    assertThat(seal("2026-11-26T03:01:00Z").again()).isEqualTo(1);
    assertThat(readings()).hasSize(n + 20);
  }

  @Test
  void what_comes_late_just_before_the_first_of_all_is_there_once() {
    history();
    int n = readings().size();
    write(1, FIRST.minusSeconds(60), List.of(USED), 4711);
    assertThat(seal("2026-11-24T21:20:00Z").again()).isEqualTo(1);
    List<StoredReading> all = readings();
    assertThat(all).hasSize(n + 1).extracting(StoredReading::at).contains(FIRST.minusSeconds(60));
    seal("2026-11-24T22:05:00Z");
    assertThat(readings()).hasSize(n + 1);
    seal("2026-11-26T03:00:00Z");
    assertThat(readings()).hasSize(n + 1).extracting(StoredReading::at).isSorted();
    asOfReadings(ids()[0], Shape.LEVEL);
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
}
