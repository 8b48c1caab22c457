package jamjar.server.normals;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * On which of the days before something was above zero about the same hour.
 *
 * @param looked on so many days it was read at that hour
 * @param days those on which it was, the latest first
 */
@Schema(name = "Recurs")
public record RecursView(int looked, List<Day> days) {
  /**
   * @param at the middle of the hour that was looked at, epoch ms
   * @param greatest its greatest reading in that hour, in the unit as shown
   */
  @Schema(name = "RecursDay")
  public record Day(long at, double greatest) {}
}
