package jamjar.core.session;

import java.util.Map;
import java.util.Optional;

/** Locks in words; the engine's own stand beside them. */
public final class LockWords {
  private static final Map<String, String> MODES =
      Map.of(
          "AccessShareLock", "reads: only a change of the table itself must wait",
          "RowShareLock", "locks rows: what wants the table for itself must wait",
          "RowExclusiveLock", "changes rows: index builds and table locks must wait",
          "ShareUpdateExclusiveLock", "maintains: other maintenance must wait",
          "ShareLock", "builds an index: whoever changes rows must wait",
          "ShareRowExclusiveLock", "changes triggers or keys: whoever changes rows must wait",
          "ExclusiveLock", "for itself: others may only read",
          "AccessExclusiveLock", "for itself alone: even who reads must wait");

  private LockWords() {}

  /** What a lock of a table keeps others from; empty for what is no table: there it is plain. */
  public static String of(Sample.Lock lock) {
    return lock.kind().equals("relation") ? MODES.getOrDefault(lock.mode(), "") : "";
  }

  /**
   * What is locked. Who waits for another's transaction waits for a row that this has changed; of
   * which table, is told where the waiter has asked for the row first. A key is never claimed.
   *
   * @param pid whose lock or request it is
   */
  public static String object(Sample.Lock lock, int pid, Sample sample) {
    return switch (lock.kind()) {
      case "transactionid" -> {
        if (lock.granted()) {
          yield "its transaction, and so the rows that it has changed";
        }
        Optional<String> table =
            sample.locks().stream()
                .filter(other -> other.pid() == pid && other.kind().equals("tuple"))
                .map(Sample.Lock::object)
                .map(object -> object.replaceFirst("^row \\S+ of ", ""))
                .findFirst();
        yield table.map(t -> "a row of " + t).orElse("a row that another has changed");
      }
      case "tuple" -> lock.object() + " (next in its queue)";
      case "virtualxid" -> "the end of a transaction";
      case "extend" -> lock.object() + ", to make it longer";
      default -> lock.object();
    };
  }
}
