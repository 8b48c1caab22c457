package jamjar.standins.booking;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/** Connections that are closed together. */
final class Sessions implements AutoCloseable {
  private final List<Connection> connections = new ArrayList<>();

  Connection add(Connection connection) {
    connections.add(connection);
    return connection;
  }

  @Override
  public void close() throws SQLException {
    for (Connection connection : connections) {
      connection.close();
    }
  }
}
