package jamjar.server.together;

import io.swagger.v3.oas.annotations.media.ArraySchema;
import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.limits.LimitInForce;
import java.util.List;
import java.util.Map;

/**
 * Instances in one table: a row each, and counters across them.
 *
 * @param columns the counters, in their order
 * @param choices all that could be shown
 * @param sums of all of them, and of each site where there are several
 */
@Schema(name = "Together")
public record TogetherView(
    List<Column> columns, List<Choice> choices, List<Row> rows, List<Sum> sums) {

  /**
   * A counter.
   *
   * @param sums whether a sum of it over instances says something
   */
  @Schema(name = "TogetherColumn")
  public record Column(
      String counter, String title, String unit, String meaning, String worse, boolean sums) {}

  /** A counter that could be shown. */
  @Schema(name = "TogetherChoice")
  public record Choice(String counter, String title, String group) {}

  /**
   * An instance.
   *
   * @param cells one for each column
   */
  @Schema(name = "TogetherRow")
  public record Row(
      int instance, String name, String group, String site, String state, List<Cell> cells) {}

  /**
   * What a counter is on an instance; of several labels that stand for none what has left its
   * normal the farthest, else the worst by its value.
   *
   * @param series 0 where it is not collected there
   * @param labels of which it is; empty where it is of the whole
   * @param about what they stand for where they do not say it themselves; else empty
   * @param why why there is no value
   * @param distance in spreads, of what is outside its normal for long enough
   */
  @Schema(name = "TogetherCell")
  public record Cell(
      int series,
      Map<String, String> labels,
      String about,
      @Schema(types = {"number", "null"}) Double value,
      String why,
      @Schema(types = {"number", "null"}) Double normalLow,
      @Schema(types = {"number", "null"}) Double normalHigh,
      @Schema(types = {"number", "null"}) Double distance,
      List<LimitInForce> limits) {}

  /**
   * The counters across instances.
   *
   * @param site empty for all
   * @param instances how many there are
   * @param figures one for each column
   */
  @Schema(name = "TogetherSum")
  public record Sum(String site, int instances, List<Figure> figures) {}

  /** A counter across instances; null where nothing is known, or the sum says nothing. */
  @Schema(name = "TogetherFigure")
  public record Figure(
      int n,
      @Schema(types = {"number", "null"}) Double sum,
      @Schema(types = {"number", "null"}) Double mean,
      @Schema(types = {"number", "null"}) Double least,
      @Schema(types = {"number", "null"}) Double greatest,
      @Schema(types = {"number", "null"}) Double overMedian) {}

  /**
   * One counter of the instances through time.
   *
   * @param from begin of the first step, epoch ms
   * @param width of a step, ms
   */
  @Schema(name = "Strip")
  public record Strip(
      String counter, String title, String unit, long from, long width, List<Through> rows) {}

  /**
   * An instance through time.
   *
   * @param mean of each step; null for nothing
   * @param distance of it, in spreads; null where there is no value, or no normal
   */
  @Schema(name = "StripRow")
  public record Through(
      int instance,
      String name,
      @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> mean,
      @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> distance) {}
}
