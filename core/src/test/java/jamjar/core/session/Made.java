package jamjar.core.session;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;

/** Sessions and samples for tests; the engine's clock is that of here. */
public final class Made {
  public static final long AT = 1_790_000_000_000L;

  private Made() {}

  public static Who who(int pid, String user) {
    return new Who(pid, AT - 3_600_000, Who.Kind.CLIENT, user, "berths", "bookings", "10.0.0.7");
  }

  /** One that runs a statement for so long and waits for nothing. */
  public static Session busy(int pid, String user, long statement, long ms) {
    return new Session(
        who(pid, user),
        Session.State.ACTIVE,
        Session.Wait.NONE,
        statement,
        "",
        new Session.Since(AT - ms, AT - ms, AT - ms, 0),
        0,
        0,
        List.of());
  }

  /** One that waits for a lock for so long. */
  public static Session waits(int pid, long ms, Integer... blockers) {
    return new Session(
        who(pid, "web"),
        Session.State.ACTIVE,
        new Session.Wait("Lock", "transactionid"),
        7,
        "",
        new Session.Since(AT - ms, AT - ms, AT - ms, AT - ms),
        0,
        Session.XID,
        Arrays.asList(blockers));
  }

  /** One whose transaction is open while it does nothing. */
  public static Session rests(int pid, long ms) {
    return new Session(
        who(pid, "reload"),
        Session.State.IN_TRANSACTION,
        new Session.Wait("Client", "ClientRead"),
        9,
        "",
        new Session.Since(AT - ms, AT - ms, AT - ms, 0),
        0,
        Session.XID,
        List.of());
  }

  public static Sample sample(List<Session> sessions, Sample.Lock... locks) {
    return sample(AT, sessions, locks);
  }

  public static Sample sample(long at, List<Session> sessions, Sample.Lock... locks) {
    return new Sample(Instant.ofEpochMilli(at), at, sessions, List.of(), List.of(locks));
  }
}
