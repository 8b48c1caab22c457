package jamjar.server.compare;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import java.util.Map;

/**
 * A stretch of time of an instance against another one.
 *
 * @param against in words what it is compared with
 * @param before the other one
 * @param rows what changed by more than matters, the largest change first
 * @param same how many are as before
 * @param notComparable how many have no value in one of the two
 * @param settings that are other ones
 * @param statements that are new or gone, of engines that count them
 */
@Schema(name = "Compared")
public record CompareView(
    String against,
    Stretch before,
    Stretch after,
    List<Row> rows,
    int same,
    int notComparable,
    List<Setting> settings,
    List<Statement> statements) {

  /** Epoch ms. */
  @Schema(name = "ComparedStretch")
  public record Stretch(long from, long to) {}

  /**
   * A series that changed.
   *
   * @param beside the series that it is held against: itself, or that of another instance; null
   *     where no single one is, or that one has none
   * @param worse the direction in which it gets worse: up, down or both
   * @param shift by how much it is higher
   * @param usual the most that it shifted from one week to the next before; null where that is not
   *     known
   * @param verdict within, beyond or far_beyond what it changes anyway
   * @param size of the change, in what it changes anyway, or what matters
   * @param perWork by what part it is more for each unit of work; null where that says nothing
   */
  @Schema(name = "ComparedSeries")
  public record Row(
      int series,
      @Schema(types = {"integer", "null"}) Integer beside,
      String counter,
      String title,
      Map<String, String> labels,
      String about,
      String unit,
      String worse,
      double before,
      double after,
      double shift,
      @Schema(types = {"number", "null"}) Double usual,
      String verdict,
      double size,
      @Schema(types = {"number", "null"}) Double perWork) {}

  /** What an instance says of itself; empty where it did not say it. */
  @Schema(name = "ComparedSetting")
  public record Setting(String name, String before, String after) {}

  /**
   * A statement that ran in one of the two only.
   *
   * @param kind new or gone
   */
  @Schema(name = "ComparedStatement")
  public record Statement(String fingerprint, String text, String kind, double callsPerSecond) {}
}
