package jamjar.standins;

import jamjar.collect.postgresql.PostgresSampler;
import jamjar.standins.booking.Doing;
import jamjar.store.cluster.PrivateCluster;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Properties;
import java.util.SplittableRandom;
import java.util.function.DoubleSupplier;

/** freight-db: a real cluster with Skerry Line's manifests under a small load. */
final class Freight implements AutoCloseable {
  static final String DATABASE = "freight";
  private static final int PER_SECOND = 4;

  private final PrivateCluster engine;
  private final DoubleSupplier busy;
  private final Thread thread = new Thread(this::run, "load-freight");
  private final SplittableRandom random;
  private volatile boolean ended;

  /**
   * @param busy how busy it is now, 1 for as usual
   */
  Freight(PrivateCluster engine, DoubleSupplier busy, long seed) {
    this.engine = engine;
    this.busy = busy;
    this.random = new SplittableRandom(seed);
  }

  /** Starts it, after making and filling it when it is not there yet. */
  void start(String readerPassword) throws SQLException {
    engine.start(DemoFolder.settings());
    try (Connection connection = connect("postgres", "setup");
        Statement statement = connection.createStatement()) {
      try (ResultSet row =
          statement.executeQuery("select 1 from pg_database where datname = 'freight'")) {
        if (!row.next()) {
          statement.execute("create database freight");
          fill(readerPassword);
        }
      }
    }
    thread.setDaemon(true);
    thread.start();
  }

  private void fill(String readerPassword) throws SQLException {
    try (Connection connection = connect(DATABASE, "setup");
        Statement statement = connection.createStatement()) {
      statement.execute("create extension pg_stat_statements");
      statement.execute(
          "create table manifest (id bigint generated always as identity primary key, ship text"
              + " not null, state text not null, weight int not null, filed_at timestamptz not"
              + " null default now())");
      statement.execute("create index manifest_state on manifest (state, ship)");
      statement.execute(
          "insert into manifest (ship, state, weight) select 'Gannet ' || n % 7, 'cleared', n % 900"
              + " from generate_series(1, 60000) n");
      statement.execute(
          "create role " + DemoFolder.READER + " login password '" + readerPassword + "'");
      statement.execute("grant pg_monitor to " + DemoFolder.READER);
      statement.execute(PostgresSampler.mayReadLog(DemoFolder.READER));
      statement.execute("analyze");
    }
  }

  private Connection connect(String database, String program) throws SQLException {
    Properties properties = new Properties();
    properties.setProperty("user", "postgres");
    properties.setProperty("password", engine.password());
    properties.setProperty("ApplicationName", program);
    properties.setProperty("connectTimeout", "3");
    return DriverManager.getConnection(engine.url(database), properties);
  }

  private void run() {
    while (!ended) {
      try (Connection connection = connect(DATABASE, Doing.FILE_MANIFEST.program());
          PreparedStatement file = connection.prepareStatement(Doing.FILE_MANIFEST.sql(0));
          PreparedStatement clear = connection.prepareStatement(Doing.FILE_MANIFEST.sql(1));
          PreparedStatement list = connection.prepareStatement(Doing.FILE_MANIFEST.sql(2))) {
        while (!ended) {
          String ship = "Gannet " + random.nextInt(7);
          file.setString(1, ship);
          file.setInt(2, random.nextInt(900));
          file.executeUpdate();
          if (random.nextInt(4) == 0) {
            clear.setString(1, ship);
            clear.executeUpdate();
            list.executeQuery().close();
          }
          Thread.sleep(random.nextInt((int) (2000 / PER_SECOND / busy.getAsDouble())));
        }
      } catch (SQLException e) {
        pause();
      } catch (InterruptedException e) {
        return;
      }
    }
  }

  private static void pause() {
    try {
      Thread.sleep(1000);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  @Override
  public void close() {
    ended = true;
    thread.interrupt();
    engine.stop();
  }
}
