package jamjar.standins.booking;

import jamjar.collect.postgresql.PostgresSampler;
import jamjar.standins.DemoFolder;
import jamjar.store.cluster.Secrets;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;

/** Makes the engine that stands in for booking-db-a: a real cluster with Skerry Line's bookings. */
public final class BookingEngine {
  /** The users of the bookings: each program signs in as its own. */
  public static final List<String> USERS =
      List.of("booking_app", "fares_app", "gates_app", "refund_app", "loyalty_app");

  private final DemoFolder folder;

  public BookingEngine(DemoFolder folder) {
    this.folder = folder;
  }

  /** Starts it, after making and filling it when it is not there yet. */
  public void start() throws SQLException {
    folder.engine().start(DemoFolder.settings());
    try (Connection connection =
            DriverManager.getConnection(
                folder.engine().url("postgres"), "postgres", folder.engine().password());
        Statement statement = connection.createStatement()) {
      try (ResultSet row =
          statement.executeQuery(
              "select 1 from pg_database where datname = '" + DemoFolder.DATABASE + "'")) {
        if (row.next()) {
          return;
        }
      }
      statement.execute("create database " + DemoFolder.DATABASE);
    }
    fill();
  }

  private void fill() throws SQLException {
    try (Connection connection = folder.connect("setup");
        Statement statement = connection.createStatement()) {
      statement.execute("create extension pg_stat_statements");
      statement.execute(resource("/booking/schema.sql"));
      String password = Secrets.random();
      keep(folder.readerPassword(), password);
      statement.execute("create role " + DemoFolder.READER + " login password '" + password + "'");
      statement.execute("grant pg_monitor to " + DemoFolder.READER);
      statement.execute(PostgresSampler.mayReadLog(DemoFolder.READER));
      for (String user : USERS) {
        statement.execute(
            "create role " + user + " login password '" + folder.engine().password() + "'");
        statement.execute(
            "grant select, insert, update, delete on all tables in schema public to " + user);
      }
      statement.execute("analyze");
    }
  }

  /**
   * Starts the replica of a booking engine that runs, after copying it when it is not there yet.
   */
  public void startReplica() throws SQLException {
    String slot = "booking_db_b";
    try (Connection connection = folder.connect("setup");
        Statement statement = connection.createStatement()) {
      statement.execute(
          "select pg_create_physical_replication_slot('"
              + slot
              + "') where not exists (select from pg_replication_slots where slot_name = '"
              + slot
              + "')");
    }
    folder.replica().startReplicaOf(folder.engine(), slot, DemoFolder.settings());
  }

  private static void keep(Path file, String secret) {
    try {
      Files.deleteIfExists(file);
      Files.createFile(
          file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
      Files.writeString(file, secret);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static String resource(String name) {
    try (InputStream in = BookingEngine.class.getResourceAsStream(name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
