package jamjar.server.work;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.limits.LimitInForce;
import java.util.List;

/**
 * How a value came about, so that a person can make it again: of a level what was kept × factor, of
 * a total what it grew by ÷ the seconds × factor, of a quotient the first part ÷ the sum of the
 * others × factor.
 *
 * @param instance name of the instance it is of
 * @param title of its counter, with its labels
 * @param value as shown; null for none
 * @param why the reason for having none; empty when there is a value
 * @param at when it was read, epoch ms, by the clock here; 0 where nothing was
 * @param before when the reading before was taken, epoch ms; null where there was none, or where
 *     raw values are not kept any more
 * @param elapsed ms that it covers
 * @param clock by which that was measured; empty where nothing was
 * @param latest whether it is the latest reading, of which the raw values are known
 * @param interval s between two readings
 * @param cost s that the whole reading took in which it was read; null where it is not known
 * @param together how many values that reading had
 * @param slot begin of the quarter-hour of the week by which its normal goes, epoch ms
 * @param normalLow p05 of it; null while nothing is learned
 * @param normal its middle
 * @param normalHigh its p95
 * @param normalFrom what normal was learned from, in words
 * @param normalSteps how many minutes that are
 * @param limits what is in force on it now
 */
@Schema(name = "Work")
public record WorkView(
    int series,
    String instance,
    String title,
    String unit,
    String shape,
    double factor,
    double least,
    @Schema(types = {"number", "null"}) Double value,
    String why,
    long at,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long before,
    long elapsed,
    String clock,
    boolean latest,
    int interval,
    @Schema(types = {"number", "null"}) Double cost,
    int together,
    List<PartView> parts,
    long slot,
    @Schema(types = {"number", "null"}) Double normalLow,
    @Schema(types = {"number", "null"}) Double normal,
    @Schema(types = {"number", "null"}) Double normalHigh,
    String normalFrom,
    int normalSteps,
    List<LimitInForce> limits) {

  /**
   * One series that was read itself.
   *
   * @param name title of its counter, with its labels
   * @param raw as it was told; null where it was not, or is not kept any more
   * @param rawBefore as it was told the time before
   * @param byEntries whether the increase was added up entry by entry
   * @param resolution step to which a level is rounded when it is kept; 0 where it is kept as told
   * @param kept the level, or what it grew by; null for none
   * @param how what {@code byHand} is and where it is to be run; empty where there is nothing
   * @param byHand a query, a command, or a bean and its attribute
   * @param sumOf what it is the sum of; empty where it was read itself
   */
  @Schema(name = "WorkPart")
  public record PartView(
      String name,
      @Schema(types = {"number", "null"}) Double raw,
      @Schema(types = {"number", "null"}) Double rawBefore,
      boolean byEntries,
      double resolution,
      @Schema(types = {"number", "null"}) Double kept,
      String why,
      String how,
      String byHand,
      List<PartView> sumOf) {}
}
