package jamjar.server.points;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * Which points are wanted.
 *
 * @param series numbers of series
 * @param from start of the window, epoch ms
 * @param to end of the window, epoch ms
 * @param maxPoints the most points wanted per series
 * @param normal whether what is normal at each point is wanted too; null for not
 */
public record PointsBody(
    @NotNull @Size(min = 1, max = 200) List<Integer> series,
    long from,
    long to,
    @Min(1) @Max(4000) int maxPoints,
    @Schema(types = {"boolean", "null"}) Boolean normal) {}
