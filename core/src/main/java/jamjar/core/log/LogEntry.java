package jamjar.core.log;

import java.util.List;

/**
 * A line of an engine's log, without the values in it.
 *
 * @param at epoch ms, by the engine's clock
 * @param pid number of the process that wrote it
 * @param started when its session began, epoch ms; to the second
 * @param durationUs how long it took: a statement, or a wait for a lock; -1 where it is not told
 * @param statement fingerprint of the statement that it is about; 0 for none
 * @param state the engine's code of what happened, five characters; 00000 for no error
 * @param message what happened, in the engine's words with all values taken out
 * @param parties those in a deadlock
 */
public record LogEntry(
    long at,
    Kind kind,
    int pid,
    long started,
    String user,
    String program,
    String database,
    long durationUs,
    long statement,
    String state,
    String message,
    List<Party> parties) {

  /** What a line tells of. */
  public enum Kind {
    /** A statement that took longer than the engine is told to log. */
    FINISHED,
    /** A statement that was cancelled, by a time-out or by somebody. */
    CANCELLED,
    /** A lock that somebody got after waiting for it. */
    WAITED,
    DEADLOCK,
    ERROR
  }

  /**
   * One in a deadlock.
   *
   * @param wants the lock in the engine's words, without numbers of rows and transactions
   * @param blocker number of the process that it waited for
   * @param statement fingerprint of what it ran; 0 for not told
   */
  public record Party(int pid, String wants, int blocker, long statement) {}
}
