package jamjar.server.points;

import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * Whose figures are wanted, of which window.
 *
 * @param series numbers of series
 * @param from epoch ms
 * @param to epoch ms
 */
public record FiguresBody(
    @NotNull @Size(min = 1, max = 200) List<Integer> series, long from, long to) {}
