package jamjar.server.statements;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * One statement over time.
 *
 * @param at begin of each step, epoch ms
 * @param callsPerSecond per step; null where nothing was counted
 * @param mean seconds of a call, per step; null where there was none
 * @param callers who called it in the window, the most time first
 */
@Schema(name = "Statement")
public record StatementView(
    String fingerprint,
    String text,
    long firstSeen,
    long stepMs,
    List<Long> at,
    List<Double> callsPerSecond,
    List<Double> mean,
    List<Caller> callers) {

  /**
   * @param top false where other statements ran it
   * @param mean seconds of a call
   */
  @Schema(name = "StatementCaller")
  public record Caller(
      String user,
      String database,
      boolean top,
      long calls,
      double timePerSecond,
      @Schema(types = {"number", "null"}) Double mean) {}
}
