package jamjar.standins;

import jamjar.standins.servers.Mischief;
import jamjar.store.cluster.PrivateCluster;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Map;
import java.util.Properties;

/** Where the demo keeps its watched engine, and how its commands find it. */
public record DemoFolder(Path root) {
  public static final String DATABASE = "bookings";
  public static final String READER = "jamjar_reader";

  /** The engine that is watched as booking-db-a. */
  public PrivateCluster engine() {
    return new PrivateCluster(root.resolve("booking-db-a"));
  }

  /** Its streaming replica, watched as booking-db-b. */
  public PrivateCluster replica() {
    return new PrivateCluster(root.resolve("booking-db-b"));
  }

  /** The engine that is watched as freight-db. */
  public PrivateCluster freight() {
    return new PrivateCluster(root.resolve("freight-db"));
  }

  /**
   * Settings of the watched engine: statement statistics preloaded, times of input and output
   * counted.
   */
  public static Map<String, String> settings() {
    return Map.ofEntries(
        Map.entry("shared_preload_libraries", "pg_stat_statements"),
        Map.entry("track_io_timing", "on"),
        Map.entry("max_connections", "100"),
        Map.entry("max_prepared_transactions", "10"),
        Map.entry("shared_buffers", "64MB"),
        Map.entry("synchronous_commit", "off"),
        Map.entry("max_slot_wal_keep_size", "512MB"),
        Map.entry("pg_stat_statements.track", "all"),
        // its log is read: a file a day, that of the same day a month ago is written over
        Map.entry("logging_collector", "on"),
        Map.entry("log_destination", "csvlog"),
        Map.entry("log_filename", "day-%d.log"),
        Map.entry("log_truncate_on_rotation", "on"),
        Map.entry("log_lock_waits", "on"),
        Map.entry("log_min_duration_statement", "100ms"));
  }

  /** Holds the address of the page that shows what the demo's people were told. */
  public Path inbox() {
    return root.resolve("inbox");
  }

  /** Where the stand-in servers keep their ports and what they are told to do. */
  public Path servers() {
    return root.resolve("servers");
  }

  /** There once the history is written. */
  public Path history() {
    return root.resolve("history");
  }

  /** There once what is normal was learned from the history. */
  public Path learned() {
    return root.resolve("learned");
  }

  /** There once a server was left out that is to be missing. */
  public Path leftOut() {
    return root.resolve("left-out");
  }

  /** What its servers are told to do wrong. */
  public Mischief mischief() {
    return new Mischief(servers().resolve("mischief"), Clock.systemUTC());
  }

  /** There once the fare reload was seen. */
  public Path reloaded() {
    return root.resolve("reloaded");
  }

  /** How an engine was in its first minute: its history was made by that. */
  public Path calibration(String instance) {
    return root.resolve(instance + "-usual.json");
  }

  /** When the demo was opened first: what happened before then stays where it is. */
  public Instant opened(Instant now) throws IOException {
    Path file = root.resolve("opened");
    if (!Files.exists(file)) {
      Files.writeString(file, now.truncatedTo(ChronoUnit.MINUTES).toString());
    }
    return Instant.parse(Files.readString(file).trim());
  }

  public Path loadSwitch() {
    return root.resolve("load-off");
  }

  public Path ledger() {
    return root.resolve("ledger.csv");
  }

  public Path readerPassword() {
    return root.resolve("reader-password");
  }

  public boolean loadIsOn() {
    return !Files.exists(loadSwitch());
  }

  /** A connection to the bookings as the engine's superuser. */
  public Connection connect(String program) throws SQLException {
    return connect(program, DATABASE, "postgres", engine().password());
  }

  Connection connect(String program, String database, String user, String password)
      throws SQLException {
    Properties properties = new Properties();
    properties.setProperty("user", user);
    properties.setProperty("password", password);
    properties.setProperty("ApplicationName", program);
    properties.setProperty("connectTimeout", "3");
    return DriverManager.getConnection(engine().url(database), properties);
  }
}
