package jamjar.server.accounts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.Pattern;
import jamjar.server.problems.Problem;
import java.time.ZoneId;

/**
 * What somebody likes otherwise from now on; what is left out stays, so that two choices made at
 * once do not undo each other. The fields are those of {@link Likes}.
 */
@Schema(name = "LikesChange")
record LikesChange(
    @Schema(requiredMode = Schema.RequiredMode.NOT_REQUIRED)
        @Pattern(regexp = "|light|dark", message = "is light or dark, or empty")
        String theme,
    @Schema(requiredMode = Schema.RequiredMode.NOT_REQUIRED) Boolean keys,
    @Schema(requiredMode = Schema.RequiredMode.NOT_REQUIRED)
        @Pattern(regexp = "[a-z]{1,20}", message = "is the word of a view")
        String firstView,
    @Schema(requiredMode = Schema.RequiredMode.NOT_REQUIRED) String zone) {

  /**
   * @throws Problem where no zone is called that
   */
  void check() {
    if (zone != null && !zone.isEmpty() && !ZoneId.getAvailableZoneIds().contains(zone)) {
      throw Problem.field("zone", "No zone is called that: Europe/Oslo is one.");
    }
  }
}
