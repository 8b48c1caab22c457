package jamjar.store;

import jamjar.core.failure.Causes;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.stream.Stream;

/** Tells from what a call failed of whether the database is away, or was asked something wrong. */
public final class StoreAway {
  private StoreAway() {}

  /** Whether the database did not answer, is starting or stopping, or has no room to go on. */
  public static boolean is(Throwable failure) {
    return Causes.of(failure)
        .filter(SQLException.class::isInstance)
        .map(SQLException.class::cast)
        .filter(e -> e instanceof SQLTransientConnectionException || e.getSQLState() != null)
        .findFirst()
        .filter(e -> e instanceof SQLTransientConnectionException || isAway(e.getSQLState()))
        .isPresent();
  }

  /** Broken connections; shut down or starting; out of disk, memory or connections; I/O errors. */
  private static boolean isAway(String state) {
    return Stream.of("08", "57P", "53", "58").anyMatch(state::startsWith);
  }
}
