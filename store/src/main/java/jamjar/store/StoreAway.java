package jamjar.store;

import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;

/** Tells from what a call failed of whether the database is away, or was asked something wrong. */
public final class StoreAway {
  private StoreAway() {}

  /** Whether the database did not answer, is starting or stopping, or has no room to go on. */
  public static boolean is(Throwable failure) {
    Throwable cause = failure;
    for (int depth = 0; cause != null && depth < 20; depth++, cause = cause.getCause()) {
      if (cause instanceof SQLTransientConnectionException) {
        return true;
      }
      if (cause instanceof SQLException sql && sql.getSQLState() != null) {
        String state = sql.getSQLState();
        // broken connections; shut down or starting; out of disk, memory or connections; I/O errors
        return state.startsWith("08")
            || state.startsWith("57P")
            || state.startsWith("53")
            || state.startsWith("58");
      }
    }
    return false;
  }
}
