package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.collect.HandClock;
import jamjar.collect.Sampler.ReadLog;
import jamjar.collect.Target;
import jamjar.core.log.LogEntry;
import jamjar.core.log.Logged;
import jamjar.core.session.Forest;
import jamjar.core.session.Sample;
import jamjar.core.session.StatementText;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** An engine that writes its log where it may be read: what happens there for real is told. */
class LogReaderTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final ExecutorService THREADS = Executors.newCachedThreadPool();
  private static TemporaryCluster engine;

  private final Hand clock = new Hand();
  private PostgresSampler sampler;
  private final Map<Long, String> texts = new HashMap<>();

  /** A clock that goes on by a quarter of a minute with each look at it. */
  private static final class Hand extends HandClock {
    Hand() {
      super(Instant.now());
    }

    @Override
    public Instant instant() {
      pass(Duration.ofSeconds(15));
      return super.instant();
    }
  }

  @BeforeAll
  static void start() throws Exception {
    engine =
        TemporaryCluster.start(
            Map.of(
                "logging_collector", "on",
                "log_destination", "csvlog",
                "log_min_duration_statement", "100ms",
                "log_lock_waits", "on",
                "deadlock_timeout", "3s",
                "log_timezone", "Europe/Oslo"));
    engine.run("postgres", "create role reader login password 'p' in role pg_monitor");
    engine.run(
        "postgres",
        "grant execute on function pg_read_binary_file(text, bigint, bigint, boolean) to reader");
    engine.run("postgres", "create role nobody login password 'p' in role pg_monitor");
    engine.run("postgres", "create table tally (id int primary key, n int)");
    engine.run("postgres", "insert into tally values (1, 0), (2, 0)");
  }

  @AfterAll
  static void end() throws Exception {
    THREADS.shutdownNow();
    engine.cluster().remove();
  }

  @BeforeEach
  void open() throws Exception {
    sampler = sampler("reader");
    // it begins where the log ends
    sampler.sample();
  }

  @AfterEach
  void close() {
    sampler.close();
  }

  private PostgresSampler sampler(String role) {
    Target target =
        new Target("127.0.0.1", engine.cluster().port(), "postgres", Target.Tls.OFF, "", role, "p");
    return new PostgresSampler(target, OwnCommits.after(Optional.empty(), ""), clock);
  }

  /** Reads on until a line of a kind came. */
  private List<LogEntry> until(LogEntry.Kind kind) throws Exception {
    List<LogEntry> all = new ArrayList<>();
    long by = System.nanoTime() + SOON.toNanos();
    while (all.stream().noneMatch(entry -> entry.kind() == kind)) {
      assertThat(System.nanoTime()).as("a line of " + kind).isLessThan(by);
      sampler.sample();
      sampler
          .log()
          .ifPresent(
              read -> {
                assertThat(read.unread()).isEmpty();
                texts.putAll(read.texts());
                read.logged().ifPresent(logged -> all.addAll(logged.entries()));
              });
    }
    return all;
  }

  private static void fails(String sql) throws SQLException {
    try (Connection connection = engine.connect("postgres");
        Statement statement = connection.createStatement()) {
      assertThatThrownBy(() -> statement.execute(sql)).isInstanceOf(SQLException.class);
    }
  }

  @Test
  void a_slow_one_and_a_cancelled_one_and_an_error_are_told_without_their_values()
      throws Exception {
    engine.run("postgres", "select pg_sleep(0.3), 'planted'");
    LogEntry slow = until(LogEntry.Kind.FINISHED).get(0);
    assertThat(slow.durationUs()).isBetween(300_000L, 20_000_000L);
    assertThat(slow.user()).isEqualTo("postgres");
    assertThat(slow.at()).isBetween(System.currentTimeMillis() - 60_000, Long.MAX_VALUE);
    assertThat(texts.get(slow.statement())).isEqualTo("select pg_sleep(?), ?");

    fails("set statement_timeout = 50; select pg_sleep(20), 'planted'");
    LogEntry cancelled = until(LogEntry.Kind.CANCELLED).get(0);
    assertThat(cancelled.state()).isEqualTo("57014");
    assertThat(cancelled.message()).isEqualTo("canceling statement due to statement timeout");

    fails("select 'planted'::int");
    fails("alter role nobody password 'planted' nonsense");
    fails("do $$ begin raise exception 'guest planted is not found'; end $$");
    engine.run(
        "postgres",
        "do $$ begin raise log 'process 99999999999 acquired ShareLock on planted after 1.000 ms';"
            + " raise log 'duration: 9999.000 ms  statement: select planted'; end $$");
    List<LogEntry> errors = until(LogEntry.Kind.ERROR);
    while (errors.stream().noneMatch(line -> line.state().equals("P0001"))) {
      errors.addAll(until(LogEntry.Kind.ERROR));
    }
    assertThat(errors).noneMatch(line -> line.durationUs() > 9_000_000);
    assertThat(errors.get(0).message()).contains("invalid input syntax for type integer");
    assertThat(errors + texts.toString()).doesNotContain("planted");
  }

  @Test
  void a_circle_is_seen_counted_once_and_its_parties_are_named() throws Exception {
    try (Connection one = engine.connect("postgres");
        Connection two = engine.connect("postgres")) {
      one.setAutoCommit(false);
      two.setAutoCommit(false);
      run(one, "update tally set n = 111 where id = 1");
      run(two, "update tally set n = 222 where id = 2");
      Future<?> first = THREADS.submit(() -> run(one, "update tally set n = 112 where id = 2"));
      Future<?> second = THREADS.submit(() -> run(two, "update tally set n = 221 where id = 1"));
      Sample before = circle();
      Sample again = circle();
      assertThat(Forest.of(again).cycles()).hasSize(1).isEqualTo(Forest.of(before).cycles());
      List<LogEntry> lines = until(LogEntry.Kind.DEADLOCK);
      LogEntry deadlock =
          lines.stream().filter(l -> l.kind() == LogEntry.Kind.DEADLOCK).findFirst().orElseThrow();
      assertThat(deadlock.state()).isEqualTo("40P01");
      assertThat(deadlock.parties()).hasSize(2);
      LogEntry.Party victim = deadlock.parties().get(0);
      assertThat(victim.pid()).isEqualTo(deadlock.pid());
      assertThat(victim.blocker()).isEqualTo(deadlock.parties().get(1).pid());
      assertThat(victim.wants()).isEqualTo("ShareLock on transaction ?");
      assertThat(victim.statement())
          .isEqualTo(StatementText.of("update tally set n = 1 where id = 1").fingerprint());
      one.rollback();
      two.rollback();
      assertThat(List.of(first, second)).allSatisfy(done -> done.get());
    }
  }

  @Test
  void who_waited_for_a_lock_says_how_long_once_it_has_it() throws Exception {
    try (Connection holder = engine.connect("postgres");
        Connection waiter = engine.connect("postgres")) {
      holder.setAutoCommit(false);
      run(holder, "update tally set n = 1 where id = 1");
      Future<?> waits = THREADS.submit(() -> run(waiter, "update tally set n = 2 where id = 1"));
      long by = System.nanoTime() + SOON.toNanos();
      Sample sample;
      do {
        assertThat(System.nanoTime()).as("it waits for so long that it is logged").isLessThan(by);
        sample = sampler.sample().sample();
      } while (longest(sample) < 3_300);
      holder.rollback();
      waits.get();
    }
    LogEntry waited =
        until(LogEntry.Kind.WAITED).stream()
            .filter(line -> line.kind() == LogEntry.Kind.WAITED)
            .findFirst()
            .orElseThrow();
    assertThat(waited.durationUs()).isBetween(3_000_000L, 60_000_000L);
    assertThat(waited.message()).isEqualTo("ShareLock on transaction ?");
    assertThat(texts.get(waited.statement())).isEqualTo("update tally set n = ? where id = ?");
  }

  private static long longest(Sample sample) {
    return sample.sessions().stream()
        .mapToLong(session -> session.waitedMs(sample.engineAt()))
        .max()
        .orElse(0);
  }

  /** A sample in which both wait for each other. */
  private Sample circle() throws Exception {
    long by = System.nanoTime() + SOON.toNanos();
    Sample sample;
    do {
      assertThat(System.nanoTime()).as("both wait").isLessThan(by);
      sample = sampler.sample().sample();
    } while (sample.sessions().stream().filter(s -> !s.blockers().isEmpty()).count() < 2);
    return sample;
  }

  private static Void run(Connection connection, String sql) {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      // one of the two is cancelled
      assertThat(e.getSQLState()).isEqualTo("40P01");
    }
    return null;
  }

  @Test
  void a_file_that_is_begun_anew_is_read_on_and_what_was_not_kept_is_read_again() throws Exception {
    engine.run("postgres", "select pg_sleep(0.11) as before_it");
    until(LogEntry.Kind.FINISHED);
    engine.run("postgres", "select pg_rotate_logfile()");
    engine.run("postgres", "select pg_sleep(0.12) as after_it");
    List<LogEntry> after = until(LogEntry.Kind.FINISHED);
    assertThat(texts.get(after.get(0).statement())).contains("after_it");
    sampler.dropped();
    assertThat(until(LogEntry.Kind.FINISHED)).isEqualTo(after);
    // another one goes on from where it was read to
    sampler.sample();
    engine.run("postgres", "select pg_sleep(0.13) as meanwhile");
    ReadLog last = null;
    Logged place = null;
    while (place == null) {
      sampler.sample();
      last = sampler.log().orElse(last);
      place = last == null ? null : last.logged().orElse(null);
    }
    sampler.close();
    sampler = sampler("reader");
    sampler.readOnFrom(place);
    engine.run("postgres", "select pg_sleep(0.14) as later");
    List<LogEntry> on = until(LogEntry.Kind.FINISHED);
    assertThat(on)
        .extracting(entry -> texts.get(entry.statement()))
        .anyMatch(t -> t.contains("later"));
  }

  @Test
  void with_the_function_that_it_is_told_of_a_role_may_read_the_log_and_no_other_file()
      throws Exception {
    engine.run("postgres", "create role limited login password 'p' in role pg_monitor");
    try (PostgresSampler other = sampler("limited")) {
      other.sample();
      String told = other.log().orElseThrow().unread();
      // as a person does it: what stands there is run
      engine.run("postgres", told.substring(told.indexOf("create schema")));
    }
    sampler.close();
    sampler = sampler("limited");
    sampler.sample();
    engine.run("postgres", "select pg_sleep(0.15) as by_the_function");
    LogEntry slow = until(LogEntry.Kind.FINISHED).get(0);
    assertThat(texts.get(slow.statement())).contains("by_the_function");
    try (Connection connection = engine.connect("postgres");
        Statement statement = connection.createStatement()) {
      statement.execute("set role limited");
      for (String file : List.of("../pg_hba.conf", "/etc/passwd", "x.csv/../../pg_hba.conf")) {
        try (var row = statement.executeQuery("select jamjar.read_log('" + file + "', 0, 100)")) {
          row.next();
          assertThat(row.getBytes(1)).as(file).isNull();
        }
      }
      assertThatThrownBy(
              () -> statement.execute("select pg_read_binary_file('pg_hba.conf', 0, 10, true)"))
          .hasMessageContaining("permission denied");
    }
  }

  @Test
  void who_may_not_read_it_is_told_what_to_grant() throws Exception {
    // that there is a function for others changes nothing
    engine.run("postgres", PostgresSampler.mayReadLog("postgres"));
    try (PostgresSampler other = sampler("nobody")) {
      other.sample();
      assertThat(other.log().orElseThrow().unread())
          .contains("nobody may not read the engine's log")
          .contains(
              "grant execute on function jamjar.read_log(text, bigint, bigint) to \"nobody\";");
      assertThat(other.log().orElseThrow().logged()).isEmpty();
    }
  }
}
