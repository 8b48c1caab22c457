package jamjar.server.markers;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;

/**
 * A marker on the rail.
 *
 * @param from epoch ms
 * @param to epoch ms; null for a moment, or for an incident or maintenance that lasts
 * @param repeats day or week for maintenance that comes again; else empty
 * @param zone in which it comes again at the same time of the day
 * @param until when it comes for the last time at most, epoch ms; null for ever
 * @param first when it came first, epoch ms
 * @param outcome of a release or a change what it made better or worse; null while nothing is told
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
    String madeBy,
    String repeats,
    String zone,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long until,
    long first,
    Outcome outcome) {

  /**
   * What is better and worse of all instances that it is about together, the longest time after it
   * of which that is told.
   *
   * @param span how long after it: minutes (ten of them), hour, day or week
   * @param better how many counters, beyond what they change anyway
   * @param other how many that are neither better nor worse are higher or lower
   */
  @Schema(name = "Outcome")
  public record Outcome(String span, int better, int worse, int other) {}

  /**
   * What is better and worse of an instance some time after it than before it.
   *
   * @param span how long after it: minutes (ten of them), hour, day or week
   * @param better how many counters, beyond what they change anyway
   * @param other how many that are neither better nor worse are higher or lower
   * @param same how many are as before
   * @param most what changed most
   */
  @Schema(name = "OutcomeOf")
  public record OutcomeOf(
      String span,
      int instance,
      String instanceName,
      int better,
      int worse,
      int other,
      int same,
      List<Most> most) {}

  /**
   * A series that changed beyond what it changes anyway.
   *
   * @param about what its labels stand for where they do not say it themselves; else empty
   * @param way better, worse, more or less
   */
  @Schema(name = "OutcomeMost")
  public record Most(
      int series,
      String title,
      Map<String, String> labels,
      String about,
      String unit,
      double before,
      double after,
      String way) {}

  /**
   * A marker as a person describes it.
   *
   * @param repeats day or week for maintenance that comes again; null or empty for once
   * @param zone in which it comes again at the same time of the day; null for UTC
   * @param until when it comes for the last time at most, epoch ms; null for ever
   */
  @Schema(name = "MarkerBody")
  public record Body(
      @NotBlank
          @Pattern(
              regexp = "release|change|incident|noise|maintenance|new normal|holiday|note",
              message =
                  "is release, change, incident, noise, maintenance, new normal, holiday or note")
          String kind,
      @NotBlank @Size(max = 120) String title,
      @NotNull @Size(max = 2000) String note,
      long from,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long to,
      @NotNull @Valid Reach reach,
      @Schema(types = {"string", "null"})
          @Pattern(regexp = "|day|week", message = "is day, week or nothing")
          String repeats,
      @Schema(types = {"string", "null"}) String zone,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long until) {}

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
