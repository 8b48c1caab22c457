package jamjar.store;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.WeakHashMap;
import org.postgresql.ds.PGSimpleDataSource;

/**
 * Opens the connections of a pool and can break all of them off at once: a query whose database
 * does not answer any more can't be ended in any other way.
 */
final class Connections extends PGSimpleDataSource {
  private static final long serialVersionUID = 1L;

  /** On a machine that has much else to do a database takes its time to let somebody in. */
  private static final int LET_IN_SECONDS = 5;

  private final transient Set<Connection> open =
      Collections.synchronizedSet(Collections.newSetFromMap(new WeakHashMap<>()));

  /**
   * @param properties of the driver
   */
  Connections(String url, Map<String, String> properties) {
    setUrl(url);
    properties.forEach(
        (name, value) -> {
          try {
            setProperty(name, value);
          } catch (SQLException e) {
            throw new IllegalArgumentException("the driver takes no " + name, e);
          }
        });
  }

  /**
   * A pool takes for it how long one waits for a connection, which is less: see {@link Patient}.
   */
  @Override
  public void setLoginTimeout(int seconds) {
    super.setLoginTimeout(Math.max(seconds, LET_IN_SECONDS));
  }

  @Override
  public Connection getConnection(String user, String password) throws SQLException {
    Connection connection = super.getConnection(user, password);
    open.add(connection);
    return connection;
  }

  /** Whoever waits for an answer gets an error instead. */
  void breakOff() {
    List<Connection> all;
    synchronized (open) {
      all = new ArrayList<>(open);
    }
    for (Connection connection : all) {
      try {
        connection.abort(Runnable::run);
      } catch (SQLException e) {
        // it is gone already
      }
    }
  }
}
