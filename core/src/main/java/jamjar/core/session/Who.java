package jamjar.core.session;

/**
 * Who a session is: what stays the same from its start to its end.
 *
 * @param pid number of its process; below 0 for a transaction that is prepared and has none
 * @param started when it began, epoch ms by the engine's clock; for a prepared transaction when
 *     that was prepared
 * @param program as the program calls itself; for a prepared transaction its identifier
 * @param client address it comes from; empty for this machine
 */
public record Who(
    int pid, long started, Kind kind, String user, String program, String database, String client) {

  /** What a process of an engine is there for. */
  public enum Kind {
    CLIENT("session"),
    PARALLEL("parallel worker"),
    WALSENDER("sends the log"),
    AUTOVACUUM("autovacuum"),
    WORKER("worker of the engine"),
    PREPARED("prepared transaction");

    private final String words;

    Kind(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }
}
