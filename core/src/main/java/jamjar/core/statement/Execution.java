package jamjar.core.statement;

import jamjar.core.session.Who;

/**
 * One execution of a statement. Times are epoch ms by the clock here, lengths in ms.
 *
 * @param ended when it was seen last, or when its end was logged
 * @param leastMs it ran for so long at least
 * @param mostMs and for so long at most: the same where its length was logged, -1 while it was
 *     still running when it was looked at last
 * @param waitedFor the kind of wait in which it was seen most; empty for none
 * @param blocker number of a process that it was seen waiting for; 0 for none
 * @param ending how it ended, as far as that is known
 */
public record Execution(
    Who who,
    long statement,
    String module,
    long started,
    long ended,
    long leastMs,
    long mostMs,
    String waitedFor,
    int blocker,
    Ending ending) {

  /** How an execution ended. */
  public enum Ending {
    /** It was seen running, and then no more. */
    SEEN("seen running"),
    /** It was running still when it was looked at last. */
    RUNNING("still running"),
    FINISHED("finished"),
    CANCELLED("cancelled");

    private final String words;

    Ending(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }
}
