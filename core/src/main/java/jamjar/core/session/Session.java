package jamjar.core.session;

import java.util.List;

/**
 * One session at the moment of a sample. Times are epoch ms by the engine's clock, 0 for none.
 *
 * @param waitsFor what it waits for; {@link Wait#NONE} where it tells of none
 * @param statement fingerprint of what it runs, or of what it ran last when it is not active; 0 for
 *     none
 * @param module what its statement's comment says of where it comes from; empty for nothing
 * @param since since when it is in this state
 * @param leader number of the process that it works for; 0 for itself
 * @param holds what its transaction holds, a sum of {@link #XID} and {@link #SNAPSHOT}
 * @param blockers numbers of the processes that it waits for
 */
public record Session(
    Who who,
    State state,
    Wait waitsFor,
    long statement,
    String module,
    Since since,
    int leader,
    int holds,
    List<Integer> blockers) {

  /** It has changed something: its transaction has a number. */
  public static final int XID = 1;

  /** It keeps a snapshot: what is dead since then can't be removed. */
  public static final int SNAPSHOT = 2;

  /** What a session is doing. */
  public enum State {
    ACTIVE("active"),
    IDLE("idle"),
    IN_TRANSACTION("idle in transaction"),
    IN_FAILED_TRANSACTION("idle in failed transaction"),
    PREPARED("prepared"),
    OTHER("other");

    private final String words;

    State(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /**
   * What a session waits for, in the engine's words.
   *
   * @param kind such as Lock, IO or Client; empty where it tells of none
   */
  public record Wait(String kind, String event) {
    public static final Wait NONE = new Wait("", "");
  }

  /**
   * Since when.
   *
   * @param waiting the beginning of a wait for a lock, where the engine tells it (14 on)
   */
  public record Since(long state, long statement, long transaction, long waiting) {}

  public int pid() {
    return who.pid();
  }

  /** A person's or a program's session that runs a statement now. */
  public boolean isBusy() {
    return state == State.ACTIVE && who.kind() == Who.Kind.CLIENT;
  }

  public boolean isWaitingForLock() {
    return !blockers.isEmpty() || state == State.ACTIVE && waitsFor.kind().equals("Lock");
  }

  /**
   * How long it has waited for a lock, in ms: exactly where the engine tells when the wait began,
   * else at most so long, from the statement's start.
   *
   * @return -1 when it waits for none
   */
  public long waitedMs(long engineAt) {
    if (!isWaitingForLock()) {
      return -1;
    }
    return Math.max(0, engineAt - (since.waiting() > 0 ? since.waiting() : since.statement()));
  }

  /** Whether the wait may be shorter than told. */
  public boolean waitedAtMost() {
    return isWaitingForLock() && since.waiting() == 0;
  }
}
