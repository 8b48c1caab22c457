package jamjar.collect.postgresql;

import jamjar.collect.CollectFailed;
import jamjar.collect.Target;
import java.sql.SQLException;

/**
 * A question to an engine, whatever answers: what fails is told as a refusal, and ends the
 * connection.
 */
@FunctionalInterface
interface Asking<T> {
  T ask() throws SQLException, CollectFailed;

  /**
   * @param close ends the connection
   */
  static <T> T guarded(Target target, Runnable close, Asking<T> asking) throws CollectFailed {
    try {
      return asking.ask();
    } catch (SQLException e) {
      close.run();
      throw new CollectFailed(PostgresRefusals.of(target, e), e);
    } catch (RuntimeException e) {
      close.run();
      if (PostgresRefusals.ofDriver(e)) {
        throw new CollectFailed(PostgresRefusals.garbled(target, e), e);
      }
      throw e;
    }
  }
}
