package jamjar.store.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.baseline.Normal;
import jamjar.core.counter.WhyNothing;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import jamjar.core.limit.Severity;
import jamjar.core.limit.Transition;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.watching.Gap;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.cluster.ClusterCopy;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.facts.FactRow;
import jamjar.store.journal.FileJournal;
import jamjar.store.journal.LocalFiles;
import jamjar.store.readings.Instances;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.StoredReading;
import jamjar.store.silences.Silence;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class IntakeTest {
  private static final Instant AT = Instant.parse("2026-11-26T10:00:00.123456Z");
  private static final Instant EVER = Instant.parse("2026-11-01T00:00:00Z");
  private static final Clock CLOCK = Clock.fixed(AT.plusSeconds(3_600), ZoneOffset.UTC);
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final long PLENTY = 1L << 30;
  private static final SeriesKey USED = SeriesKey.of("used");
  private static final TemporaryCluster CLUSTER = TemporaryCluster.start(Map.of());

  @TempDir private Path folder;
  private final List<String> told = Collections.synchronizedList(new ArrayList<>());
  private String database = CLUSTER.newDatabase();
  private UnsyncedFiles files;
  private Store store;
  private Intake intake;
  private int instance;
  private long seq;

  @AfterAll
  static void end() {
    CLUSTER.cluster().remove();
  }

  @BeforeEach
  void open() throws Exception {
    reopen();
    instance = store.instances().add(Instances.named("booking-db-a"));
  }

  private void reopen() throws Exception {
    openUnstarted();
    intake.start();
  }

  /** What is kept waits as if the database were away. */
  private void openUnstarted() throws Exception {
    store = Store.open(CLUSTER.cluster().url(database), "postgres", CLUSTER.cluster().password());
    intake = store.intake(folder.resolve("journal"), this::files, PLENTY, CLOCK, told::add);
  }

  private UnsyncedFiles files(Path in) throws IOException {
    files = new UnsyncedFiles(new LocalFiles(in));
    return files;
  }

  @AfterEach
  void close() throws Exception {
    intake.close();
    store.close();
  }

  @Test
  void all_that_is_kept_comes_into_the_database_in_its_order() throws Exception {
    keep(USED, 1);
    intake.silent(Silence.since(AT.plusSeconds(20), instance, 1, "refused", "nobody listens"));
    intake.answers(instance, 1, AT.plusSeconds(30));
    intake.silent(Silence.since(AT.plusSeconds(40), instance, 1, "refused", "still nobody"));
    intake.facts(instance, AT, List.of(), Map.of("version", "15"), Optional.empty());
    intake.facts(
        instance,
        AT.plusSeconds(60),
        List.of("version"),
        Map.of("version", "16"),
        Optional.empty());
    intake.beat(AT.plusSeconds(70));
    intake.notWatched(Gap.notRunning(1_000, 2_000), Optional.empty());
    intake.awaitBrought(SOON);

    assertThat(store.silences().touching(instance, EVER, AT.plusSeconds(100)))
        .extracting(Silence::to)
        .containsExactly(AT.plusSeconds(30), null);
    assertThat(store.facts().all(instance)).extracting(FactRow::value).containsExactly("16", "15");
    assertThat(store.watching().lastKnown()).hasValue(AT.plusSeconds(70));
    assertThat(store.watching().touching(Instant.EPOCH, EVER)).hasSize(1);
    assertThat(told).contains("markers");
    assertThat(intake.behindBytes()).isZero();
    assertThat(intake.behindSeconds()).isZero();
  }

  @Test
  void new_series_and_many_readings_wait_for_no_database_and_are_there_once_after_it()
      throws Exception {
    keep(USED, 1);
    intake.awaitBrought(SOON);
    CLUSTER.signal("KILL");
    CLUSTER.awaitEnd();
    for (int i = 0; i < 300; i++) {
      keep(SeriesKey.of("pool", "pool", "p" + i % 40), i);
    }
    assertThatThrownBy(() -> intake.awaitBrought(Duration.ofMillis(1)))
        .matches(StoreAway::is, "is told as the database being away");
    assertThat(intake.behindBytes()).isPositive();
    // the server ends as well; what it kept is brought by the next one, before it does anything
    intake.close();
    store.close();
    CLUSTER.startAgain();
    reopen();

    List<StoredReading> all = readings();
    assertThat(all).hasSize(301);
    assertThat(IntStream.range(1, 301).mapToObj(i -> all.get(i).values()[0]))
        .isEqualTo(IntStream.range(0, 300).mapToObj(i -> (double) i).toList());
    assertThat(store.readings().lastSeq(instance, 1)).isEqualTo(301);
    assertThat(store.readings().series(instance)).hasSize(41);
    // numbers go on where they were
    keep(SeriesKey.of("pool", "pool", "p7"), 1);
    intake.awaitBrought(SOON);
    assertThat(store.readings().series(instance)).hasSize(41);
    assertThat(readings()).hasSize(302);
  }

  @Test
  void what_one_thing_is_told_of_again_and_again_while_the_database_is_away_comes_as_one()
      throws Exception {
    close();
    openUnstarted();
    told.clear();
    intake.notWatched(Gap.notRunning(1_000, 2_000), Optional.empty());
    for (int i = 1; i <= 3; i++) {
      keep(USED, i, new Judged(instance, List.of(building(i)), List.of(USED)));
    }
    for (String why : List.of("refused", "timed out")) {
      intake.silent(Silence.since(AT.plusSeconds(20), instance, 1, why, "nobody"));
    }
    intake.decided(AT);
    intake.decided(AT.plusSeconds(60));
    intake.notWatched(Gap.notRunning(3_000, 4_000), Optional.empty());
    intake.start();
    intake.awaitBrought(SOON);

    // brought in parts it would be told once each
    assertThat(told).containsOnlyOnce("markers");
    assertThat(store.silences().touching(instance, EVER, AT.plusSeconds(100)))
        .extracting(Silence::reason)
        .containsExactly("timed out");
    assertThat(store.telling().decidedUntil()).hasValue(AT.plusSeconds(60));
    assertThat(store.states().ofInstance(instance).values())
        .extracting(LimitState::worst)
        .containsExactly(3.0);
  }

  /** A limit that is passed for so many readings by now. */
  private static Docket.Change building(int passes) {
    LimitState.Standing standing =
        new LimitState.Standing(
            AlertState.BUILDING,
            AlertState.BUILDING,
            Severity.NONE,
            (1L << passes) - 1,
            0,
            AT.toEpochMilli(),
            passes,
            passes,
            -1,
            0,
            new long[0],
            false,
            null);
    LimitState before = LimitState.calm(passes - 1);
    return new Docket.Change(
        new Docket.Key(1, Condition.ABOVE), 0, before, new LimitState(standing, passes), List.of());
  }

  @Test
  void what_the_database_lost_when_it_was_killed_is_brought_again() throws Exception {
    for (int round = 0; round < 2; round++) {
      for (int i = 0; i < 200; i++) {
        keep(USED, i);
      }
      intake.awaitBrought(SOON);
      // it does not wait for its disk: some of that is gone
      CLUSTER.signal("KILL");
      CLUSTER.awaitEnd();
      CLUSTER.startAgain();
      keep(USED, round);
      awaitCount(201 * (round + 1));
    }
    assertThat(readings()).extracting(StoredReading::at).isSorted().doesNotHaveDuplicates();
  }

  private void awaitCount(int wanted) throws InterruptedException {
    long until = System.nanoTime() + SOON.toNanos();
    while (stored() < wanted && System.nanoTime() < until) {
      Thread.sleep(20);
    }
    assertThat(stored()).isEqualTo(wanted);
  }

  /** How many are; none as long as the connections are not back. */
  private long stored() {
    try {
      return store.readings().count(instance, 1);
    } catch (RuntimeException e) {
      assertThat(StoreAway.is(e)).isTrue();
      return -1;
    }
  }

  @Test
  void one_that_the_database_refuses_is_put_aside_with_its_cause_and_the_others_come_in()
      throws Exception {
    CLUSTER.run(
        database,
        "create function refuse() returns trigger language plpgsql as $$ begin if new.seq % 50 = 7"
            + " then raise exception 'seven is not to be'; end if; return new; end $$");
    CLUSTER.run(
        database,
        "create trigger refuse before insert on reading for each row execute function refuse()");
    for (int i = 0; i < 200; i++) {
      keep(USED, i);
    }
    intake.awaitBrought(SOON);
    assertThat(readings()).hasSize(196);
    assertThat(one("select count(*) from set_aside where why like '%seven is not to be%'"))
        .isEqualTo("4");
  }

  @Test
  void what_can_t_be_synced_is_kept_all_the_same_and_counts_once() throws Exception {
    files.refusing(true);
    keep(USED, 1);
    Docket.Change change =
        new Docket.Change(
            new Docket.Key(1, Condition.ABOVE),
            0,
            LimitState.calm(1),
            LimitState.calm(2),
            List.of(
                new Transition(
                    1, 2, AlertState.CALM, AlertState.BUILDING, 14, Normal.NONE, 10, 1.4)));
    Judged passed = new Judged(instance, List.of(change), List.of(USED));
    int before = files.refused();
    intake.judged(passed, AT);
    assertThat(files.refused()).isGreaterThan(before);
    intake.awaitBrought(SOON);
    assertThat(readings()).hasSize(1);
    files.refusing(false);
    keep(USED, 2);
    close();
    reopen();
    assertThat(readings()).extracting(r -> r.values()[0]).containsExactly(1.0, 2.0);
  }

  @Test
  void another_database_begins_with_an_empty_journal_and_what_the_old_one_held_is_put_aside()
      throws Exception {
    keep(USED, 1);
    intake.awaitBrought(SOON);
    String before = database;
    close();
    database = CLUSTER.newDatabase();
    reopen();
    assertThat(store.instances().all()).isEmpty();
    assertThat(store.watching().touching(Instant.EPOCH, CLOCK.instant()))
        .singleElement()
        .satisfies(gap -> assertThat(gap.words()).contains("another one than the journal's"));
    try (var folders = Files.list(folder)) {
      assertThat(folders).hasSize(2);
    }
    close();
    // and so does the first one, as it is not the journal's any more
    database = before;
    reopen();
    assertThat(readings()).hasSize(1);
    keep(USED, 2);
    intake.awaitBrought(SOON);
    assertThat(readings()).hasSize(2);
  }

  @Test
  void an_earlier_copy_of_the_database_gets_what_the_journal_still_holds() throws Exception {
    keep(USED, 1);
    intake.awaitBrought(SOON);
    ClusterCopy copy = new ClusterCopy(CLUSTER.cluster());
    Path file = folder.resolve("copy");
    copy.write(database, file);
    keep(USED, 2);
    keep(SeriesKey.of("new"), 3);
    intake.awaitBrought(SOON);
    close();
    copy.restore(file, database);
    reopen();
    assertThat(readings()).hasSize(3);
    assertThat(store.readings().series(instance)).hasSize(2);
  }

  @Test
  void an_entry_that_is_not_known_is_put_aside() throws Exception {
    close();
    try (FileJournal journal =
        new FileJournal(new LocalFiles(folder.resolve("journal")), PLENTY, PLENTY)) {
      journal.append(new byte[] {99, 1, 2});
      journal.append(new byte[] {5, '{'});
    }
    reopen();
    keep(USED, 1);
    intake.awaitBrought(SOON);
    assertThat(readings()).hasSize(1);
    assertThat(one("select string_agg(why, ' / ' order by id) from set_aside"))
        .contains("an entry of kind 99 is not known here")
        .contains("an entry of kind 5 can't be read");
  }

  private void keep(SeriesKey series, double value) {
    keep(series, value, Judged.NOTHING);
  }

  private void keep(SeriesKey series, double value, Judged judged) {
    Instant at = AT.plusMillis(10 * seq);
    Reading reading =
        new Reading(at, 1_000, List.of(series), new double[] {value}, new WhyNothing[1]);
    LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
    intake.reading(
        new KeptReading(instance, 1, 1, ++seq, at, new Increases.Step(reading, last), judged));
  }

  private List<StoredReading> readings() {
    return store.readings().readings(instance, EVER, AT.plusSeconds(3_600));
  }

  private String one(String sql) throws Exception {
    try (Connection connection = CLUSTER.connect(database);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getString(1);
    }
  }
}
