package jamjar.server.moved;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import java.util.Map;

/**
 * What was outside of its normal, of all instances or some.
 *
 * @param rows as ordered, the first of them
 * @param moved how many there were
 * @param looked how many series have a normal that they were held against
 */
@Schema(name = "MovedSeries")
public record MovedView(List<Row> rows, int moved, int looked) {

  /**
   * A series that was outside.
   *
   * @param about what its labels stand for where they do not say it themselves; else empty
   * @param distance in spreads, held for five minutes; positive above its normal
   * @param since when it left, epoch ms
   * @param before whether it was outside already when the window begins
   * @param at begin of the minutes that are told, epoch ms; of now the latest reading
   * @param value the mean of these minutes; null where it is not known
   * @param minutes how long it was outside in the window; of now since it left
   */
  @Schema(name = "MovedRow")
  public record Row(
      int instance,
      String instanceName,
      String group,
      String site,
      int series,
      String counter,
      String title,
      Map<String, String> labels,
      String about,
      String unit,
      double distance,
      long since,
      boolean before,
      long at,
      @Schema(types = {"number", "null"}) Double value,
      @Schema(types = {"number", "null"}) Double normalLow,
      @Schema(types = {"number", "null"}) Double normalHigh,
      int minutes) {}
}
