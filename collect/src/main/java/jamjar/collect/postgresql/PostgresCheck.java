package jamjar.collect.postgresql;

import jamjar.collect.CheckResult;
import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal;
import jamjar.collect.Target;
import jamjar.collect.Timing;
import jamjar.collect.Way;
import java.io.IOException;
import java.net.Socket;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Tries an engine as it would be watched, step by step, and says for each thing that is missing
 * what to run there.
 */
public final class PostgresCheck {
  private static final int OLDEST = 130000;
  private static final int TEXT = 4096;
  private static final int QUERIES = 8;
  private static final String RELOAD = "SELECT pg_reload_conf();";

  private final Target target;
  private final List<CheckResult> results = new ArrayList<>();
  private Connection connection;
  private Abilities abilities;

  private PostgresCheck(Target target) {
    this.target = target;
  }

  /** The checks in their order; after one that fails for good the rest are not tried. */
  public static List<CheckResult> check(Target target) {
    PostgresCheck check = new PostgresCheck(target);
    if (check.answers()) {
      check.inside();
    }
    return check.results;
  }

  private boolean answers() {
    Optional<Socket> way =
        Way.open(target, results, failure -> PostgresRefusals.of(target, failure));
    if (way.isEmpty()) {
      return false;
    }
    try (Socket socket = way.get()) {
      return Hello.said(socket, target, results);
    } catch (IOException e) {
      // closing it says nothing about the engine
      return true;
    }
  }

  private void inside() {
    try (Connection opened = PostgresConnector.open(target, "check", Duration.ofSeconds(5))) {
      connection = opened;
      connection.setAutoCommit(false);
      signedIn();
      results.add(CheckResult.encryption(target, Hello.TLS_ON, false));
      abilities = Abilities.inspect(connection);
      results.add(version());
      results.add(Places.check(abilities));
      results.add(privilege());
      results.add(statements());
      results.add(text());
      results.add(needed("track_activities", "States of sessions"));
      results.add(needed("track_counts", "Counts of rows and blocks"));
      results.add(on("track_io_timing", "Time spent on reading and writing blocks"));
      results.add(restart());
      results.add(clock());
      results.add(Timing.roundTrip(() -> one("select 1"), QUERIES));
      connection.rollback();
    } catch (CollectFailed e) {
      results.add(CheckResult.fail("Sign in", e.refusal()));
    } catch (SQLException e) {
      results.add(CheckResult.fail("Read the catalogue", PostgresRefusals.of(target, e)));
    } catch (RuntimeException e) {
      if (!PostgresRefusals.ofDriver(e)) {
        throw e;
      }
      results.add(CheckResult.fail("Read the catalogue", PostgresRefusals.garbled(target, e)));
    }
  }

  private void signedIn() throws SQLException {
    // what the engine sees may be another address than ours, where one is translated on the way
    String seen =
        one(
            "select coalesce(host(inet_client_addr()), 'its own machine') || ' as ' || current_user");
    results.add(CheckResult.pass("Sign in", "the engine sees " + seen));
  }

  private CheckResult version() throws SQLException {
    int number = Integer.parseInt(one("show server_version_num"));
    if (number >= OLDEST) {
      return CheckResult.pass("Version", abilities.version());
    }
    return CheckResult.warn(
            "Version",
            abilities.version(),
            "13 or later",
            "Its statistics are other ones: upgrade the engine.",
            "")
        .failing();
  }

  private CheckResult privilege() {
    String role = PostgresRefusals.quoted(target.user());
    if (!abilities.seesAll()) {
      return CheckResult.warn(
              "Privilege",
              Refusal.Reason.NOT_PERMITTED.words() + ": sees only its own sessions",
              "the rights of pg_monitor",
              "Grant them, as a superuser.",
              "GRANT pg_monitor TO " + role + ";")
          .failing();
    }
    if (!abilities.settings().containsKey("shared_preload_libraries")) {
      return CheckResult.warn(
          "Privilege",
          Refusal.Reason.NOT_PERMITTED.words() + ": sees all sessions, but not all settings",
          "the rights of pg_read_all_settings",
          "Grant them, as a superuser.",
          "GRANT pg_read_all_settings TO " + role + ";");
    }
    if (abilities.superuser()) {
      return CheckResult.warn(
          "Privilege",
          "sees all, and may do all: it is a superuser",
          "a role that may only read statistics",
          "Make one for Jam Jar alone; the commands stand beside user and password.",
          "");
    }
    return CheckResult.pass("Privilege", "sees all sessions, statements and settings");
  }

  private CheckResult statements() throws SQLException {
    String check = "Statement statistics";
    String create = "CREATE EXTENSION IF NOT EXISTS pg_stat_statements;";
    String where = "As a superuser in database " + target.database() + ".";
    if (!abilities.statementsLoaded()) {
      return CheckResult.warn(
              check,
              "the library is not loaded",
              "pg_stat_statements preloaded",
              where,
              create + "\nALTER SYSTEM SET shared_preload_libraries = " + preload() + ";")
          .afterRestart();
    }
    if (abilities.statementsSchema().isEmpty()) {
      return CheckResult.warn(
          check,
          "the extension is not created in database " + target.database(),
          "pg_stat_statements created",
          where,
          create);
    }
    if ("none".equals(abilities.settings().get("pg_stat_statements.track"))) {
      return CheckResult.warn(
          check,
          "loaded, but pg_stat_statements.track is none",
          "pg_stat_statements.track = top",
          where,
          "ALTER SYSTEM SET pg_stat_statements.track = 'top';\n" + RELOAD);
    }
    if ("off".equals(abilities.settings().get("compute_query_id"))) {
      return CheckResult.warn(
          check,
          "loaded, but compute_query_id is off: nothing tells statements apart",
          "compute_query_id = auto",
          where,
          "ALTER SYSTEM SET compute_query_id = 'auto';\n" + RELOAD);
    }
    return CheckResult.pass(check, "loaded");
  }

  /** What is preloaded already stays preloaded, each as a word of its own. */
  private String preload() throws SQLException {
    String now = one("select coalesce(current_setting('shared_preload_libraries', true), '')");
    List<String> all = new ArrayList<>();
    for (String library : now.split(",")) {
      if (!library.isBlank()) {
        all.add("'" + library.strip().replace("'", "''") + "'");
      }
    }
    all.add("'pg_stat_statements'");
    return String.join(", ", all);
  }

  private CheckResult text() throws SQLException {
    String check = "Text of statements";
    long size =
        Long.parseLong(one("select pg_size_bytes(current_setting('track_activity_query_size'))"));
    if (size >= TEXT) {
      return CheckResult.pass(check, "up to " + size + " bytes");
    }
    return CheckResult.warn(
            check,
            "cut after " + size + " bytes",
            TEXT + " bytes",
            "Longer statements can't be told from each other while they run.",
            "ALTER SYSTEM SET track_activity_query_size = " + TEXT + ";")
        .afterRestart();
  }

  private CheckResult on(String name, String what) {
    if (abilities.on(name)) {
      return CheckResult.pass(what, name + " is on");
    }
    return CheckResult.warn(
        what,
        name + " is off",
        name + " = on",
        "As a superuser.",
        "ALTER SYSTEM SET " + name + " = on;\n" + RELOAD);
  }

  private CheckResult needed(String name, String what) {
    return abilities.on(name) ? on(name, what) : on(name, what).failing();
  }

  private CheckResult restart() {
    String check = "Changes in force";
    if (abilities.waiting().isEmpty()) {
      return CheckResult.pass(check, "none waits for a restart");
    }
    return CheckResult.warn(
            check,
            "waiting for a restart: " + String.join(", ", abilities.waiting()),
            "a restart of the engine",
            "They were changed there, but the engine still runs with the old values.",
            "")
        .afterRestart();
  }

  private CheckResult clock() throws SQLException {
    double best = Double.MAX_VALUE;
    double ahead = 0;
    for (int i = 0; i < 3; i++) {
      long began = System.nanoTime();
      double ours = System.currentTimeMillis() / 1000.0;
      double theirs = Double.parseDouble(one("select extract(epoch from clock_timestamp())"));
      double took = (System.nanoTime() - began) / 1e9;
      if (took < best) {
        best = took;
        ahead = theirs - (ours + took / 2);
      }
    }
    return Timing.clock(ahead, best / 2);
  }

  private String one(String sql) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      row.next();
      return row.getString(1);
    }
  }
}
