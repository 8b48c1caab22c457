package jamjar.bench;

import jamjar.store.cluster.TemporaryCluster;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import org.postgresql.PGConnection;

/** What good people would build for themselves: a row per value, its key and an index with it. */
final class RowTable implements AutoCloseable {
  private final Connection connection;
  private final StringBuilder lines = new StringBuilder();

  RowTable(TemporaryCluster cluster, String database, boolean synchronous) throws SQLException {
    cluster.run(
        database,
        "create table value (series int not null, at timestamptz not null, value float8 not null,"
            + " primary key (series, at) include (value))");
    connection = cluster.connect(database);
    execute("set synchronous_commit = " + (synchronous ? "on" : "off"));
  }

  /** Values of one reading, to be copied with others. */
  void add(int firstSeries, Instant at, double[] values) {
    String when = at.toString();
    for (int s = 0; s < values.length; s++) {
      lines.append(firstSeries + s).append('\t').append(when).append('\t').append(values[s]);
      lines.append('\n');
    }
  }

  void copy() throws Exception {
    byte[] bytes = lines.toString().getBytes(StandardCharsets.US_ASCII);
    lines.setLength(0);
    connection
        .unwrap(PGConnection.class)
        .getCopyAPI()
        .copyIn("copy value from stdin", new ByteArrayInputStream(bytes));
  }

  void vacuum() throws SQLException {
    execute("vacuum analyze value");
  }

  long bytes() throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery("select pg_total_relation_size('value')")) {
      row.next();
      return row.getLong(1);
    }
  }

  /** Mean, least and greatest of so many steps of a window; how many there were. */
  int points(Integer[] series, Instant from, Instant to, int points) throws SQLException {
    double width = (to.getEpochSecond() - from.getEpochSecond()) / (double) points;
    try (PreparedStatement statement =
        connection.prepareStatement(
            "select series, floor((extract(epoch from at)::float8 - ?) / ?)::int, avg(value),"
                + " min(value), max(value) from value"
                + " where series = any(?) and at >= ? and at < ? group by 1, 2")) {
      statement.setDouble(1, from.getEpochSecond());
      statement.setDouble(2, width);
      statement.setArray(3, connection.createArrayOf("int", series));
      statement.setObject(4, from.atOffset(java.time.ZoneOffset.UTC));
      statement.setObject(5, to.atOffset(java.time.ZoneOffset.UTC));
      int found = 0;
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          found++;
        }
      }
      return found;
    }
  }

  private void execute(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public void close() throws SQLException {
    connection.close();
  }
}
