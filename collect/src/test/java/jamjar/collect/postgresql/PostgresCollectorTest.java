package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class PostgresCollectorTest {
  private final Engine engine = new Engine(TemporaryCluster.shared());
  private final OwnCommits own = OwnCommits.after(Optional.empty(), "");
  private final PostgresCollector collector =
      PostgresCollector.of(
          engine.target(),
          RecipeFile.shipped("postgresql").recipe(),
          Pace.FAST,
          own,
          Clock.systemUTC());

  @AfterEach
  void close() {
    collector.close();
  }

  @Test
  void every_counter_of_the_recipe_is_read_or_says_why_not() throws Exception {
    try (PostgresCollector slow =
        PostgresCollector.of(
            engine.target(),
            RecipeFile.shipped("postgresql").recipe(),
            Pace.SLOW,
            own,
            Clock.systemUTC())) {
      Reading fast = engine.derive(collector.read());
      Reading rest = new Engine(engine.cluster).derive(slow.read());
      Set<String> told =
          Stream.of(fast, rest)
              .flatMap(reading -> reading.series().stream())
              .map(SeriesKey::counter)
              .collect(Collectors.toSet());
      assertThat(Engine.RECIPE.counters().values())
          .filteredOn(counter -> counter.numerator().isEmpty())
          // single statements are counted, not read
          .filteredOn(counter -> Engine.RECIPE.pace(counter).isRead())
          .extracting(CounterDefinition::key)
          // a standby and a slot are labels that this engine does not have
          .filteredOn(key -> !key.matches("replication\\.(behind|slot_kept)_bytes"))
          // and it is read without encryption
          .filteredOn(key -> !key.equals("certificate.left"))
          .isSubsetOf(told);
    }
  }

  @Test
  void its_own_commits_are_subtracted_and_shown_apart() throws Exception {
    SeriesKey committed = SeriesKey.of("transactions.committed", "database", engine.database);
    // signing in, and what the driver sets then, are commits of a session too
    long before = commitsBooked();
    engine.cluster.connect(engine.database).close();
    engine.untilNobodyIsLeft();
    long signingIn = commitsBooked() - before;
    try (Connection connection = engine.cluster.connect(engine.database);
        Statement statement = connection.createStatement()) {
      engine.derive(collector.read());
      for (int i = 0; i < 25; i++) {
        statement.execute("select " + i);
      }
      // a session that ends hands in its counts for sure
    }
    double seen = 0;
    double ours = 0;
    long end = System.nanoTime() + 20_000_000_000L;
    // counts arrive a moment later; readings go on meanwhile and must not add their own
    while (seen < 25 && System.nanoTime() < end) {
      Reading reading = engine.derive(collector.read());
      seen += reading.value(committed);
      ours += reading.value(SeriesKey.of("own.commits"));
    }
    // the collector signed in as well, which is booked after its first reading
    assertThat(seen).isBetween(25.0, 25.0 + 2 * signingIn);
    assertThat(ours).isPositive();
  }

  @Test
  void an_engine_that_nobody_else_uses_commits_nothing() throws Exception {
    SeriesKey committed = SeriesKey.of("transactions.committed", "database", engine.database);
    engine.derive(collector.read());
    long booked = commitsBooked();
    double seen = 0;
    // the engine books a session's commits a second or more later
    while (commitsBooked() < booked + 30) {
      double value = engine.derive(collector.read()).value(committed);
      assertThat(value).isNotNaN();
      seen += value;
    }
    assertThat(seen).isBetween(0.0, 3.0);
  }

  private long commitsBooked() throws Exception {
    try (Connection connection = engine.cluster.connect("postgres");
        Statement statement = connection.createStatement();
        ResultSet row =
            statement.executeQuery(
                "select xact_commit from pg_stat_database where datname = '"
                    + engine.database
                    + "'")) {
      row.next();
      return row.getLong(1);
    }
  }

  @Test
  void its_own_session_is_left_out_and_counted_apart() throws Exception {
    Reading reading = engine.derive(collector.read());
    assertThat(reading.value(SeriesKey.of("own.sessions"))).isGreaterThanOrEqualTo(1);
    assertThat(reading.value(SeriesKey.of("connections.used")))
        .isEqualTo(
            reading.value(SeriesKey.of("sessions.total"))
                + reading.value(SeriesKey.of("own.sessions")));
  }

  @Test
  void an_exclusive_lock_on_a_large_table_neither_delays_nor_blanks_sessions_and_locks()
      throws Exception {
    engine.cluster.run(
        engine.database, "create table large as select generate_series(1, 200000) as n");
    engine.cluster.run(engine.database, "analyze large");
    try (Connection holder = engine.cluster.connect(engine.database);
        Statement statement = holder.createStatement();
        PostgresCollector slow =
            PostgresCollector.of(
                engine.target(),
                RecipeFile.shipped("postgresql").recipe(),
                Pace.SLOW,
                own,
                Clock.systemUTC())) {
      holder.setAutoCommit(false);
      statement.execute("lock table large in access exclusive mode");
      RawReading fast = collector.read();
      assertThat(fast.failed()).isEmpty();
      assertThat(fast.complete()).contains("sessions", "locks", "databases", "statements");
      Reading slowly = new Engine(engine.cluster).derive(slow.read());
      SeriesKey size = SeriesKey.of("size.table", "table", "large");
      assertThat(slowly.why()[slowly.series().indexOf(size)]).isEqualTo(WhyNothing.CUT_OFF);
      assertThat(slowly.value(SeriesKey.of("tables.live_rows"))).isPositive();
    }
  }

  @Test
  void who_holds_the_oldest_snapshot_is_told_and_what_the_idle_in_transaction_hold()
      throws Exception {
    TemporaryCluster alone = TemporaryCluster.start(Map.of("max_prepared_transactions", "2"));
    Engine of = new Engine(alone);
    try (Connection changes = alone.connect(of.database);
        Connection snapshot = alone.connect(of.database);
        Connection nothing = alone.connect(of.database);
        PostgresCollector reads =
            PostgresCollector.of(
                of.target(),
                RecipeFile.shipped("postgresql").recipe(),
                Pace.FAST,
                own,
                Clock.systemUTC())) {
      for (Connection one : List.of(changes, snapshot, nothing)) {
        one.setAutoCommit(false);
      }
      snapshot.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
      try (Statement ofChanges = changes.createStatement();
          Statement ofSnapshot = snapshot.createStatement();
          Statement ofNothing = nothing.createStatement()) {
        // the prepared one is the oldest, by ten transactions
        ofChanges.execute("create table prepared as select 1");
        ofChanges.execute("prepare transaction 'left behind'");
        for (int i = 0; i < 10; i++) {
          alone.run(of.database, "select txid_current()");
        }
        ofChanges.execute("select txid_current()");
        ofSnapshot.execute("select 1");
        // a query would hold its snapshot until the next one, as the driver leaves it open
        ofNothing.execute("set local statement_timeout = 60000");
        Reading reading = of.derive(reads.read());
        for (String held : List.of("changes", "a snapshot", "locks or nothing")) {
          assertThat(reading.value(SeriesKey.of("sessions.idle_holding", "holds", held)))
              .as(held)
              .isEqualTo(1);
        }
        double prepared = held(reading, "prepared transaction");
        assertThat(prepared).isGreaterThanOrEqualTo(10);
        // a snapshot taken while that one runs needs as much
        assertThat(held(reading, "session")).isBetween(1.0, prepared);
        assertThat(held(reading, "slot")).isZero();
        assertThat(reading.value(SeriesKey.of("transactions.oldest_snapshot"))).isEqualTo(prepared);
      }
    } finally {
      alone.cluster().remove();
    }
  }

  @Test
  void a_slot_that_fell_behind_what_is_kept_has_lost_its_log_and_nobody_reads_it()
      throws Exception {
    TemporaryCluster alone = TemporaryCluster.start(Map.of("max_slot_wal_keep_size", "1MB"));
    Engine of = new Engine(alone);
    try (PostgresCollector reads =
        PostgresCollector.of(
            of.target(),
            RecipeFile.shipped("postgresql").recipe(),
            Pace.FAST,
            own,
            Clock.systemUTC())) {
      alone.run(of.database, "select pg_create_physical_replication_slot('behind', true)");
      Reading well = of.derive(reads.read());
      assertThat(well.value(SeriesKey.of("replication.slots_lost"))).isZero();
      assertThat(well.value(SeriesKey.of("replication.slots_unused"))).isEqualTo(1);
      for (int i = 0; i < 4; i++) {
        alone.run(of.database, "select txid_current(), pg_switch_wal()");
      }
      alone.run(of.database, "checkpoint");
      Reading lost = of.derive(reads.read());
      assertThat(lost.value(SeriesKey.of("replication.slots_lost"))).isEqualTo(1);
      assertThat(lost.value(SeriesKey.of("replication.slots_unused"))).isEqualTo(1);
    } finally {
      alone.cluster().remove();
    }
  }

  private static double held(Reading reading, String owner) {
    return reading.value(SeriesKey.of("transactions.snapshot_held", "owner", owner));
  }

  @Test
  void without_the_right_to_see_all_sessions_it_says_not_permitted_instead_of_a_wrong_number()
      throws Exception {
    engine.cluster.run(
        engine.database, "create role blind_" + engine.database + " login password 'b'");
    try (PostgresCollector blind =
        PostgresCollector.of(
            engine.target("blind_" + engine.database, "b"),
            RecipeFile.shipped("postgresql").recipe(),
            Pace.FAST,
            own,
            Clock.systemUTC())) {
      RawReading raw = blind.read();
      assertThat(raw.failed())
          .containsEntry("sessions", WhyNothing.NOT_PERMITTED)
          .containsEntry("statements", WhyNothing.NOT_PERMITTED);
      assertThat(raw.complete()).contains("databases");
    }
  }

  @Test
  void a_statistics_reset_makes_no_spike() throws Exception {
    engine.derive(collector.read());
    engine.derive(collector.read());
    engine.cluster.run(engine.database, "select pg_stat_reset()");
    // those of this database: others are looked at by other tests
    engine.cluster.run(
        engine.database,
        "select pg_stat_statements_reset(0, (select oid from pg_database where datname ="
            + " current_database()), 0)");
    SeriesKey committed = SeriesKey.of("transactions.committed", "database", engine.database);
    Reading first = engine.derive(collector.read());
    Reading second = engine.derive(collector.read());
    for (Reading reading : new Reading[] {first, second}) {
      assertThat(reading.value(committed))
          .satisfiesAnyOf(v -> assertThat(v).isNaN(), v -> assertThat(v).isBetween(0.0, 20.0));
    }
    assertThat(first.value(committed)).isNaN();
  }

  @Test
  void a_session_that_was_ended_over_there_is_said_so_and_the_next_reading_works()
      throws Exception {
    collector.read();
    engine.cluster.run(
        "postgres",
        "select pg_terminate_backend(pid) from pg_stat_activity where application_name ="
            + " 'jamjar-fast' and datname = '"
            + engine.database
            + "'");
    CollectFailed failed = catchThrowableOfType(CollectFailed.class, collector::read);
    assertThat(failed.refusal().reason()).isEqualTo(Reason.BROKEN_OFF);
    assertThat(collector.read().complete()).contains("sessions");
  }

  @Test
  void the_password_is_in_no_message() {
    PostgresCollector wrong =
        PostgresCollector.of(
            engine.target(Engine.READER, "planted-secret"),
            RecipeFile.shipped("postgresql").recipe(),
            Pace.FAST,
            own,
            Clock.systemUTC());
    CollectFailed failed = catchThrowableOfType(CollectFailed.class, wrong::read);
    assertThat(failed.refusal().reason()).isEqualTo(Reason.SIGN_IN);
    for (Throwable t = failed; t != null; t = t.getCause()) {
      assertThat(t.toString()).doesNotContain("planted-secret");
    }
    assertThat(engine.target(Engine.READER, "planted-secret").toString())
        .doesNotContain("planted-secret");
  }
}
