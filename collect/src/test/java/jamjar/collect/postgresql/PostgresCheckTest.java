package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.Between;
import jamjar.collect.CheckResult;
import jamjar.collect.CheckResult.Outcome;
import jamjar.collect.SelfSigned;
import jamjar.collect.Target;
import jamjar.collect.Target.Tls;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.store.cluster.OtherClock;
import jamjar.store.cluster.TemporaryCluster;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Each thing that can be wrong with an engine is made wrong, the advised commands are run there as
 * they stand, and it is right.
 */
class PostgresCheckTest {
  private static TemporaryCluster cluster;
  private static Engine engine;

  @BeforeAll
  static void start() {
    cluster =
        TemporaryCluster.start(
            Map.of("autovacuum_naptime", "1d", "shared_preload_libraries", "auto_explain"));
    // what is created is created by the advised command alone
    engine = new Engine(cluster);
    cluster.run(engine.database, "drop extension pg_stat_statements");
  }

  @AfterAll
  static void end() {
    cluster.cluster().remove();
  }

  @Test
  void what_needs_a_restart_is_seen_to_wait_for_it_and_is_cured_by_it() throws Exception {
    CheckResult library = check("Statement statistics");
    CheckResult text = check("Text of statements");
    assertThat(library.outcome()).isEqualTo(Outcome.WARN);
    assertThat(library.restartNeeded()).isTrue();
    assertThat(text.found()).isEqualTo("cut after 1024 bytes");
    assertThat(text.restartNeeded()).isTrue();
    run(library);
    run(text);
    run("SELECT pg_reload_conf()");
    CheckResult waiting = await("Changes in force", Outcome.WARN);
    assertThat(waiting.found())
        .isEqualTo("waiting for a restart: shared_preload_libraries, track_activity_query_size");
    assertThat(waiting.restartNeeded()).isTrue();
    cluster.restart();
    assertThat(check("Changes in force").outcome()).isEqualTo(Outcome.PASS);
    assertThat(check("Statement statistics").outcome()).isEqualTo(Outcome.PASS);
    assertThat(check("Text of statements").outcome()).isEqualTo(Outcome.PASS);
    // what was preloaded before still is
    assertThat(one("show shared_preload_libraries")).isEqualTo("auto_explain, pg_stat_statements");
    for (String off : List.of("pg_stat_statements.track = 'none'", "compute_query_id = 'off'")) {
      run("ALTER SYSTEM SET " + off);
      run("SELECT pg_reload_conf()");
      run(await("Statement statistics", Outcome.WARN));
      await("Statement statistics", Outcome.PASS);
    }
  }

  @Test
  void what_another_version_renames_and_drops_is_told_and_the_rest_is_read() throws Exception {
    String database = cluster.newDatabase();
    Target target = other("127.0.0.1", engine.target().port(), database);
    assertThat(check(target, "Counters of this version").found())
        .isEqualTo("all 41 totals are told");
    // the engine's own views are changed in this database, as a later version has them
    cluster.run(
        database,
        "set allow_system_table_mods = on;"
            + " create view pg_catalog.pg_stat_checkpointer as"
            + " select checkpoints_timed as num_timed, stats_reset from pg_stat_bgwriter;"
            + " grant select on pg_catalog.pg_stat_checkpointer to public;"
            + " alter table pg_catalog.pg_stat_wal rename column wal_sync to gone");
    CheckResult told = check(target, "Counters of this version");
    assertThat(told.outcome()).isEqualTo(Outcome.WARN);
    assertThat(told.found())
        .isEqualTo(
            "not told: wal.syncs (pg_stat_wal.wal_sync); under another name: checkpoints.timed"
                + " (pg_stat_bgwriter.checkpoints_timed → pg_stat_checkpointer.num_timed)");
    OwnCommits own = OwnCommits.after(Optional.empty(), database);
    try (PostgresCollector collector =
        PostgresCollector.of(target, serverAlone(), Pace.FAST, own, Clock.systemUTC())) {
      Map<String, String> read =
          collector.read().values().stream()
              .collect(
                  Collectors.toMap(
                      v -> v.series().counter(), v -> v.getClass().getSimpleName(), (a, b) -> a));
      assertThat(read)
          .containsEntry("wal.syncs", "Nothing")
          .containsEntry("wal.writes", "Total")
          .containsEntry("checkpoints.timed", "Total")
          .doesNotContainKey("sessions.total");
    }
  }

  @Test
  void switches_that_are_off_are_cured() throws Exception {
    Map<String, String> switches =
        Map.of(
            "track_activities", "States of sessions",
            "track_counts", "Counts of rows and blocks",
            "track_io_timing", "Time spent on reading and writing blocks");
    for (Map.Entry<String, String> one : switches.entrySet()) {
      run("ALTER SYSTEM SET " + one.getKey() + " = off");
      run("SELECT pg_reload_conf()");
      boolean some = one.getKey().equals("track_io_timing");
      run(await(one.getValue(), some ? Outcome.WARN : Outcome.FAIL));
      await(one.getValue(), Outcome.PASS);
    }
  }

  @Test
  void each_privilege_that_is_missing_is_told_and_cured() throws Exception {
    String database = cluster.newDatabase();
    String role = "bare_" + database;
    run("CREATE ROLE " + role + " LOGIN PASSWORD 'p' CONNECTION LIMIT 0");
    run("REVOKE CONNECT ON DATABASE " + database + " FROM public");
    run("ALTER ROLE " + role + " NOLOGIN");
    Target target =
        new Target("127.0.0.1", engine.target().port(), database, Tls.OFF, "", role, "p");
    cured(target, "Sign in", "not permitted to log in");
    cured(target, "Sign in", "too many connections for role");
    cured(target, "Sign in", "permission denied for database");
    cured(target, "Privilege", "sees only its own sessions");
    assertThat(PostgresCheck.check(target)).noneMatch(CheckResult::fails);
    run("REVOKE pg_monitor FROM " + role + ";\nGRANT pg_read_all_stats TO " + role);
    cured(target, "Privilege", "not all settings");
    assertThat(check(target, "Privilege").outcome()).isEqualTo(Outcome.PASS);
  }

  @Test
  void a_superuser_is_told_to_be_too_much() {
    Target target = engine.target("postgres", cluster.cluster().password());
    CheckResult result = check(target, "Privilege");
    assertThat(result.outcome()).isEqualTo(Outcome.WARN);
    assertThat(result.found()).contains("superuser");
  }

  @Test
  void a_wrong_password_is_set_by_the_advised_command() throws Exception {
    String role = "forgot_" + engine.database;
    run("CREATE ROLE " + role + " LOGIN PASSWORD 'old'; GRANT pg_monitor TO " + role);
    Target target = engine.target(role, "new");
    CheckResult result = check(target, "Sign in");
    assertThat(result.outcome()).isEqualTo(Outcome.FAIL);
    assertThat(result.fix()).contains("'…'").doesNotContain("new");
    run(result.fix().replace("…", "new"));
    assertThat(check(target, "Sign in").outcome()).isEqualTo(Outcome.PASS);
  }

  @Test
  void an_address_that_is_not_admitted_is_admitted_by_the_advised_line() throws Exception {
    Path admitted = Path.of(one("show hba_file"));
    String before = Files.readString(admitted);
    Files.writeString(admitted, "host all barred 127.0.0.1/32 reject\n" + before);
    run("CREATE ROLE barred LOGIN PASSWORD 'p' IN ROLE pg_monitor");
    run("SELECT pg_reload_conf()");
    Target target = engine.target("barred", "p");
    CheckResult result = await(target, "Sign in", Outcome.FAIL);
    String[] lines = result.fix().split("\n");
    assertThat(lines[0]).contains("127.0.0.1/32");
    Files.writeString(admitted, lines[0] + "\n" + Files.readString(admitted));
    run(lines[1]);
    await(target, "Sign in", Outcome.PASS);
  }

  @Test
  void an_engine_that_is_down_is_told_and_comes_back() {
    cluster.cluster().stop();
    try {
      CheckResult result = check(engine.target(), "Reach");
      assertThat(result.found()).startsWith("refused: connecting to 127.0.0.1:");
      assertThat(result.advice()).contains("listen_addresses");
    } finally {
      cluster.startAgain();
    }
    assertThat(check(engine.target(), "Reach").found()).contains("Jam Jar comes from 127.0.0.1");
  }

  @Test
  void certificates_that_are_missing_expired_or_of_another_name_are_told_apart_and_cured(
      @TempDir Path folder) throws Exception {
    Path data = Path.of(one("show data_directory"));
    Path certificate = data.resolve("server.crt");
    Path key = data.resolve("server.key");
    assertThat(check(at("localhost", ""), "Encryption").found()).contains("TLS not offered");
    TlsEngine.put(SelfSigned.of("localhost", folder, "-10d", 5), certificate, key);
    run(check(at("localhost", ""), "Encryption"));
    assertThat(await(at("localhost", ""), "Certificate", Outcome.FAIL).found())
        .startsWith("expired: it was valid until ");
    SelfSigned soon = SelfSigned.of("localhost", folder, "-10d", 20);
    TlsEngine.put(soon, certificate, key);
    run("SELECT pg_reload_conf()");
    assertThat(await(at("localhost", soon.pem()), "Certificate", Outcome.WARN).found())
        .contains("9 days from now");
    SelfSigned good = SelfSigned.of("localhost", folder);
    TlsEngine.put(good, certificate, key);
    run("SELECT pg_reload_conf()");
    await(at("localhost", good.pem()), "Certificate", Outcome.PASS);
    assertThat(check(at("localhost", ""), "Certificate").found())
        .startsWith("from an unknown issuer: CN=localhost (it signed itself), SHA-256 ");
    assertThat(check(at("127.0.0.1", good.pem()), "Certificate").found())
        .isEqualTo("of another name: it is of localhost");
    assertThat(PostgresCheck.check(at("localhost", good.pem()))).noneMatch(CheckResult::fails);
  }

  @Test
  void a_name_a_listener_and_a_database_that_are_none_are_told_apart() throws Exception {
    Target target = engine.target();
    assertThat(check(other("nowhere.invalid", target.port(), "postgres"), "Name").found())
        .startsWith("name unknown: looking up the name nowhere.invalid");
    assertThat(check(other("127.0.0.1", target.port(), "no_such"), "Sign in").found())
        .startsWith("database unknown: ");
    try (ServerSocket silent = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
      assertThat(check(other("127.0.0.1", silent.getLocalPort(), "postgres"), "Protocol").found())
          .startsWith("timed out: ")
          .endsWith("it accepts, but says nothing");
    }
    for (String answer : List.of("HTTP/1.1 400 Bad Request", "")) {
      try (ServerSocket stranger = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
        Thread answering = new Thread(() -> answerOnce(stranger, answer), "stranger");
        answering.start();
        Target there = other("127.0.0.1", stranger.getLocalPort(), "postgres");
        assertThat(check(there, "Protocol").found()).startsWith("something else at that port: ");
        answering.join();
      }
    }
  }

  private static void answerOnce(ServerSocket stranger, String answer) {
    try (Socket client = stranger.accept()) {
      client.getInputStream().readNBytes(8);
      client.getOutputStream().write(answer.getBytes(StandardCharsets.US_ASCII));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static Target other(String host, int port, String database) {
    return new Target(host, port, database, Tls.OFF, "", Engine.READER, Engine.PASSWORD);
  }

  @Test
  void an_old_version_and_a_slow_way_are_told() throws Exception {
    Target target = engine.target();
    String version = one("show server_version_num");
    String name = one("show server_version").substring(0, 3);
    try (Between between =
        new Between(target.port(), 0, Map.of(version, "12" + version.substring(2), name, "12."))) {
      CheckResult old = check(through(between), "Version");
      assertThat(old.outcome()).isEqualTo(Outcome.FAIL);
      assertThat(old.found()).startsWith("12.");
      assertThat(old.wanted()).isEqualTo("13 or later");
    }
    try (Between between = new Between(target.port(), 120, Map.of())) {
      CheckResult slow = check(through(between), "Round trip");
      assertThat(slow.outcome()).isEqualTo(Outcome.WARN);
      assertThat(slow.found()).contains("a reading takes about");
    }
    assertThat(check(target, "Round trip").outcome()).isEqualTo(Outcome.PASS);
  }

  @Test
  void a_wrong_clock_is_told_with_how_wrong_it_is() throws Exception {
    TemporaryCluster ahead = TemporaryCluster.start(Map.of(), OtherClock.ahead("+90s"));
    try {
      CheckResult clock = check(new Engine(ahead).target(), "Clock");
      assertThat(clock.outcome()).isEqualTo(Outcome.WARN);
      assertThat(clock.found()).matches("(89|90)\\.\\d s ahead of ours");
    } finally {
      ahead.cluster().remove();
    }
    assertThat(check(engine.target(), "Clock").outcome()).isEqualTo(Outcome.PASS);
  }

  /** Run where there is no network at all, not even the loopback. */
  public static final class Elsewhere {
    public static void main(String[] args) {
      PostgresCheck.check(new Target("127.0.0.1", 5432, "postgres", Tls.OFF, "", "reader", "p"))
          .forEach(result -> System.out.println(result.found()));
    }
  }

  @Test
  void no_route_is_told() throws Exception {
    boolean root = "root".equals(System.getProperty("user.name"));
    Process process =
        new ProcessBuilder(
                "unshare",
                root ? "-n" : "-rn",
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("java.class.path"),
                Elsewhere.class.getName())
            .redirectErrorStream(true)
            .start();
    String told = new String(process.getInputStream().readAllBytes());
    assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(told).contains("no route: connecting to 127.0.0.1:5432");
  }

  private static void cured(Target target, String check, String found) throws Exception {
    CheckResult result = check(target, check);
    assertThat(result.found()).contains(found);
    run(result);
    assertThat(PostgresCheck.check(target).toString()).doesNotContain(found);
  }

  private static Target through(Between between) {
    Target target = engine.target();
    return new Target(
        target.host(),
        between.port(),
        target.database(),
        Tls.OFF,
        "",
        target.user(),
        target.password());
  }

  private static Target at(String host, String ca) {
    Target target = engine.target();
    return new Target(
        host, target.port(), target.database(), Tls.CHECKED, ca, target.user(), target.password());
  }

  private static CheckResult check(String name) {
    return check(engine.target(), name);
  }

  private static CheckResult check(Target target, String name) {
    List<CheckResult> all = PostgresCheck.check(target);
    return all.stream()
        .filter(result -> result.check().equals(name))
        .findFirst()
        .orElseThrow(() -> new AssertionError("no check '" + name + "' among " + all));
  }

  private static CheckResult await(String name, Outcome outcome) throws Exception {
    return await(engine.target(), name, outcome);
  }

  /** Settings that are loaded again take a moment to arrive. */
  private static CheckResult await(Target target, String name, Outcome outcome) throws Exception {
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(30);
    while (true) {
      List<CheckResult> all = PostgresCheck.check(target);
      for (CheckResult result : all) {
        if (result.check().equals(name) && result.outcome() == outcome) {
          return result;
        }
      }
      if (System.nanoTime() > end) {
        throw new AssertionError("never " + outcome + ": " + name + " in " + all);
      }
      Thread.sleep(50);
    }
  }

  private static void run(CheckResult advised) throws SQLException {
    run(advised.fix());
  }

  /** Each line as it stands, as one would who pastes them. */
  private static void run(String commands) throws SQLException {
    try (Connection connection = cluster.connect(engine.database);
        Statement statement = connection.createStatement()) {
      for (String line : commands.split("\n")) {
        statement.execute(line);
      }
    }
  }

  private static String one(String sql) throws SQLException {
    try (Connection connection = cluster.connect(engine.database);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getString(1);
    }
  }

  /** The recipe with the counters of one query. */
  private static Recipe serverAlone() {
    Recipe all = RecipeFile.shipped("postgresql").recipe();
    Map<String, CounterDefinition> counters = new LinkedHashMap<>(all.counters());
    counters.values().removeIf(counter -> !counter.group().equals("server"));
    return new Recipe(all.kind(), all.name(), all.paces(), all.paceOf(), counters, "", List.of());
  }
}
