package jamjar.core.session;

import java.time.Instant;
import java.util.List;

/**
 * All sessions of an engine at one moment. Sessions and locks are read one after the other: who
 * blocks may be gone from the list.
 *
 * @param at by the clock here
 * @param engineAt the same moment by the engine's clock, epoch ms
 * @param sessions those that do something, have a transaction open, or block somebody
 * @param idle the others, counted
 * @param locks the locks that somebody waits for, with who holds them; empty when nobody waits
 */
public record Sample(
    Instant at, long engineAt, List<Session> sessions, List<Idle> idle, List<Lock> locks) {

  /** So many sessions that do nothing, of one user and program. */
  public record Idle(String user, String program, String database, int count) {}

  /**
   * A lock, or a request for one.
   *
   * @param pid whose, as in {@link Who#pid()}
   * @param kind in the engine's words, such as relation or transactionid
   * @param mode in the engine's words, such as AccessExclusiveLock
   * @param object what is locked, in words
   */
  public record Lock(int pid, boolean granted, String kind, String mode, String object) {}

  /** So many sessions there are, those that do nothing among them. */
  public int total() {
    int clients = (int) sessions.stream().filter(s -> s.who().kind() == Who.Kind.CLIENT).count();
    return clients + idle.stream().mapToInt(Idle::count).sum();
  }
}
