package jamjar.bench;

import jamjar.collect.Target;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.chunk.CountedChunk;
import jamjar.core.counter.Pace;
import jamjar.core.session.StatementText;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/**
 * What is told of statements over some minutes of a driven load, beside the engine's own view of
 * the same time: theirs is read just before ours begins and just after it, and once more at the
 * end.
 */
final class StatementsBench {
  private static final int THREADS = 4;
  private static final long EVERY_MS = 10_000;
  private static final List<String> LOAD =
      List.of(
          "select held from berth where id = %d",
          "update berth set held = held + 1 where id = %d",
          "select count(*) from berth where held > %d",
          "select id, held from berth where id between 17 and %d order by held");

  private StatementsBench() {}

  /** Calls and µs. */
  private record Sum(long calls, long micros) {
    Sum less(Sum before) {
      return new Sum(calls - before.calls, micros - before.micros);
    }
  }

  static void run(String[] options) throws Exception {
    int minutes = Bench.minutes(options, 5);
    TemporaryCluster cluster = TemporaryCluster.start(Map.of());
    String database = cluster.newDatabase();
    cluster.run(database, "create extension pg_stat_statements");
    cluster.run(database, "create role reader login password 'bench'; grant pg_monitor to reader");
    cluster.run(database, "create table berth (id int primary key, held int)");
    cluster.run(database, "insert into berth select n, 0 from generate_series(1, 2000) n");
    ExecutorService threads = Executors.newFixedThreadPool(THREADS);
    Target target =
        new Target(
            "127.0.0.1", cluster.cluster().port(), database, Target.Tls.OFF, "", "reader", "bench");
    try (PostgresCollector collector =
        PostgresCollector.of(
            target,
            RecipeFile.shipped("postgresql").recipe(),
            Pace.FAST,
            OwnCommits.after(Optional.empty(), ""),
            Clock.systemUTC())) {
      for (int i = 0; i < THREADS; i++) {
        SplittableRandom random = new SplittableRandom(i);
        threads.submit(() -> load(cluster, database, random));
      }
      measure(cluster, database, collector, minutes);
    } finally {
      threads.shutdownNow();
    }
  }

  private static Void load(TemporaryCluster cluster, String database, SplittableRandom random)
      throws SQLException {
    try (Connection connection = cluster.connect(database);
        Statement statement = connection.createStatement()) {
      while (!Thread.currentThread().isInterrupted()) {
        String sql = LOAD.get(random.nextInt(LOAD.size()));
        statement.execute(String.format(Locale.ROOT, sql, 1 + random.nextInt(2000)));
        Thread.sleep(random.nextInt(6));
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    return null;
  }

  private static void measure(
      TemporaryCluster cluster, String database, PostgresCollector collector, int minutes)
      throws Exception {
    try (Connection connection = cluster.connect(database)) {
      collector.read();
      // from the end of a minute to that of another
      Optional<Counted> first = Optional.empty();
      Sum before = theirs(connection);
      Sum begun = before;
      while (first.isEmpty()) {
        Thread.sleep(EVERY_MS);
        before = theirs(connection);
        collector.read();
        begun = theirs(connection);
        first = collector.counted().map(c -> c.counted());
      }
      List<Counted> told = new ArrayList<>();
      Sum least = begun;
      Sum most = begun;
      while (told.size() < minutes) {
        Thread.sleep(EVERY_MS);
        Sum earlier = theirs(connection);
        collector.read();
        Sum later = theirs(connection);
        if (collector.counted().map(c -> told.add(c.counted())).orElse(false)) {
          least = earlier;
          most = later;
        }
      }
      print(told, least.less(begun), most.less(before));
    }
  }

  /** What we tell lies between what the engine told inside of our time, and around it. */
  private static void print(List<Counted> told, Sum inside, Sum around) {
    Counted.Sum sum = new Counted.Sum();
    told.forEach(sum::add);
    Counted all = sum.until(told.get(told.size() - 1).at());
    long calls = 0;
    long micros = 0;
    for (String sql : LOAD) {
      long print = StatementText.of(String.format(Locale.ROOT, sql, 1)).fingerprint();
      for (Map.Entry<StatementKey, StatementCounts> entry : all.statements().entrySet()) {
        if (entry.getKey().fingerprint() == print) {
          calls += entry.getValue().calls();
          micros += entry.getValue().timeUs();
        }
      }
    }
    System.out.printf(
        Locale.ROOT,
        "%d minutes told, %.1f s covered, %d statements, %.0f calls/s%n",
        told.size(),
        all.elapsedMs() / 1000.0,
        all.statements().size(),
        1000.0 * calls / all.elapsedMs());
    line("calls", inside.calls(), calls, around.calls());
    line("time, us", inside.micros(), micros, around.micros());
    int packed = CountedChunk.write(told).length;
    System.out.printf(
        Locale.ROOT,
        "packed together %.1f bytes for a statement and minute%n",
        (double) packed / told.stream().mapToInt(c -> c.statements().size()).sum());
  }

  private static void line(String what, long inside, long ours, long around) {
    double middle = (inside + around) / 2.0;
    System.out.printf(
        Locale.ROOT,
        "%s: theirs inside %d, ours %d, theirs around %d; off by %.3f %%%s%n",
        what,
        inside,
        ours,
        around,
        100 * (ours - middle) / middle,
        inside <= ours && ours <= around ? "" : " (outside)");
  }

  private static Sum theirs(Connection connection) throws SQLException {
    String sql =
        "select coalesce(sum(calls), 0), round(coalesce(sum(total_exec_time), 0) * 1000) from"
            + " pg_stat_statements s join pg_database d on d.oid = s.dbid where d.datname ="
            + " current_database() and query like any (array['select held%', 'update berth%',"
            + " 'select count(*) from berth%', 'select id, held%'])";
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      row.next();
      return new Sum(row.getLong(1), row.getLong(2));
    }
  }
}
