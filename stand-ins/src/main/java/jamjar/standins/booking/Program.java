package jamjar.standins.booking;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.SplittableRandom;

/** The programs of Skerry Line that use the bookings; each runs one transaction at a time. */
enum Program {
  HOLD_BERTH("booking-web", "booking_app", 8.0) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      int sailing = sailing(random);
      int number = 1 + random.nextInt(400);
      // two people want the same sailing: the second waits for the row of the first
      try (PreparedStatement lock =
          connection.prepareStatement("select berths from sailing where id = ? for update")) {
        lock.setInt(1, sailing);
        lock.executeQuery().close();
      }
      try (PreparedStatement hold =
          connection.prepareStatement(
              "update berth set held_by = ? where sailing = ? and number = ?")) {
        hold.setLong(1, random.nextLong(1_000_000));
        hold.setInt(2, sailing);
        hold.setInt(3, number);
        hold.executeUpdate();
      }
      pause(random, 40);
    }
  },
  PAY("booking-pay", "booking_app", 5.0) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement book =
          connection.prepareStatement(
              "insert into booking (sailing, lead_name, vehicles, fare, paid_at)"
                  + " values (?, ?, ?, ?, now())")) {
        book.setInt(1, sailing(random));
        book.setString(2, "Traveller " + random.nextInt(90_000));
        book.setInt(3, random.nextInt(3));
        book.setInt(4, 30 + random.nextInt(170));
        book.executeUpdate();
      }
    }
  },
  QUOTE_FARE("fare-quotes", "fares_app", 14.0) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement quote =
          connection.prepareStatement(
              "select f.season, f.price, s.departs from sailing s join fare f on f.route = s.route"
                  + " where s.id = ?")) {
        quote.setInt(1, sailing(random));
        drain(quote);
      }
    }
  },
  SCAN("gate-scan", "gates_app", 6.0) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement scan =
          connection.prepareStatement("insert into gate_scan (booking, gate) values (?, ?)")) {
        scan.setLong(1, 1 + random.nextInt(40_000));
        scan.setInt(2, 1 + random.nextInt(6));
        scan.executeUpdate();
      }
    }
  },
  REPORT("refund-report", "refund_app", 2.0) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement report =
          connection.prepareStatement(
              "select lead_name, sum(fare) from booking where sailing = ? group by lead_name"
                  + " order by 2 desc")) {
        report.setInt(1, sailing(random));
        drain(report);
      }
    }
  };

  private final String application;
  private final String user;
  private final double perSecond;

  Program(String application, String user, double perSecond) {
    this.application = application;
    this.user = user;
    this.perSecond = perSecond;
  }

  abstract void run(Connection connection, SplittableRandom random) throws SQLException;

  String application() {
    return application;
  }

  String user() {
    return user;
  }

  double perSecond() {
    return perSecond;
  }

  private static int sailing(SplittableRandom random) {
    // the next sailings are wanted most
    double skewed = random.nextDouble() * random.nextDouble();
    return 1 + (int) (skewed * 60);
  }

  private static void drain(PreparedStatement statement) throws SQLException {
    try (ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        rows.getString(1);
      }
    }
  }

  private static void pause(SplittableRandom random, int millis) throws SQLException {
    try {
      Thread.sleep(random.nextInt(millis));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new SQLException("interrupted", e);
    }
  }
}
