package jamjar.server.heap;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * Whether the floor of a heap climbs without end.
 *
 * @param verdict climbs, none, too_few_days, or not_known where no floor is read of it
 * @param days from so many it is said
 * @param perDay by how much the floor climbs in a day, % of the maximum; null where nothing is said
 * @param hoursLeast until the maximum is reached, by the steeper of two likely slopes
 * @param hoursMost by the flatter; null where that may be never
 * @param at begin of each day that was looked at, epoch ms
 * @param floors the lowest floor of each, % of the maximum; null for a day without one
 * @param since when the process began, epoch ms, as far as it is known; 0 where it is not
 */
@Schema(name = "Leak")
public record LeakView(
    String verdict,
    int days,
    @Schema(types = {"number", "null"}) Double perDay,
    @Schema(types = {"number", "null"}) Double hoursLeast,
    @Schema(types = {"number", "null"}) Double hoursMost,
    List<Long> at,
    List<Double> floors,
    long since) {}
