package jamjar.store;

import jamjar.core.failure.Causes;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Tells from what a call failed of whether the database is away or too busy, which passes, or was
 * asked something wrong.
 */
public final class StoreAway {
  /** Ended by its time-out, or by that of waiting for a lock. */
  private static final Set<String> TOOK_TOO_LONG = Set.of("57014", "55P03");

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

  /** Whether it is there, but ended what took longer than it may. */
  public static boolean tookTooLong(Throwable failure) {
    return Causes.of(failure, SQLException.class)
        .map(SQLException::getSQLState)
        .filter(TOOK_TOO_LONG::contains)
        .isPresent();
  }

  /** Whether it is away or took too long: the same may come about later. */
  public static boolean passes(Throwable failure) {
    return is(failure) || tookTooLong(failure);
  }

  /** Broken connections; shut down or starting; out of disk, memory or connections; I/O errors. */
  private static boolean isAway(String state) {
    return Stream.of("08", "57P", "53", "58").anyMatch(state::startsWith);
  }
}
