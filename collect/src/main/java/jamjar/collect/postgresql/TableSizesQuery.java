package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Bytes on disk of the largest tables, those left out that somebody holds exclusively. */
final class TableSizesQuery implements Query {
  // measuring a table takes a lock on it: one that is held exclusively would only cost the lock
  // time-out
  private static final String SQL =
      """
      with largest as (
        select oid, oid::regclass::text as name,
          exists (select from pg_locks l where l.relation = c.oid and l.granted
            and l.mode = 'AccessExclusiveLock') as held
        from pg_class c where relkind in ('r', 'm') and relpersistence <> 't'
        order by relpages desc limit 20)
      select name, case when held then null else pg_total_relation_size(oid) end from largest
      """;

  @Override
  public String group() {
    return "table_sizes";
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(SQL);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        long size = rows.getLong(2);
        if (rows.wasNull()) {
          sink.nothing("size.table", "table", rows.getString(1), WhyNothing.CUT_OFF);
        } else {
          sink.level("size.table", "table", rows.getString(1), size);
        }
      }
    }
  }
}
