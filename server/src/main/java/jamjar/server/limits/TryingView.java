package jamjar.server.limits;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import java.util.List;
import java.util.Map;

/**
 * What a limit would have told in the past weeks, had it been in force, each week held against what
 * was learned from the weeks before it.
 *
 * @param from begin of what was tried, epoch ms: of the first reading where there are fewer weeks
 * @param to its end
 * @param series of how many series it was tried
 * @param leftOut how many more it would be for
 * @param perWeek alerts a week
 * @param criticals how many of them became critical
 * @param atNight how many rose from 22 to 6 o'clock
 * @param inAlert how long one was open, ms; of several series added up
 * @param without how many touch no marked incident
 * @param alerts the latest of them
 */
@Schema(name = "Tried")
public record TryingView(
    long from,
    long to,
    int series,
    int leftOut,
    double perWeek,
    int criticals,
    int atNight,
    long inAlert,
    int without,
    List<Alert> alerts,
    List<Incident> incidents) {

  /**
   * A limit that is to be tried; one without a number raises nothing, but other numbers do.
   *
   * @param series that is looked at, by its number: those of its instance come first; null for none
   * @param weeks how far back
   * @param until the end of what is tried, epoch ms; null for now. It stands still while somebody
   *     tries one number after the other
   */
  @Schema(name = "TryBody")
  public record Body(
      @NotNull @Valid LimitView.Body limit,
      @Schema(
              types = {"integer", "null"},
              format = "int32")
          Integer series,
      @Min(1) @Max(6) int weeks,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          @Min(0)
          Long until) {}

  /**
   * An alert that would have risen.
   *
   * @param since the first check that passed, epoch ms
   * @param until when it was calm again
   * @param severity the worst that it reached
   * @param incident the number of the marked incident that it touches; 0 for none
   * @param noise whether it touches what was marked as noise
   */
  @Schema(name = "TriedAlert")
  public record Alert(
      int instance,
      String instanceName,
      int series,
      Map<String, String> labels,
      long since,
      long rose,
      long until,
      String severity,
      @Schema(types = {"number", "null"}) Double worst,
      int incident,
      boolean noise) {}

  /**
   * A marked incident.
   *
   * @param after ms from its begin to the first alert; null where none rose
   */
  @Schema(name = "TriedIncident")
  public record Incident(
      int marker,
      String title,
      long from,
      long to,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long after) {}

  /**
   * How it would be with other numbers.
   *
   * @param points the noisiest first
   * @param suggestion the number for the wanted noise; null where there is none
   */
  @Schema(name = "TriedNumbers")
  public record Numbers(
      List<Point> points, @Schema(types = {"number", "null"}) Double suggestion) {}

  /** With another number: alerts a week, and how many of the incidents are caught. */
  @Schema(name = "TriedNumber")
  public record Point(double number, double perWeek, int caught) {}
}
