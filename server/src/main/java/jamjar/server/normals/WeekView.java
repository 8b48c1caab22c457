package jamjar.server.normals;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * What is normal for a series through the week, with a week of what was.
 *
 * @param zone in which the week lies
 * @param learnedAt epoch ms; null where nothing is learned yet
 * @param from begin of the time that it was learned from, epoch ms
 * @param to its end
 * @param at begin of each quarter-hour of the week that is shown, epoch ms; 672 of them
 * @param low p05 of what is normal then; null while nothing is learned
 * @param middle its p50
 * @param high its p95
 * @param mean what was then; null where nothing was
 * @param bases by what how many of the quarter-hours are served
 * @param weeks what it was learned from
 * @param minutes of the week that is shown, with a value and a normal
 * @param outside how many of them lay outside of the band
 * @param longestFrom begin of the longest stay outside, epoch ms; 0 for none
 * @param longestTo its end
 * @param frozen what is kept by a name
 */
@Schema(name = "BaselineWeek")
public record WeekView(
    String zone,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long learnedAt,
    long from,
    long to,
    List<Long> at,
    List<Double> low,
    List<Double> middle,
    List<Double> high,
    List<Double> mean,
    List<Served> bases,
    List<Week> weeks,
    int minutes,
    int outside,
    long longestFrom,
    long longestTo,
    List<Frozen> frozen) {

  /** So many quarter-hours are learned from that. */
  @Schema(name = "BaselineServed")
  public record Served(String basis, int slots) {}

  /**
   * A week that it was learned from.
   *
   * @param monday its first day, epoch ms
   * @param minutes how many of it lie in that time
   * @param counted how many taught something
   */
  @Schema(name = "LearnedFrom")
  public record Week(long monday, int minutes, int counted, List<LeftOut> leftOut) {}

  /**
   * Quarter-hours in a row that taught nothing.
   *
   * @param first slot, 0 (Monday 00:00) … 671
   * @param last slot of the last
   */
  @Schema(name = "LeftOutOfNormal")
  public record LeftOut(String why, int first, int last, int minutes) {}

  /**
   * One that is kept by a name.
   *
   * @param drift how far the baseline of now has moved from it, in its spreads; null where it is
   *     not known
   */
  @Schema(name = "FrozenBaseline")
  public record Frozen(
      int id,
      String name,
      long from,
      long to,
      long madeAt,
      @Schema(types = {"number", "null"}) Double drift) {}

  /** What is to be kept by a name, learned from a time, epoch ms. */
  @Schema(name = "FrozenBody")
  public record FrozenBody(@NotBlank @Size(max = 80) String name, long from, long to) {}
}
