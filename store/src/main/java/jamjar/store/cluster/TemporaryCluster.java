package jamjar.store.cluster;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;

/** A cluster for tests and benchmarks: in a temporary folder, gone with this process. */
public final class TemporaryCluster {
  private static final AtomicInteger DATABASES = new AtomicInteger();
  private static TemporaryCluster shared;

  private final PrivateCluster cluster;
  private final Map<String, String> settings;

  private TemporaryCluster(PrivateCluster cluster, Map<String, String> settings) {
    this.cluster = cluster;
    this.settings = settings;
  }

  /** Starts it again where it was stopped, with the settings that it had. */
  public void startAgain() {
    cluster.start(settings);
  }

  /** Sends all of its processes a signal by its name. */
  public void signal(String name) {
    long postmaster = cluster.process();
    List<String> command = new ArrayList<>(List.of("kill", "-" + name, Long.toString(postmaster)));
    ProcessHandle.of(postmaster)
        .orElseThrow()
        .descendants()
        .forEach(process -> command.add(Long.toString(process.pid())));
    try {
      new ProcessBuilder(command).inheritIO().start().waitFor();
    } catch (IOException e) {
      throw new ClusterFailed(String.join(" ", command), e.getMessage(), e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** Waits until its server is gone, after a signal that ends it. */
  public void awaitEnd() {
    ProcessHandle.of(cluster.process()).ifPresent(process -> process.onExit().join());
  }

  public void restart() {
    cluster.stop();
    startAgain();
  }

  /**
   * The one of this process, started when first asked for. Durability is off: nothing here outlives
   * the process. No vacuum worker comes by: what it commits would be counted beside what a test
   * does.
   */
  public static synchronized TemporaryCluster shared() {
    if (shared == null) {
      shared = start(Map.of("autovacuum_naptime", "1d", "max_prepared_transactions", "8"));
    }
    return shared;
  }

  /**
   * One of its own, for who stops it or changes its settings.
   *
   * @param settings on top of those of a temporary cluster
   */
  public static TemporaryCluster start(Map<String, String> settings) {
    return start(settings, List.of());
  }

  /**
   * @param settings as above
   * @param under the command that it is run by
   */
  public static TemporaryCluster start(Map<String, String> settings, List<String> under) {
    try {
      Path folder = Files.createTempDirectory("jamjar-cluster");
      PrivateCluster cluster = new PrivateCluster(folder, under);
      Map<String, String> all =
          new java.util.HashMap<>(
              Map.of(
                  "fsync", "off",
                  "synchronous_commit", "off",
                  "full_page_writes", "off",
                  "max_connections", "120",
                  "shared_preload_libraries", "pg_stat_statements",
                  "track_io_timing", "on"));
      all.putAll(settings);
      Runtime.getRuntime().addShutdownHook(new Thread(cluster::remove, "remove-cluster"));
      cluster.start(all);
      return new TemporaryCluster(cluster, all);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  public PrivateCluster cluster() {
    return cluster;
  }

  /** A new, empty database; its name. */
  public String newDatabase() {
    String name = "db_" + DATABASES.incrementAndGet();
    run("postgres", "create database " + name);
    return name;
  }

  /** Runs SQL as the superuser. */
  public void run(String database, String sql) {
    try (Connection connection = connect(database);
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      throw new IllegalStateException(sql, e);
    }
  }

  /** The one number that a question of the superuser is answered with. */
  public long number(String database, String sql) {
    try (Connection connection = connect(database);
        Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getLong(1);
    } catch (SQLException e) {
      throw new IllegalStateException(sql, e);
    }
  }

  /** A connection as the superuser. */
  public Connection connect(String database) throws SQLException {
    return DriverManager.getConnection(cluster.url(database), "postgres", cluster.password());
  }
}
