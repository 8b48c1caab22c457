package jamjar.standins.history;

import java.util.List;

/**
 * What programs of Skerry Line do on an engine: the very statements that they run.
 *
 * @param share of all, by how often they run something
 * @param statements one after the other in a transaction
 */
public record Doing(
    String program, String user, String client, double share, List<String> statements) {

  static final String HOLD_BERTH = "booking-web";
  static final String LOCKS = "select berths from sailing where id = ? for update";
  static final String HOLDS = "update berth set held_by = ? where sailing = ? and number = ?";
  static final String RELOAD = "lock table sailing in access exclusive mode";

  private static final List<Doing> BOOKINGS =
      List.of(
          new Doing(HOLD_BERTH, "booking_app", "10.20.1.11", 8, List.of(LOCKS, HOLDS)),
          new Doing(
              "booking-pay",
              "booking_app",
              "10.20.1.12",
              5,
              List.of(
                  "insert into booking (sailing, lead_name, vehicles, fare, paid_at)"
                      + " values (?, ?, ?, ?, now())")),
          new Doing(
              "fare-quotes",
              "fares_app",
              "10.20.2.21",
              14,
              List.of(
                  "select f.season, f.price, s.departs from sailing s join fare f on f.route ="
                      + " s.route where s.id = ?")),
          new Doing(
              "gate-scan",
              "gates_app",
              "10.20.3.31",
              6,
              List.of("insert into gate_scan (booking, gate) values (?, ?)")),
          new Doing(
              "refund-report",
              "refund_app",
              "10.20.4.41",
              6,
              List.of(
                  "select lead_name, sum(fare) from booking where sailing = ? group by lead_name"
                      + " order by 2 desc")));

  private static final List<Doing> FREIGHT =
      List.of(
          new Doing(
              "manifest-filing",
              "postgres",
              "10.20.5.51",
              3,
              List.of(
                  "insert into manifest (ship, state, weight) values (?, 'filed', ?)",
                  "update manifest set state = 'cleared' where id in (select id from manifest"
                      + " where state = 'filed' and ship = ? order by id limit 5)",
                  "select ship, sum(weight) from manifest where state = 'filed' group by ship")));

  static List<Doing> on(String engine) {
    return engine.equals(EngineStory.FREIGHT) ? FREIGHT : BOOKINGS;
  }
}
