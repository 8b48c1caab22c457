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
   * A span without readings.
   *
   * @param instance whose; empty where nobody was watched
   * @param why as told to a person
   */
  @Schema(name = "WithoutReadings")
  record Without(long from, long to, String instance, String why) {}
}
