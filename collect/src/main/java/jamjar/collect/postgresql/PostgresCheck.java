package jamjar.collect.postgresql;

import jamjar.collect.CheckResult;
import jamjar.collect.CheckResult.Outcome;
import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal;
import jamjar.collect.Target;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Tries an engine as it would be watched, and says for each thing that is missing what to do there.
 */
public final class PostgresCheck {
  private static final int OLDEST = 130000;

  private PostgresCheck() {}

  /** The checks in their order; after one that fails for good the rest are not tried. */
  public static List<CheckResult> check(Target target) {
    List<CheckResult> results = new ArrayList<>();
    long began = System.nanoTime();
    try (Connection connection = PostgresConnector.open(target, "check", Duration.ofSeconds(5))) {
      connection.setAutoCommit(false);
      long millis = (System.nanoTime() - began) / 1_000_000;
      results.add(
          CheckResult.pass(
              "Reach and sign in",
              target.address() + " answers as " + target.user() + " after " + millis + " ms"));
      results.add(CheckResult.encryption(target, "Switch TLS on there (ssl = on)", false));
      Abilities abilities = Abilities.inspect(connection);
      results.add(version(connection, abilities));
      results.add(privilege(target, abilities));
      results.add(statements(connection, target, abilities));
      results.add(
          setting(
              abilities,
              "track_io_timing",
              "Time spent on reading and writing blocks",
              Outcome.WARN));
      results.add(setting(abilities, "track_activities", "States of sessions", Outcome.FAIL));
      results.add(setting(abilities, "track_counts", "Counts of rows and blocks", Outcome.FAIL));
      connection.rollback();
    } catch (CollectFailed e) {
      results.add(CheckResult.fail("Reach and sign in", e.refusal()));
    } catch (SQLException e) {
      results.add(CheckResult.fail("Read the catalogue", PostgresRefusals.of(target, e)));
    }
    return results;
  }

  private static CheckResult version(Connection connection, Abilities abilities)
      throws SQLException {
    int number = Integer.parseInt(one(connection, "show server_version_num"));
    if (number >= OLDEST) {
      return CheckResult.pass("Version", abilities.version());
    }
    return new CheckResult(
        "Version", Outcome.FAIL, abilities.version(), "13 or later", "Upgrade the engine.", true);
  }

  private static CheckResult privilege(Target target, Abilities abilities) {
    if (abilities.seesAll()) {
      return CheckResult.pass("Privilege", "sees all sessions and statements");
    }
    return new CheckResult(
        "Privilege",
        Outcome.FAIL,
        Refusal.Reason.NOT_PERMITTED.words() + ": sees only its own sessions",
        "the rights of pg_monitor",
        "GRANT pg_monitor TO " + quoted(target.user()) + ";",
        false);
  }

  private static CheckResult statements(Connection connection, Target target, Abilities abilities)
      throws SQLException {
    String check = "Statement statistics";
    if (!abilities.statementsLoaded()) {
      return new CheckResult(
          check,
          Outcome.WARN,
          "the library is not loaded",
          "pg_stat_statements preloaded",
          "ALTER SYSTEM SET shared_preload_libraries = "
              + preload(connection)
              + "; then restart the engine, and run in database "
              + target.database()
              + ": CREATE EXTENSION IF NOT EXISTS pg_stat_statements;",
          true);
    }
    if (abilities.statementsSchema().isEmpty()) {
      return new CheckResult(
          check,
          Outcome.WARN,
          "the extension is not created in database " + target.database(),
          "pg_stat_statements created",
          "CREATE EXTENSION IF NOT EXISTS pg_stat_statements;",
          false);
    }
    return CheckResult.pass(check, "loaded");
  }

  /** What is preloaded already stays preloaded. */
  private static String preload(Connection connection) throws SQLException {
    String now =
        one(connection, "select coalesce(current_setting('shared_preload_libraries', true), '')");
    return "'" + (now.isEmpty() ? "" : now + ", ") + "pg_stat_statements'";
  }

  private static CheckResult setting(
      Abilities abilities, String name, String what, Outcome missing) {
    if (abilities.on(name)) {
      return CheckResult.pass(what, name + " is on");
    }
    return new CheckResult(
        what,
        missing,
        name + " is off",
        name + " = on",
        "ALTER SYSTEM SET " + name + " = on; SELECT pg_reload_conf();",
        false);
  }

  private static String one(Connection connection, String sql) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      row.next();
      return row.getString(1);
    }
  }

  private static String quoted(String name) {
    return '"' + name.replace("\"", "\"\"") + '"';
  }
}
