package jamjar.server.series;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.limits.LimitInForce;
import java.util.List;
import java.util.Map;

/**
 * A series with what its counter means.
 *
 * @param about what its labels stand for where they do not say it themselves: of a statement the
 *     beginning of its text; else empty
 * @param whole whether it stands for the whole instance: it has no labels
 * @param first its place among the counters shown first, from 0; −1 when it is not one of them
 * @param interval seconds between two readings
 * @param value the latest value as shown; null when there is none
 * @param why the reason for having none; empty when there is a value
 * @param normalLow p05 of what is normal now; null while nothing is learned
 * @param normal its middle
 * @param normalHigh its p95
 * @param normalFrom what normal was learned from, in words
 * @param distance how many spreads it is outside its normal, positive above; null while it is
 *     within, or not for long enough
 * @param limits what is in force on it, at most one per condition
 */
public record SeriesView(
    int id,
    String counter,
    String title,
    String group,
    String unit,
    String shape,
    Map<String, String> labels,
    String about,
    boolean whole,
    int first,
    int interval,
    String worse,
    boolean trouble,
    double goodEnd,
    double matters,
    String meaning,
    String suggests,
    List<String> questions,
    List<String> readWith,
    @Schema(types = {"number", "null"}) Double value,
    String why,
    @Schema(types = {"number", "null"}) Double normalLow,
    @Schema(types = {"number", "null"}) Double normal,
    @Schema(types = {"number", "null"}) Double normalHigh,
    String normalFrom,
    @Schema(types = {"number", "null"}) Double distance,
    List<LimitInForce> limits) {}
