package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.assertj.core.api.Assertions.withinPercentage;

import jamjar.collect.Collector.CountedStatements;
import jamjar.collect.HandClock;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.session.StatementText;
import jamjar.core.statement.Change;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** What is told of each statement, held against the engine's own view of it. */
class StatementLedgerTest {
  private final Engine engine = new Engine(TemporaryCluster.shared());
  private final HandClock clock = new HandClock(Instant.parse("2026-11-26T02:00:10Z"));
  private final PostgresCollector collector =
      PostgresCollector.of(
          engine.target(),
          RecipeFile.shipped("postgresql").recipe(),
          Pace.FAST,
          OwnCommits.after(Optional.empty(), ""),
          clock);

  @AfterEach
  void close() {
    collector.close();
  }

  private Reading read() throws Exception {
    return engine.derive(collector.read());
  }

  /** The next reading, so many seconds later, and what it told of its minute. */
  private Optional<CountedStatements> after(int seconds) throws Exception {
    clock.pass(Duration.ofSeconds(seconds));
    read();
    return collector.counted();
  }

  private StatementCounts of(Counted counted, String sql) {
    return counted
        .statements()
        .getOrDefault(
            new StatementKey(
                "postgres",
                engine.database,
                StatementText.of(sql.replace("#", "1")).fingerprint(),
                true),
            StatementCounts.NONE);
  }

  /** Calls and µs of a statement, as the engine itself tells them. */
  private long[] theirs(String like) throws SQLException {
    String sql =
        "select coalesce(sum(calls), 0), round(coalesce(sum(total_exec_time), 0) * 1000) from"
            + " pg_stat_statements s join pg_database d on d.oid = s.dbid"
            + " where d.datname = current_database() and query like ?";
    try (Connection connection = engine.cluster.connect(engine.database);
        PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setString(1, like);
      try (ResultSet row = statement.executeQuery()) {
        row.next();
        return new long[] {row.getLong(1), row.getLong(2)};
      }
    }
  }

  private void run(String sql, int times) throws SQLException {
    try (Connection connection = engine.cluster.connect(engine.database);
        Statement statement = connection.createStatement()) {
      for (int i = 0; i < times; i++) {
        statement.execute(sql.replace("#", Integer.toString(i)));
      }
    }
  }

  @Test
  void what_is_told_of_a_minute_equals_what_the_engine_counted() throws Exception {
    engine.cluster.run(engine.database, "create table berth (id int, deck text)");
    read();
    long[] before = theirs("select deck from berth%");
    run("select deck from berth where id = # and deck = 'secret-#'", 70);
    assertThat(after(10)).isEmpty();
    run("select deck from berth where id = # and deck = 'secret-#'", 30);
    CountedStatements told = after(50).orElseThrow();
    long[] then = theirs("select deck from berth%");
    StatementCounts ours = of(told.counted(), "select deck from berth where id = 1 and deck = ''");
    assertThat(then[0] - before[0]).isEqualTo(100);
    assertThat(ours.calls()).isEqualTo(100);
    assertThat(ours.timeUs()).isCloseTo(then[1] - before[1], withinPercentage(1));
    assertThat(told.counted().elapsedMs()).isEqualTo(60_000);
    assertThat(told.texts())
        .containsEntry(
            StatementText.of("select deck from berth where id = 1 and deck = ''").fingerprint(),
            "select deck from berth where id = ? and deck = ?");
    assertThat(told.texts().values().toString()).doesNotContain("secret");
    // told once, and its text not again
    assertThat(collector.counted()).isEmpty();
    run("select deck from berth where id = # and deck = 'secret-#'", 5);
    CountedStatements next = after(60).orElseThrow();
    assertThat(of(next.counted(), "select deck from berth where id = 1 and deck = ''").calls())
        .isEqualTo(5);
    assertThat(next.texts())
        .doesNotContainValue("select deck from berth where id = ? and deck = ?");
  }

  @Test
  void the_minute_and_the_totals_are_of_one_read() throws Exception {
    read();
    long told = 0;
    run("select # + 1 as berth_one", 20);
    clock.pass(Duration.ofSeconds(20));
    told += calls(read());
    run("select # + 1 as berth_two", 20);
    clock.pass(Duration.ofSeconds(40));
    told += calls(read());
    Counted counted = collector.counted().orElseThrow().counted();
    long sum = counted.statements().values().stream().mapToLong(StatementCounts::calls).sum();
    assertThat(sum).isEqualTo(told).isGreaterThanOrEqualTo(40);
  }

  private static long calls(Reading reading) {
    return (long) reading.values()[reading.series().indexOf(SeriesKey.of("statements.calls"))];
  }

  @Test
  void an_index_that_is_dropped_is_slower_and_twice_as_many_calls_are_more_often()
      throws Exception {
    engine.cluster.run(engine.database, "create table manifest (id int primary key, ship int)");
    engine.cluster.run(
        engine.database, "insert into manifest select n, n from generate_series(1, 50000) n");
    engine.cluster.run(engine.database, "create index manifest_ship on manifest (ship)");
    engine.cluster.run(engine.database, "analyze manifest");
    String seek = "select id from manifest where ship = #";
    String nap = "select pg_sleep(0.002) as nap";
    run(seek, 1);
    run(nap, 1);
    read();
    run(seek, 60);
    run(nap, 30);
    Counted before = after(60).orElseThrow().counted();
    engine.cluster.run(engine.database, "drop index manifest_ship");
    run(seek, 60);
    run(nap, 60);
    Counted now = after(60).orElseThrow().counted();

    Change ofSeek = change(seek, before, now);
    assertThat(ofSeek.kind()).isEqualTo(Change.Kind.BOTH);
    assertThat(ofSeek.slower()).isPositive();
    assertThat(ofSeek.moreOften()).isZero();
    assertThat(ofSeek.slower() + ofSeek.moreOften()).isEqualTo(ofSeek.total());
    // what it reads, not how fast this machine read it
    assertThat(blocks(of(now, seek))).isGreaterThan(5 * blocks(of(before, seek)));
    Change ofNap = change(nap, before, now);
    StatementCounts thirty = of(before, nap);
    StatementCounts sixty = of(now, nap);
    assertThat(thirty.calls()).isEqualTo(30);
    assertThat(sixty.calls()).isEqualTo(60);
    // half a call more each second, at the mean of both times of a call, each 2 ms at least
    double each = (thirty.timeUs() / 30.0 + sixty.timeUs() / 60.0) / 2e6;
    assertThat(each).isGreaterThanOrEqualTo(0.002);
    assertThat(ofNap.moreOften()).isCloseTo(0.5 * each, withinPercentage(0.01));
    assertThat(ofNap.moreOften() + ofNap.slower()).isCloseTo(ofNap.total(), within(1e-12));
  }

  private static long blocks(StatementCounts counts) {
    return counts.hit() + counts.read();
  }

  private Change change(String sql, Counted before, Counted now) {
    return Change.of(of(before, sql), before.elapsedMs(), of(now, sql), now.elapsedMs());
  }

  @Test
  void what_was_not_kept_is_told_again() throws Exception {
    read();
    run("select # as again", 3);
    CountedStatements told = after(60).orElseThrow();
    collector.dropped();
    assertThat(collector.counted()).hasValue(told);
    // the reading that was dropped took nothing with it
    run("select # as again", 4);
    clock.pass(Duration.ofSeconds(10));
    read();
    collector.dropped();
    run("select # as again", 5);
    assertThat(of(after(60).orElseThrow().counted(), "select 1 as again").calls()).isEqualTo(9);
  }

  @Test
  void an_engine_that_was_not_read_for_an_hour_tells_of_it_all() throws Exception {
    read();
    run("select # as late", 3);
    Counted hour = after(3_600).orElseThrow().counted();
    assertThat(hour.elapsedMs()).isEqualTo(3_600_000);
    assertThat(of(hour, "select 1 as late").calls()).isEqualTo(3);
    // a clock that is set back begins anew
    clock.pass(Duration.ofHours(-2));
    read();
    run("select # as late", 2);
    assertThat(of(after(60).orElseThrow().counted(), "select 1 as late").calls()).isEqualTo(2);
  }

  @Test
  void statements_that_are_reset_or_dropped_are_never_below_nothing() throws Exception {
    run("select # as kept", 50);
    read();
    run("select # as kept", 7);
    engine.cluster.run(
        engine.database,
        "select pg_stat_statements_reset(0, (select oid from pg_database where datname ="
            + " current_database()), 0)");
    run("select # as kept", 4);
    Counted counted = after(60).orElseThrow().counted();
    // at least what it was called since
    assertThat(of(counted, "select 1 as kept").calls()).isEqualTo(4);
    assertThat(counted.statements().values())
        .allSatisfy(
            counts -> {
              assertThat(counts.calls()).isNotNegative();
              assertThat(counts.timeUs()).isNotNegative();
              assertThat(counts.rows()).isNotNegative();
            });
  }

  @Test
  void a_password_and_what_is_copied_stand_in_no_text() throws Exception {
    read();
    engine.cluster.run(engine.database, "create role r_" + engine.database + " password 'p4nt3d'");
    engine.cluster.run(engine.database, "alter role r_" + engine.database + " password 'p4nt3d'");
    engine.cluster.run(engine.database, "set application_name = 'p4nt3d'");
    engine.cluster.run(engine.database, "drop role r_" + engine.database);
    CountedStatements told = after(60).orElseThrow();
    assertThat(told.texts().values().toString()).contains("create role").doesNotContain("p4nt3d");
    assertThat(told.counted().statements().keySet())
        .extracting(StatementKey::user)
        .contains("postgres");
  }

  @Test
  void with_texts_that_cannot_be_had_what_was_counted_stands_without() throws Exception {
    StatementLedger ledger = new StatementLedger();
    StatementLedger.Entry one = new StatementLedger.Entry(1, 2, 3, true);
    assertThat(ledger.read(clock.instant(), true, 0)).isFalse();
    clock.pass(Duration.ofSeconds(60));
    ledger.add(one, new long[] {3, 40, 0, 0, 0, 0});
    assertThat(ledger.read(clock.instant(), false, 2)).isTrue();
    try (Connection connection = engine.cluster.connect("template1")) {
      connection.setAutoCommit(false);
      // where the extension is not
      ledger.end(clock.instant(), connection, "nowhere", "true");
      try (Statement statement = connection.createStatement()) {
        statement.execute("select 1");
      }
    }
    CountedStatements told = ledger.told().orElseThrow();
    assertThat(told.counted().statements())
        .isEqualTo(Map.of(StatementKey.others(true), new StatementCounts(3, 40, 0, 0, 0, 0)));
    assertThat(told.counted().evicted()).isEqualTo(2);
    assertThat(told.texts().keySet()).isEqualTo(Set.of());
  }
}
