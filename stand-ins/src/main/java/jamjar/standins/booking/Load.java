package jamjar.standins.booking;

import jamjar.standins.DemoFolder;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import java.util.SplittableRandom;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleSupplier;

/**
 * A bounded load on the bookings: a few dozen transactions a second from several programs and
 * users, each over a few connections of its own. Goes on by itself after the engine was away.
 */
public final class Load implements AutoCloseable {
  private static final int CONNECTIONS_EACH = 3;
  private static final long LOOK_EVERY_MS = 200;

  private final BooleanSupplier on;
  private final DoubleSupplier busy;
  private final Ledger ledger;
  private final String password;
  private final String url;
  private final List<Thread> threads = new ArrayList<>();
  private volatile boolean ended;

  /**
   * @param on whether the load runs; asked before each transaction
   * @param ledger counts what was committed
   */
  public Load(DemoFolder folder, BooleanSupplier on, Ledger ledger) {
    this(folder, on, () -> 1, ledger);
  }

  /**
   * @param busy how busy it is now, 1 for as usual; asked before each transaction
   */
  public Load(DemoFolder folder, BooleanSupplier on, DoubleSupplier busy, Ledger ledger) {
    this.on = on;
    this.busy = busy;
    this.ledger = ledger;
    this.password = folder.engine().password();
    this.url = folder.engine().url(DemoFolder.DATABASE);
  }

  /**
   * @param seed of the random choices
   */
  public void start(long seed) {
    SplittableRandom seeds = new SplittableRandom(seed);
    for (Program program : Program.values()) {
      for (int i = 0; i < CONNECTIONS_EACH; i++) {
        SplittableRandom random = seeds.split();
        Thread thread =
            new Thread(() -> run(program, random), "load-" + program.application() + "-" + i);
        thread.setDaemon(true);
        thread.start();
        threads.add(thread);
      }
    }
  }

  @Override
  public void close() {
    ended = true;
    threads.forEach(Thread::interrupt);
    for (Thread thread : threads) {
      try {
        thread.join(5000);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }

  private void run(Program program, SplittableRandom random) {
    double meanMillis = 1000 * CONNECTIONS_EACH / program.perSecond();
    Connection connection = null;
    while (!ended) {
      try {
        double mean = meanMillis / busy.getAsDouble();
        double wait = -Math.log(1 - random.nextDouble()) * mean;
        if (!sleepWhileOn((long) Math.min(10 * mean, wait))) {
          connection = close(connection);
          Thread.sleep(LOOK_EVERY_MS);
          continue;
        }
        if (connection == null) {
          connection = open(program);
        }
        program.run(connection, random);
        connection.commit();
        ledger.one();
      } catch (SQLException e) {
        connection = close(connection);
      } catch (InterruptedException e) {
        break;
      }
    }
    close(connection);
  }

  /** Sleeps unless the load is switched off meanwhile; whether it is still on. */
  private boolean sleepWhileOn(long millis) throws InterruptedException {
    for (long left = millis; left > 0 && on.getAsBoolean(); left -= LOOK_EVERY_MS) {
      Thread.sleep(Math.min(left, LOOK_EVERY_MS));
    }
    return on.getAsBoolean();
  }

  private Connection open(Program program) throws SQLException {
    Properties properties = new Properties();
    properties.setProperty("user", program.user());
    properties.setProperty("password", password);
    properties.setProperty("ApplicationName", program.application());
    properties.setProperty("connectTimeout", "3");
    Connection connection = DriverManager.getConnection(url, properties);
    connection.setAutoCommit(false);
    return connection;
  }

  private static Connection close(Connection connection) {
    try {
      if (connection != null) {
        connection.close();
      }
    } catch (SQLException e) {
      // it is given up either way
    }
    return null;
  }
}
