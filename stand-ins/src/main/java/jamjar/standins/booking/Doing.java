package jamjar.standins.booking;

import java.util.List;

/**
 * What a program of Skerry Line does on an engine: the very statements that it runs, in the load of
 * now and in the history before it.
 *
 * @param program as it calls itself
 * @param client where it runs
 * @param perSecond how many transactions
 * @param statements one after the other in a transaction
 */
public record Doing(
    String program, String user, String client, double perSecond, List<String> statements) {

  public static final Doing HOLD_BERTH =
      new Doing(
          "booking-web",
          "booking_app",
          "10.20.1.11",
          8,
          List.of(
              "select berths from sailing where id = ? for update",
              "update berth set held_by = ? where sailing = ? and number = ?"));

  public static final Doing PAY =
      new Doing(
          "booking-pay",
          "booking_app",
          "10.20.1.12",
          5,
          List.of(
              "insert into booking (sailing, lead_name, vehicles, fare, paid_at)"
                  + " values (?, ?, ?, ?, now())"));

  static final Doing QUOTE_FARE =
      new Doing(
          "fare-quotes",
          "fares_app",
          "10.20.2.21",
          14,
          List.of(
              "select f.season, f.price, s.departs from sailing s join fare f on f.route = s.route"
                  + " where s.id = ?"));

  static final Doing SCAN =
      new Doing(
          "gate-scan",
          "gates_app",
          "10.20.3.31",
          6,
          List.of("insert into gate_scan (booking, gate) values (?, ?)"));

  public static final Doing REPORT =
      new Doing(
          "refund-report",
          "refund_app",
          "10.20.4.41",
          2,
          List.of(
              "select lead_name, sum(fare) from booking where sailing = ? group by lead_name"
                  + " order by 2 desc"));

  /** No index helps it: it reads all entries. */
  public static final Doing LOYALTY =
      new Doing(
          "loyalty-points",
          "loyalty_app",
          "10.20.4.42",
          4,
          List.of("select sum(points) from loyalty_entry where member = ?"));

  public static final Doing FILE_MANIFEST =
      new Doing(
          "manifest-filing",
          "postgres",
          "10.20.5.51",
          3,
          List.of(
              "insert into manifest (ship, state, weight) values (?, 'filed', ?)",
              "update manifest set state = 'cleared' where id in (select id from manifest"
                  + " where state = 'filed' and ship = ? order by id limit 5)",
              "select ship, sum(weight) from manifest where state = 'filed' group by ship"));

  /** What the fare reload holds up all others with. */
  public static final String RELOAD = "lock table sailing in access exclusive mode";

  public static final List<Doing> BOOKINGS =
      List.of(HOLD_BERTH, PAY, QUOTE_FARE, SCAN, REPORT, LOYALTY);

  public String sql(int nth) {
    return statements.get(nth);
  }
}
