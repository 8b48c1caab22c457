package jamjar.server.points;

import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * Which values of a moment are wanted.
 *
 * @param series numbers of series
 * @param at epoch ms
 */
public record MomentBody(@NotNull @Size(min = 1, max = 5000) List<Integer> series, long at) {}
