package jamjar.server.points;

import io.swagger.v3.oas.annotations.media.Schema;

/**
 * What a series was at a moment.
 *
 * @param series its number
 * @param value as shown: of a level what was read last and still held, of a total what it grew by
 *     per second in the reading that covers the moment; the mean of the step that covers it where
 *     no reading is kept any more; null where there was nothing
 * @param normalLow p05 of what is normal at that time of the week; null for not known
 * @param normalHigh its p95
 */
public record MomentValue(
    int series,
    @Schema(types = {"number", "null"}) Double value,
    @Schema(types = {"number", "null"}) Double normalLow,
    @Schema(types = {"number", "null"}) Double normalHigh) {}
