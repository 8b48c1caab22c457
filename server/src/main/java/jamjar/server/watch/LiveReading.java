package jamjar.server.watch;

import io.swagger.v3.oas.annotations.media.ArraySchema;
import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * A reading as told to who watches live.
 *
 * @param at epoch ms
 * @param series numbers of the series
 * @param values the values as shown, in the same order; null for nothing
 * @param why per value the reason for a null, else empty
 * @param distance per value how many spreads it is outside its normal, positive above; null while
 *     it is within, or not for long enough
 */
public record LiveReading(
    int instance,
    long at,
    List<Integer> series,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> values,
    List<String> why,
    @ArraySchema(schema = @Schema(types = {"number", "null"})) List<Double> distance) {}
