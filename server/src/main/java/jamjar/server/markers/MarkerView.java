package jamjar.server.markers;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;

/**
 * A marker on the rail.
 *
 * @param from epoch ms
 * @param to epoch ms; null for a moment, or for an incident or maintenance that lasts
 */
public record MarkerView(
    int id,
    String kind,
    String title,
    String note,
    long from,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long to,
    Reach reach,
    String madeBy) {

  /** A marker as a person describes it. */
  @Schema(name = "MarkerBody")
  public record Body(
      @NotBlank
          @Pattern(
              regexp = "release|change|incident|maintenance|new normal|holiday|note",
              message = "is release, change, incident, maintenance, new normal, holiday or note")
          String kind,
      @NotBlank @Size(max = 120) String title,
      @NotNull @Size(max = 2000) String note,
      long from,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long to,
      @NotNull @Valid Reach reach) {}

  /**
   * What it is about.
   *
   * @param of the site, the group, or the number of the instance; empty for all
   */
  @Schema(name = "Reach")
  public record Reach(
      @NotBlank
          @Pattern(regexp = "all|site|group|instance", message = "is all, site, group or instance")
          String level,
      @NotNull String of) {}
}
