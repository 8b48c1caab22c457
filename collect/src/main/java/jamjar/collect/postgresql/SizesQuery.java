package jamjar.collect.postgresql;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Bytes on disk of databases and tablespaces. */
final class SizesQuery implements Query {
  private static final String SQL =
      """
      select 'size.database', 'database', datname, pg_database_size(oid)
      from pg_database where datallowconn
      union all
      select 'size.tablespace', 'tablespace', spcname, pg_tablespace_size(oid) from pg_tablespace
      """;

  @Override
  public String group() {
    return "sizes";
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(SQL);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        sink.level(rows.getString(1), rows.getString(2), rows.getString(3), rows.getLong(4));
      }
    }
  }
}
