package jamjar.server.points;

import io.swagger.v3.oas.annotations.media.ArraySchema;
import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * The points of one series. The lists have the same length; null stands for nothing.
 *
 * @param series number of the series
 * @param at epoch ms
 * @param spans where there is nothing, and why
 * @param normalLow p05 of what is normal at each point; null for not known; empty unless asked for,
 *     as are the two below
 * @param normal its middle
 * @param normalHigh its p95
 * @param normalSince epoch ms; what is told as normal at the first point was in force from then on
 *     only: nothing older is kept; null where it was in force already
 */
public record SeriesPoints(
    int series,
    List<Long> at,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> mean,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> min,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> max,
    List<NothingBecause> spans,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> normalLow,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> normal,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> normalHigh,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long normalSince) {

  /**
   * A span with nothing in it.
   *
   * @param from epoch ms
   * @param to epoch ms; the end of the window when it lasts
   * @param why the reason in words
   */
  public record NothingBecause(long from, long to, String why) {}
}
