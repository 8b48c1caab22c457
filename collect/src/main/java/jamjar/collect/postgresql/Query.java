package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Optional;

/** One query of a reading. Its group of counters is read whole or not at all. */
interface Query {
  /** The group of counters that it reads. */
  String group();

  /** Why it is not even tried on this engine; empty when it is. */
  default Optional<WhyNothing> notTried(Abilities abilities) {
    return Optional.empty();
  }

  /** Forgets what it kept of the reading before. */
  default void forget() {}

  void read(Connection connection, Abilities abilities, Sink sink) throws SQLException;
}
