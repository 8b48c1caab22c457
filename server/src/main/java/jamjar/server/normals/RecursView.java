package jamjar.server.normals;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * On which of the days before something was above zero about the same hour, else at which it is.
 *
 * @param looked on so many days it was read at that hour
 * @param days those on which it was, the latest first
 * @param usual the hour at which it was on most of these days; null where it comes back at the hour
 *     that was asked for, or at none
 */
@Schema(name = "Recurs")
public record RecursView(
    int looked, List<Day> days, @Schema(types = {"object", "null"}) Usual usual) {

  /**
   * @param at the middle of the hour that was looked at, epoch ms
   * @param greatest its greatest reading in that hour, in the unit as shown
   */
  @Schema(name = "RecursDay")
  public record Day(long at, double greatest) {}

  /**
   * @param from when that hour began last, epoch ms
   * @param days on so many days it was above zero then
   * @param looked of so many on which it was read then
   */
  @Schema(name = "RecursUsual")
  public record Usual(long from, int days, int looked) {}
}
