package jamjar.bench;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import javax.management.ObjectName;
import org.apache.catalina.Context;
import org.apache.catalina.manager.StatusManagerServlet;
import org.apache.catalina.startup.Tomcat;
import org.apache.tomcat.jdbc.pool.DataSource;

/** An embedded Tomcat with a real connection pool as a process, to be watched. */
final class TomcatTarget {
  private static final int THREADS = 30;
  private static final int POOL = 12;

  private TomcatTarget() {}

  /** Borrows a connection, keeps it for a time that is asked for, and answers; fails when asked. */
  @SuppressWarnings("serial")
  private static final class Book extends HttpServlet {
    private final transient DataSource pool;

    Book(DataSource pool) {
      this.pool = pool;
    }

    @Override
    protected void doGet(HttpServletRequest request, HttpServletResponse response)
        throws IOException {
      if (request.getParameter("fail") != null) {
        response.sendError(500, "as asked");
        return;
      }
      double seconds = Integer.parseInt(request.getParameter("ms")) / 1000.0;
      try (Connection connection = pool.getConnection();
          Statement statement = connection.createStatement()) {
        statement.execute("select pg_sleep(" + seconds + ")");
        response.getWriter().println("booked");
      } catch (SQLException e) {
        response.sendError(503, e.getMessage());
      }
    }
  }

  /**
   * @param options HTTP port, JDBC address; the password stands in the environment
   */
  static void run(String[] options) throws Exception {
    DataSource pool = new DataSource();
    pool.setDriverClassName("org.postgresql.Driver");
    pool.setUrl(options[1]);
    pool.setUsername("postgres");
    pool.setPassword(System.getenv("TARGET_PASSWORD"));
    pool.setMaxActive(POOL);
    pool.setInitialSize(2);
    pool.setConnectionProperties("ApplicationName=bookingPool");
    pool.createPool();
    // as Tomcat does with a data source that it makes itself
    pool.preRegister(
        ManagementFactory.getPlatformMBeanServer(),
        new ObjectName("tomcat:type=DataSource,name=" + ObjectName.quote("bookingPool")));
    Path base = Files.createTempDirectory("jamjar-tomcat");
    Tomcat tomcat = new Tomcat();
    tomcat.setBaseDir(base.toString());
    tomcat.setPort(Integer.parseInt(options[0]));
    tomcat.getConnector().setProperty("address", "127.0.0.1");
    tomcat.getConnector().setProperty("maxThreads", Integer.toString(THREADS));
    Context shop = tomcat.addContext("/shop", base.toString());
    Tomcat.addServlet(shop, "book", new Book(pool)).addMapping("/book");
    Context status = tomcat.addContext("/status", base.toString());
    status.setPrivileged(true);
    Tomcat.addServlet(status, "status", new StatusManagerServlet()).addMapping("/*");
    tomcat.start();
    System.out.println("ready");
    while (System.in.read() >= 0) {
      // until whoever started it has gone
    }
    System.exit(0);
  }
}
