package jamjar.bench;

import jamjar.collect.Target;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresSampler;
import jamjar.core.chunk.SampleChunk;
import jamjar.core.session.Sample;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/**
 * What sampling costs an engine with many sessions: of each ten four run statements of up to three
 * seconds, one is idle in a transaction, a few wait for a lock, the others do nothing.
 */
final class SessionsBench {
  private static final int WAITERS = 20;
  private static final int SECONDS = 60;
  private static final int LEAST = 24;

  private SessionsBench() {}

  static void run(String[] options) throws Exception {
    int sessions = Bench.minutes(options, 500);
    int everyS = options.length > 1 ? Integer.parseInt(options[1]) : 1;
    TemporaryCluster cluster =
        TemporaryCluster.start(Map.of("max_connections", Integer.toString(sessions + 20)));
    String database = cluster.newDatabase();
    cluster.run(database, "create role reader login password 'bench'; grant pg_monitor to reader");
    cluster.run(database, "create table tariff (id int)");
    ExecutorService threads = Executors.newCachedThreadPool();
    List<Connection> all = new ArrayList<>();
    try {
      for (int i = 0; i < sessions; i++) {
        Connection connection = cluster.connect(database);
        all.add(connection);
        use(connection, i, threads);
      }
      measure(cluster, database, sessions, everyS);
    } finally {
      threads.shutdownNow();
      for (Connection connection : all) {
        connection.abort(Runnable::run);
      }
    }
  }

  private static void use(Connection connection, int i, ExecutorService threads)
      throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute("set application_name = 'program-" + i % 12 + "'");
    }
    if (i == 0) {
      connection.setAutoCommit(false);
      connection.createStatement().execute("lock table tariff");
    } else if (i <= WAITERS) {
      threads.submit(() -> connection.createStatement().execute("select count(*) from tariff"));
    } else if (i % 10 < 4) {
      threads.submit(
          () -> {
            try (Statement statement = connection.createStatement()) {
              while (true) {
                statement.execute(
                    "select pg_sleep(random() * 3), 'kind " + i % 40 + "' as k" + i % 40);
              }
            }
          });
    } else if (i % 10 == 4) {
      connection.setAutoCommit(false);
      connection.createStatement().execute("select 1");
    }
  }

  private static void measure(TemporaryCluster cluster, String database, int sessions, int everyS)
      throws Exception {
    Target target =
        new Target(
            "127.0.0.1", cluster.cluster().port(), database, Target.Tls.OFF, "", "reader", "bench");
    try (Connection connection = cluster.connect(database);
        Statement statement = connection.createStatement();
        PostgresSampler sampler =
            new PostgresSampler(
                target, OwnCommits.after(Optional.empty(), ""), Clock.systemUTC())) {
      sampler.sample();
      long pid;
      try (ResultSet row =
          statement.executeQuery(
              "select pid from pg_stat_activity where application_name = 'jamjar-sessions'")) {
        row.next();
        pid = row.getLong(1);
      }
      int taken = Math.max(LEAST, SECONDS / everyS);
      List<Sample> samples = new ArrayList<>();
      double[] took = new double[taken];
      double before = Os.cpuSeconds(pid);
      long began = System.nanoTime();
      for (int i = 0; i < taken; i++) {
        Thread.sleep(
            Math.max(0, 1000L * everyS * (i + 1) - (System.nanoTime() - began) / 1_000_000));
        long start = System.nanoTime();
        samples.add(sampler.sample().sample());
        took[i] = (System.nanoTime() - start) / 1e6;
      }
      double seconds = (System.nanoTime() - began) / 1e9;
      double cpu = Os.cpuSeconds(pid) - before;
      Arrays.sort(took);
      long kept = samples.stream().mapToLong(sample -> sample.sessions().size()).sum();
      int bytes = SampleChunk.write(samples).length;
      System.out.printf(
          Locale.ROOT,
          "bench %d sessions sampled every %d s, %d samples in %.0f s, %.0f of them one by one:"
              + " the sampler's session %.2f s of processor time = %.2f %% of a core; a sample takes"
              + " %.0f ms (median), %.0f ms at most; %.2f bytes for a session and sample, packed"
              + " together%n",
          sessions,
          everyS,
          taken,
          seconds,
          kept / (double) taken,
          cpu,
          100 * cpu / seconds,
          took[taken / 2],
          took[taken - 1],
          bytes / (double) kept);
    }
  }
}
