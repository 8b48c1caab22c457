package jamjar.bench;

import jamjar.collect.Target;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What watching costs the engine: processor time of the collector's session as the operating system
 * counts it, at 10 s, once on the demo's engine under load and once on a large one (5,000 tables,
 * 5,000 statements, 500 sessions).
 */
final class CostBench {
  private static final int TABLES = 5000;
  private static final int SESSIONS = 500;

  private CostBench() {}

  static void run(String[] options) throws Exception {
    int readings = Bench.minutes(options, 5) * 6;
    try (LedgerBench.BenchEngine engine = LedgerBench.BenchEngine.start();
        Connection connection = engine.folder().connect("bench")) {
      measure("demo under load", engine.target(), connection, readings);
    }
    large(readings);
  }

  private static void large(int readings) throws Exception {
    TemporaryCluster cluster =
        TemporaryCluster.start(
            Map.of(
                "max_connections", "600",
                "pg_stat_statements.max", "10000",
                "max_locks_per_transaction", "1000",
                "shared_buffers", "256MB"));
    String database = cluster.newDatabase();
    cluster.run(database, "create extension pg_stat_statements");
    cluster.run(database, "create role reader login password 'bench'; grant pg_monitor to reader");
    List<Connection> sessions = new ArrayList<>();
    try (Connection connection = cluster.connect(database);
        Statement statement = connection.createStatement()) {
      for (int i = 0; i < TABLES; i++) {
        statement.execute("create table table_" + i + " (id int primary key, note text)");
      }
      statement.execute("select pg_stat_statements_reset()");
      for (int i = 0; i < TABLES; i++) {
        statement.executeQuery("select id from table_" + i).close();
      }
      for (int i = 0; i < SESSIONS; i++) {
        sessions.add(cluster.connect(database));
      }
      Target target =
          new Target(
              "127.0.0.1",
              cluster.cluster().port(),
              database,
              Target.Tls.OFF,
              "",
              "reader",
              "bench");
      System.out.printf(
          "large engine: %s tables, %s statements kept, %s sessions%n",
          one(statement, "select count(*) from pg_stat_user_tables"),
          one(statement, "select count(*) from pg_stat_statements"),
          one(
              statement,
              "select count(*) from pg_stat_activity where backend_type = 'client backend'"));
      measure("large engine", target, connection, readings);
    } finally {
      for (Connection session : sessions) {
        session.close();
      }
    }
  }

  private static void measure(String what, Target target, Connection connection, int readings)
      throws Exception {
    OwnCommits own = OwnCommits.after(Optional.empty(), "");
    try (Statement statement = connection.createStatement();
        PostgresCollector fast =
            PostgresCollector.of(
                target,
                RecipeFile.shipped("postgresql").recipe(),
                Pace.FAST,
                own,
                Clock.systemUTC());
        PostgresCollector slow =
            PostgresCollector.of(
                target,
                RecipeFile.shipped("postgresql").recipe(),
                Pace.SLOW,
                own,
                Clock.systemUTC())) {
      fast.read();
      String pid =
          one(
              statement,
              "select pid from pg_stat_activity where application_name = 'jamjar-fast' and datname ="
                  + " current_database()");
      double before = Os.cpuSeconds(Long.parseLong(pid));
      long began = System.nanoTime();
      double worst = 0;
      double slowMillis = 0;
      for (int i = 0; i < readings; i++) {
        Thread.sleep(Math.max(0, 10_000L * (i + 1) - (System.nanoTime() - began) / 1_000_000));
        long start = System.nanoTime();
        fast.read();
        worst = Math.max(worst, (System.nanoTime() - start) / 1e6);
        if (i % 30 == 0) {
          start = System.nanoTime();
          slow.read();
          slowMillis = (System.nanoTime() - start) / 1e6;
        }
      }
      double seconds = (System.nanoTime() - began) / 1e9;
      double cpu = Os.cpuSeconds(Long.parseLong(pid)) - before;
      System.out.printf(
          "%s: %d readings in %.0f s, collector's session %.2f s of processor time = %.3f %% of a"
              + " core; longest reading %.0f ms; a slow reading (every 5 min, session of its own)"
              + " took %.0f ms, at most %.3f %% of a core%n",
          what,
          readings,
          seconds,
          cpu,
          100 * cpu / seconds,
          worst,
          slowMillis,
          100 * slowMillis / 300_000);
    }
  }

  private static String one(Statement statement, String sql) throws Exception {
    try (ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getString(1);
    }
  }
}
