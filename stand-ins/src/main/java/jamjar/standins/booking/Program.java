package jamjar.standins.booking;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.SplittableRandom;

/** The programs of Skerry Line that use the bookings; each runs one transaction at a time. */
enum Program {
  HOLD_BERTH(Doing.HOLD_BERTH) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      int sailing = sailing(random);
      int number = 1 + random.nextInt(400);
      // two people want the same sailing: the second waits for the row of the first
      try (PreparedStatement lock = connection.prepareStatement(Doing.HOLD_BERTH.sql(0))) {
        lock.setInt(1, sailing);
        lock.executeQuery().close();
      }
      try (PreparedStatement hold = connection.prepareStatement(Doing.HOLD_BERTH.sql(1))) {
        hold.setLong(1, random.nextLong(1_000_000));
        hold.setInt(2, sailing);
        hold.setInt(3, number);
        hold.executeUpdate();
      }
      pause(random, 40);
    }
  },
  PAY(Doing.PAY) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement book = connection.prepareStatement(Doing.PAY.sql(0))) {
        book.setInt(1, sailing(random));
        book.setString(2, "Traveller " + random.nextInt(90_000));
        book.setInt(3, random.nextInt(3));
        book.setInt(4, 30 + random.nextInt(170));
        book.executeUpdate();
      }
    }
  },
  QUOTE_FARE(Doing.QUOTE_FARE) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement quote = connection.prepareStatement(Doing.QUOTE_FARE.sql(0))) {
        quote.setInt(1, sailing(random));
        drain(quote);
      }
    }
  },
  SCAN(Doing.SCAN) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement scan = connection.prepareStatement(Doing.SCAN.sql(0))) {
        scan.setLong(1, 1 + random.nextInt(40_000));
        scan.setInt(2, 1 + random.nextInt(6));
        scan.executeUpdate();
      }
    }
  },
  REPORT(Doing.REPORT) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement report = connection.prepareStatement(Doing.REPORT.sql(0))) {
        report.setInt(1, sailing(random));
        drain(report);
      }
    }
  },
  LOYALTY(Doing.LOYALTY) {
    @Override
    void run(Connection connection, SplittableRandom random) throws SQLException {
      try (PreparedStatement points = connection.prepareStatement(Doing.LOYALTY.sql(0))) {
        points.setInt(1, 1 + random.nextInt(4_000));
        drain(points);
      }
    }
  };

  private final Doing doing;

  Program(Doing doing) {
    this.doing = doing;
  }

  abstract void run(Connection connection, SplittableRandom random) throws SQLException;

  String application() {
    return doing.program();
  }

  String user() {
    return doing.user();
  }

  double perSecond() {
    return doing.perSecond();
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
