package jamjar.server.forecast;

import io.swagger.v3.oas.annotations.media.Schema;

/**
 * Whether the daily peaks of a series will reach a capacity.
 *
 * @param verdict too_few_days, not_in_sight, reaches, reached, or no_capacity where none is known
 *     and none was asked with
 * @param capacity what they may reach, in the unit as shown; null where none is known
 * @param capacityFrom where that number is from, in words
 * @param days from so many it is said
 * @param from the first of them, epoch ms
 * @param perDay by how much the peaks grow in a day; null where nothing is said of it
 * @param now where the line through them stands; null where nothing is said of it
 * @param middle when the line meets the capacity, epoch ms; null where it does not
 * @param soonest the begin of the range, epoch ms; null where it is not reached
 * @param latest its end, epoch ms; null where it may never be reached
 */
@Schema(name = "Forecast")
public record ForecastView(
    String verdict,
    @Schema(types = {"number", "null"}) Double capacity,
    String capacityFrom,
    int days,
    long from,
    @Schema(types = {"number", "null"}) Double perDay,
    @Schema(types = {"number", "null"}) Double now,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long middle,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long soonest,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long latest) {}
