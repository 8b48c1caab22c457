package jamjar.server.limits;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.Map;

/**
 * A limit as it is set for an instance, a group or a kind. What is null is inherited from the next
 * wider one of the same counter and condition.
 *
 * @param counter key of the counter; empty for the silence of the instance
 * @param labels which of its series; empty for the whole instance where there is such a series
 * @param condition above, below, outside, overdue (did not happen), reaches (will reach), silent or
 *     unreachable
 * @param warning in the unit of the counter; for outside in spreads, for overdue in minutes after
 *     it was due, for reaches in days until then, for silent and unreachable in intervals
 * @param criticalHold null for the same as hold
 * @param criticalClear where critical falls back to warning
 * @param against for overdue the minute of the local day at which it is due, for reaches the value
 *     that will be reached; null when inherited, and for all others
 * @param on null when inherited
 * @param offReason why it is off
 * @param offUntil when it is on again by itself, epoch ms; null for never
 * @param shipped whether it came with Jam Jar and was not changed since
 */
public record LimitView(
    int id,
    String counter,
    Map<String, String> labels,
    Reach scope,
    String condition,
    @Schema(types = {"number", "null"}) Double warning,
    @Schema(types = {"number", "null"}) Double critical,
    @Schema(types = {"object", "null"}) Hold hold,
    @Schema(types = {"object", "null"}) Hold criticalHold,
    Clear clear,
    @Schema(types = {"number", "null"}) Double criticalClear,
    @Schema(types = {"number", "null"}) Double against,
    @Schema(types = {"boolean", "null"}) Boolean on,
    String offReason,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long offUntil,
    boolean shipped) {

  /** A limit as a person sets it. */
  @Schema(name = "LimitBody")
  public record Body(
      @NotNull String counter,
      @NotNull Map<String, String> labels,
      @NotNull @Valid Reach scope,
      @NotBlank
          @Pattern(
              regexp = "above|below|outside|overdue|reaches|silent|unreachable",
              message = "is above, below, outside, overdue, reaches, silent or unreachable")
          String condition,
      @Schema(types = {"number", "null"}) Double warning,
      @Schema(types = {"number", "null"}) Double critical,
      @Valid Hold hold,
      @Valid Hold criticalHold,
      @NotNull @Valid Clear clear,
      @Schema(types = {"number", "null"}) Double criticalClear,
      @Schema(types = {"number", "null"}) Double against,
      @Schema(types = {"boolean", "null"}) Boolean on,
      @NotNull @Size(max = 500) String offReason,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long offUntil) {}

  /** One of several that are changed at once. */
  @Schema(name = "LimitChange")
  public record Change(int id, @NotNull @Valid Body limit) {}

  /**
   * What it is for.
   *
   * @param of the kind, the name of the group, or the number of the instance
   */
  @Schema(name = "LimitScope")
  public record Reach(
      @NotBlank @Pattern(regexp = "kind|group|instance", message = "is kind, group or instance")
          String level,
      @NotBlank String of) {}

  /** m of the last n judgings that had a value. */
  @Schema(name = "Hold")
  public record Hold(@Min(1) @Max(60) int m, @Min(1) @Max(60) int n) {}

  /**
   * When it is calm again.
   *
   * @param number null for the lowest number less what matters
   * @param seconds null for a minute
   */
  @Schema(name = "Clear")
  public record Clear(
      @Schema(types = {"number", "null"}) Double number,
      @Schema(types = {"integer", "null"}) @Min(0) @Max(86_400) Integer seconds) {}
}
