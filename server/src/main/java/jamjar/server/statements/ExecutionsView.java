package jamjar.server.statements;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * Single executions that ended in a window.
 *
 * @param source log, or samples where no log was read
 * @param why why they are not from the log, and what to change; empty where they are
 * @param leastMs what did not run for so long is not told
 * @param everyMs how far samples are apart; 0 for the log
 * @param cells how many there are when and how long; those with none left out
 * @param count of the picked ones
 * @param executions of the picked ones the longest, at most 100
 * @param beyond how many more there were than were looked at one by one
 */
@Schema(name = "Executions")
public record ExecutionsView(
    String source,
    String why,
    long leastMs,
    long everyMs,
    long stepMs,
    List<Cell> cells,
    int count,
    List<One> executions,
    long beyond) {

  /**
   * @param at begin of the step, epoch ms
   * @param row half decade of the length: from 10^(row/2) ms on
   */
  @Schema(name = "ExecutionCell")
  public record Cell(long at, int row, int count) {}

  /**
   * @param started epoch ms, likewise its end
   * @param leastMs so long it ran at least
   * @param mostMs so long at most; absent where it was still running
   * @param ending how it ended, in words
   */
  @Schema(name = "Execution")
  public record One(
      long started,
      long ended,
      long leastMs,
      @Schema(types = {"integer", "null"}) Long mostMs,
      String ending,
      int pid,
      String user,
      String program,
      String database,
      String statement,
      String text,
      String waitedFor,
      int blocker) {}
}
