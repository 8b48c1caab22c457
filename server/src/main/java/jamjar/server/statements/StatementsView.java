package jamjar.server.statements;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * What the statements of an engine did in a window.
 *
 * @param why why nothing was counted; empty where something was
 * @param coveredMs so much of the window was counted
 * @param versus the same of the window that is compared with; all 0 where there is none
 * @param evictions how often the engine dropped rare statements: what is told is at least that
 * @param callsPerSecond of all statements that clients sent; likewise the time
 * @param timePerSecond seconds of statement time per second
 * @param rows the first ones in the order that was asked for
 * @param others how many more there are
 * @param othersShare of all time
 * @param unnamedShare share of all time of statements whose text is not known
 * @param active how what was sampled and what was booked fit together; absent where there are no
 *     samples
 */
@Schema(name = "Statements")
public record StatementsView(
    String why,
    long coveredMs,
    Versus versus,
    long evictions,
    double callsPerSecond,
    double timePerSecond,
    List<Row> rows,
    int others,
    double othersShare,
    double unnamedShare,
    List<Active> active) {

  /** Another window. */
  @Schema(name = "StatementsVersus")
  public record Versus(long from, long to, long coveredMs) {}

  /**
   * One statement, or all of a user or a database.
   *
   * @param fingerprint in hexadecimal; empty for users and databases
   * @param name the text without values; the user or database
   * @param firstSeen epoch ms; 0 for not known
   * @param top false for what other statements ran
   * @param share of the time of all that clients sent
   * @param mean seconds of a call; absent without calls, likewise what is per call
   * @param calls exact number
   */
  @Schema(name = "StatementsRow")
  public record Row(
      String fingerprint,
      String name,
      long firstSeen,
      boolean top,
      List<String> users,
      List<String> databases,
      long calls,
      double callsPerSecond,
      double timePerSecond,
      double share,
      @Schema(types = {"number", "null"}) Double mean,
      double rowsPerSecond,
      @Schema(types = {"number", "null"}) Double rowsPerCall,
      double readsPerSecond,
      @Schema(types = {"number", "null"}) Double blocksPerCall,
      double temporaryPerSecond,
      Changed change) {}

  /**
   * Against the other window, seconds of statement time per second.
   *
   * @param kind both, new, vanished, or none where nothing is compared
   * @param meanBefore seconds of a call then
   */
  @Schema(name = "StatementsChanged")
  public record Changed(
      String kind,
      double total,
      double moreOften,
      double slower,
      double callsPerSecondBefore,
      @Schema(types = {"number", "null"}) Double meanBefore) {}

  /** Mean numbers of sessions. */
  @Schema(name = "StatementsActive")
  public record Active(double sampled, double booked, double running, double notCovered) {}

  static StatementsView nothing(String why) {
    return new StatementsView(why, 0, new Versus(0, 0, 0), 0, 0, 0, List.of(), 0, 0, 0, List.of());
  }
}
