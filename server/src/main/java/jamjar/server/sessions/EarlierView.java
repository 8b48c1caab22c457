package jamjar.server.sessions;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * On which earlier days the same holder kept others waiting about the same hour.
 *
 * @param looked on so many days samples were taken at that hour
 * @param days those on which it did, the latest first
 */
@Schema(name = "EarlierHolders")
public record EarlierView(int looked, List<Day> days) {
  /**
   * @param at when most waited for it, epoch ms
   * @param waiting how many waited for it directly then
   */
  @Schema(name = "EarlierDay")
  public record Day(long at, int waiting) {}
}
