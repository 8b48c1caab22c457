package jamjar.server.statements;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * What an engine's own log tells of a window.
 *
 * @param read whether it was read then
 * @param why why it was not, and what to change; empty where it was
 * @param lockWaits whether it tells of waits for locks, and who got a lock after how long
 * @param left above 0 where lines were left out, because there were more than are read or looked at
 *     at once
 * @param errors how many of which class, the most first
 * @param lines the last ones of errors and cancelled statements, the newest first
 */
@Schema(name = "Log")
public record LogView(
    boolean read,
    String why,
    boolean lockWaits,
    long left,
    List<ErrorClass> errors,
    List<Line> lines,
    List<Deadlock> deadlocks) {

  /**
   * @param state the engine's code, or its first two characters with the class
   * @param words what the class means
   */
  @Schema(name = "LogErrorClass")
  public record ErrorClass(String state, String words, int count) {}

  /**
   * @param statement fingerprint in hexadecimal; empty for none
   */
  @Schema(name = "LogLine")
  public record Line(
      long at,
      String state,
      String message,
      int pid,
      String user,
      String program,
      String database,
      String statement,
      String text) {}

  /** Who was in it; who was cancelled is named first. */
  @Schema(name = "LogDeadlock")
  public record Deadlock(
      long at, int cancelled, String user, String program, String database, List<Party> parties) {}

  /**
   * @param wants the lock that it waited for, in the engine's words
   * @param text of what it ran
   */
  @Schema(name = "LogParty")
  public record Party(int pid, String wants, int blocker, String statement, String text) {}
}
