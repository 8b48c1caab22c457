package jamjar.collect.postgresql;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.Map;

/** Locks held by mode, lock requests that wait, and the oldest wait. */
final class LocksQuery implements Query {
  @Override
  public String group() {
    return "locks";
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    boolean tells = abilities.has("pg_locks", "waitstart");
    // before version 14 the wait has no start of its own: the statement began no later than the
    // wait
    String since =
        tells
            ? "waitstart"
            : "(select a.query_start from pg_stat_activity a where a.pid = l.pid and not granted)";
    String sql =
        "select mode, granted, count(*), max(extract(epoch from clock_timestamp() - "
            + since
            + ")) from pg_locks l where pid is distinct from pg_backend_pid() group by 1, 2";
    Map<String, Integer> held = new LinkedHashMap<>();
    Conflicts.MODES.forEach(mode -> held.put(mode, 0));
    int waiters = 0;
    double oldest = 0;
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        if (rows.getBoolean(2)) {
          held.merge(rows.getString(1), rows.getInt(3), Integer::sum);
        } else {
          waiters += rows.getInt(3);
          oldest = Math.max(oldest, rows.getDouble(4));
        }
      }
    }
    sink.level("locks.waiters", waiters);
    sink.level("locks.oldest_wait", oldest);
    held.forEach((mode, count) -> sink.level("locks.held", "mode", mode, count));
  }
}
