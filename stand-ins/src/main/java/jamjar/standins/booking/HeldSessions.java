package jamjar.standins.booking;

import jamjar.standins.DemoFolder;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Sessions held in three states: idle in transaction, waiting for a lock that the first of them
 * holds, and active without waiting, which keeps a processor busy each.
 */
public final class HeldSessions implements AutoCloseable {
  private static final String PROGRAM = "held";

  private final List<Connection> idle = new ArrayList<>();
  private final List<Connection> busy = new ArrayList<>();
  private final List<Thread> threads = new ArrayList<>();

  private HeldSessions() {}

  /**
   * @param time after which the active ones end by themselves
   */
  public static HeldSessions open(
      DemoFolder folder, int idle, int waiting, int active, Duration time) throws SQLException {
    if (waiting > 0 && idle == 0) {
      throw new IllegalArgumentException("sessions can only wait for one that is held idle");
    }
    HeldSessions held = new HeldSessions();
    for (int i = 0; i < idle; i++) {
      Connection connection = folder.connect(PROGRAM);
      held.idle.add(connection);
      connection.setAutoCommit(false);
      try (Statement statement = connection.createStatement()) {
        statement.execute(
            i == 0 ? "lock table fare in access exclusive mode" : "select count(*) from sailing");
      }
    }
    for (int i = 0; i < waiting; i++) {
      held.run(folder.connect(PROGRAM), "select count(*) from fare");
    }
    String loop =
        "do $$ declare ending timestamptz := clock_timestamp() + interval '"
            + time.toMillis()
            + " ms'; begin while clock_timestamp() < ending loop end loop; end $$";
    for (int i = 0; i < active; i++) {
      held.run(folder.connect(PROGRAM), loop);
    }
    return held;
  }

  private void run(Connection connection, String sql) {
    busy.add(connection);
    Thread thread =
        new Thread(
            () -> {
              try (Statement statement = connection.createStatement()) {
                statement.execute(sql);
              } catch (SQLException e) {
                // cancelled at the end
              }
            },
            PROGRAM);
    thread.setDaemon(true);
    thread.start();
    threads.add(thread);
  }

  @Override
  public void close() throws SQLException {
    for (Connection connection : busy) {
      connection.unwrap(org.postgresql.PGConnection.class).cancelQuery();
    }
    for (Thread thread : threads) {
      try {
        thread.join(2000);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
    for (Connection connection : busy) {
      connection.close();
    }
    for (Connection connection : idle) {
      connection.close();
    }
  }
}
