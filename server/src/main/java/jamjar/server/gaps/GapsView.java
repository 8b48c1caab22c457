package jamjar.server.gaps;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * What a strip of time is drawn on.
 *
 * @param first from when on anything is kept, epoch ms; null where nothing is
 */
@Schema(name = "Gaps")
record GapsView(
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long first,
    List<Without> without) {

  /**
   * A span without readings, or several that are near to each other.
   *
   * @param instance whose; empty where nobody was watched
   * @param why as told to a person, of the first
   * @param count how many they are
   */
  @Schema(name = "WithoutReadings")
  record Without(long from, long to, String instance, String why, int count) {
    Without and(Without next) {
      return new Without(from, Math.max(to, next.to), instance, why, count + next.count);
    }
  }
}
