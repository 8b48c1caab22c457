package jamjar.standins.booking;

import jamjar.standins.DemoFolder;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Locale;

/**
 * What booking-db-a can be told to do, so that anyone can see it in Jam Jar. Each ends by itself.
 */
public final class Misbehaviour {
  private final DemoFolder folder;
  private final PrintStream out;

  public Misbehaviour(DemoFolder folder, PrintStream out) {
    this.folder = folder;
    this.out = out;
  }

  /** Holds an exclusive lock on the sailings from a session that is idle in transaction. */
  public int holdLock(Duration time) throws SQLException, InterruptedException {
    try (Connection connection = folder.connect("fare-reload");
        Statement statement = connection.createStatement()) {
      connection.setAutoCommit(false);
      statement.execute(Doing.RELOAD);
      out.println("holding an exclusive lock on sailing for " + words(time));
      Thread.sleep(time.toMillis());
      connection.rollback();
    }
    return 0;
  }

  /** Holds sessions in three states until the time is over. */
  public int holdSessions(int idle, int waiting, int active, Duration time)
      throws SQLException, InterruptedException {
    try (HeldSessions held = HeldSessions.open(folder, idle, waiting, active, time)) {
      out.printf(
          "holding %d idle in transaction, %d waiting for a lock, %d active for %s%n",
          idle, waiting, active, words(time));
      Thread.sleep(time.toMillis());
    }
    return 0;
  }

  /** Makes the statement of the refund report slow by dropping the index that it uses. */
  public int slowStatement(Duration time) throws SQLException, InterruptedException {
    try (Connection connection = folder.connect("change");
        Statement statement = connection.createStatement()) {
      statement.execute("drop index if exists booking_sailing");
      out.println("the index of bookings by sailing is gone for " + words(time));
      try {
        Thread.sleep(time.toMillis());
      } finally {
        statement.execute("create index if not exists booking_sailing on booking (sailing)");
        out.println("the index is back");
      }
    }
    return 0;
  }

  /** Opens idle sessions. */
  public int manySessions(int count, Duration time) throws SQLException, InterruptedException {
    try (Sessions sessions = new Sessions()) {
      for (int i = 0; i < count; i++) {
        sessions.add(folder.connect("pool-too-large"));
      }
      out.println("holding " + count + " idle sessions for " + words(time));
      Thread.sleep(time.toMillis());
    }
    return 0;
  }

  /** Stops the engine and starts it again. */
  public int stopEngine(Duration time) throws InterruptedException {
    folder.engine().stop();
    out.println("booking-db-a is stopped for " + words(time));
    try {
      Thread.sleep(time.toMillis());
    } finally {
      folder.engine().start(DemoFolder.settings());
      out.println("booking-db-a is up again");
    }
    return 0;
  }

  /** Switches the load on or off. */
  public int load(String state) throws IOException {
    switch (state.toLowerCase(Locale.ROOT)) {
      case "on" -> Files.deleteIfExists(folder.loadSwitch());
      case "off" -> Files.writeString(folder.loadSwitch(), "off\n");
      default -> throw new IllegalArgumentException("'" + state + "' is neither on nor off");
    }
    out.println("load " + state);
    return 0;
  }

  /** Prints what the load committed between two instants. */
  public int ledger(long from, long to) throws IOException {
    out.printf(Locale.ROOT, "%.0f%n", Ledger.between(folder.ledger(), from, to));
    return 0;
  }

  private static String words(Duration time) {
    return time.toMillis() % 1000 == 0 ? time.toSeconds() + " s" : time.toMillis() + " ms";
  }
}
