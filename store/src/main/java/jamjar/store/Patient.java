package jamjar.store;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.time.Duration;
import javax.sql.DataSource;
import org.springframework.jdbc.datasource.DelegatingDataSource;

/**
 * Tells a pool whose connections are all in use from a database that is away: who waits for the
 * first waits on, in the order of coming; who waits for the second is told soon.
 */
final class Patient extends DelegatingDataSource {
  private static final Duration LONGEST = Duration.ofSeconds(30);
  private volatile boolean answers = true;

  Patient(DataSource pool) {
    super(pool);
  }

  /** Whether the database answered when it was asked last, on a connection of its own. */
  void answers(boolean now) {
    answers = now;
  }

  @Override
  public Connection getConnection() throws SQLException {
    long until = System.nanoTime() + LONGEST.toNanos();
    while (true) {
      try {
        return super.getConnection();
      } catch (SQLTransientConnectionException e) {
        // one with a cause could not be made: it is not that all are in use
        if (!answers || e.getCause() != null || System.nanoTime() > until) {
          throw e;
        }
      }
    }
  }
}
