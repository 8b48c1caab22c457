package jamjar.e2e;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;

/** Sessions of a test on the engine of a site: each is in a transaction, and may wait. */
final class OpenSessions {
  private final Site site;
  private final ExecutorService threads = Executors.newCachedThreadPool();
  private final List<Connection> opened = new ArrayList<>();

  OpenSessions(Site site) {
    this.site = site;
  }

  Connection session(String program) throws SQLException {
    Connection connection = site.folder().connect(program);
    opened.add(connection);
    connection.setAutoCommit(false);
    return connection;
  }

  static void run(Connection connection, String... all) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      for (String sql : all) {
        statement.execute(sql);
      }
    }
  }

  /** As one who makes and drops what a test needs. */
  void setup(String... all) throws SQLException {
    try (Connection setup = site.folder().connect("setup")) {
      run(setup, all);
    }
  }

  /** Runs it while the test goes on. */
  void later(Connection connection, String sql) {
    threads.submit(
        () -> {
          run(connection, sql);
          return null;
        });
  }

  /** Ends all of them, whatever they wait for. */
  void end() throws SQLException {
    for (Connection connection : opened) {
      connection.abort(Runnable::run);
    }
    opened.clear();
    threads.shutdownNow();
  }
}
