package jamjar.server.telling;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;

/**
 * Who is told of what, as a person sets it.
 *
 * @param version counts its changes; what is saved must be of the version that it was made of
 * @param zone IANA name of the zone that its hours are in
 * @param reportMinute of the day at which the report of the night goes out
 * @param rules in their order: the first that fits holds, and the last is for all else
 * @param heartbeats by which others notice when Jam Jar itself is gone
 */
@Schema(name = "TellingPlan")
public record PlanBody(
    int version,
    @NotNull @Size(max = 60) String zone,
    @Min(0) @Max(1439) int reportMinute,
    @NotNull @Size(max = 500) List<@NotNull @Valid PersonBody> people,
    @NotNull @Size(max = 100) List<@NotNull @Valid DutyBody> duties,
    @NotNull @Size(max = 200) List<@NotNull @Valid RuleBody> rules,
    @NotNull @Size(max = 20) List<@NotNull @Valid HeartbeatBody> heartbeats) {
  static final String NAME = "[^\\p{Cntrl}/]{1,80}";
  static final String NAME_RULE = "is a name of up to 80 signs without a stroke";

  /** By which channel, and to which address there. */
  @Schema(name = "TellingWay")
  public record WayBody(
      @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String channel,
      @NotNull @Size(max = 200) String address) {}

  /**
   * Hours of the week.
   *
   * @param days 1 for Monday to 7 for Sunday; none for every day
   * @param from minute of the day
   * @param to minute of the day; before from, of the next one; the same for the whole day
   * @param holidays as_any, left_out or alone
   */
  @Schema(name = "TellingHours")
  public record HoursBody(
      @NotNull @Size(max = 7) List<@NotNull @Min(1) @Max(7) Integer> days,
      @Min(0) @Max(1439) int from,
      @Min(0) @Max(1440) int to,
      @NotNull @Pattern(regexp = "as_any|left_out|alone", message = "is as_any, left_out or alone")
          String holidays) {
    static final HoursBody ALWAYS = new HoursBody(List.of(), 0, 0, "as_any");
  }

  /**
   * Somebody who can be told. Who has an account of that name is told of what is in its scope.
   *
   * @param ways in their order: the next where the one before does not get through
   * @param hours in which they are told at once where a rule names them
   */
  @Schema(name = "TellingPerson")
  public record PersonBody(
      @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String name,
      @NotNull @Size(max = 5) List<@NotNull @Valid WayBody> ways,
      @NotNull @Valid HoursBody hours) {}

  /**
   * Somebody else has a duty for a while.
   *
   * @param from epoch ms
   * @param to epoch ms
   */
  @Schema(name = "TellingSwap")
  public record SwapBody(
      long from, long to, @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String person) {}

  /**
   * A role that people have in turn.
   *
   * @param from the day on which the first begins, as 2026-03-02
   * @param days how long each has it
   * @param minute of the day at which it changes hands
   */
  @Schema(name = "TellingDuty")
  public record DutyBody(
      @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String name,
      @NotNull @Size(max = 100) List<@NotNull @Size(max = 80) String> people,
      @NotNull @Pattern(regexp = "\\d{4}-\\d{2}-\\d{2}", message = "is a day as 2026-03-02")
          String from,
      @Min(1) @Max(366) int days,
      @Min(0) @Max(1439) int minute,
      @NotNull @Size(max = 200) List<@NotNull @Valid SwapBody> swaps) {}

  /**
   * Who is told, and when.
   *
   * @param to person:NAME, duty:NAME or channel:NAME
   * @param afterMinutes how long after it rose, where it is open still and nobody knows of it
   * @param urgency wake, morning or nobody
   */
  @Schema(name = "TellingStep")
  public record StepBody(
      @NotNull
          @Pattern(
              regexp = "(person|duty|channel):" + NAME,
              message = "is a person, a duty or a channel with its name")
          String to,
      @Min(0) @Max(10080) int afterMinutes,
      @NotNull @Pattern(regexp = "wake|morning|nobody", message = "is wake, morning or nobody")
          String urgency) {}

  /**
   * Who is told of which alerts. Of each list any fits, of an empty one all.
   *
   * @param conditions as limits name them
   * @param severities warning, critical
   */
  @Schema(name = "TellingRule")
  public record RuleBody(
      @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String name,
      @NotNull @Size(max = 100) List<@NotNull @Size(max = 200) String> sites,
      @NotNull @Size(max = 100) List<@NotNull @Size(max = 200) String> groups,
      @NotNull @Size(max = 500) List<@NotNull @Size(max = 200) String> instances,
      @NotNull @Size(max = 100) List<@NotNull @Size(max = 200) String> tags,
      @NotNull @Size(max = 500) List<@NotNull @Size(max = 200) String> counters,
      @NotNull @Size(max = 20)
          List<
                  @NotNull
                  @Pattern(
                      regexp = "above|below|outside|overdue|reaches|silent|unreachable",
                      message = "is a condition of limits")
                  String>
              conditions,
      @NotNull @Size(max = 2)
          List<
                  @NotNull @Pattern(regexp = "warning|critical", message = "is warning or critical")
                  String>
              severities,
      @NotNull @Valid HoursBody hours,
      @NotNull @Size(max = 10) List<@NotNull @Valid StepBody> steps) {

    boolean isForAll() {
      return sites.isEmpty()
          && groups.isEmpty()
          && instances.isEmpty()
          && tags.isEmpty()
          && counters.isEmpty()
          && conditions.isEmpty()
          && severities.isEmpty()
          && hours.equals(HoursBody.ALWAYS);
    }
  }

  /** Jam Jar tells at an interval that it is there, and how many it reads. */
  @Schema(name = "TellingHeartbeat")
  public record HeartbeatBody(
      @NotNull @Pattern(regexp = NAME, message = NAME_RULE) String channel,
      @NotNull @Size(max = 200) String address,
      @Min(1) @Max(1440) int everyMinutes) {}

  /** What there is before anybody sets anything: nobody has the duty, so nobody is told. */
  static PlanBody atFirst(String zone) {
    String onCall = "duty:on call";
    return new PlanBody(
        0,
        zone,
        7 * 60,
        List.of(),
        List.of(new DutyBody("on call", List.of(), "2026-01-05", 7, 8 * 60, List.of())),
        List.of(
            rule(
                "What is not normal, and forecasts, wake nobody",
                List.of("outside", "reaches"),
                List.of(),
                new StepBody(onCall, 0, "morning")),
            rule(
                "Critical wakes who is on call",
                List.of(),
                List.of("critical"),
                new StepBody(onCall, 0, "wake")),
            rule(
                "All else waits for the morning",
                List.of(),
                List.of(),
                new StepBody(onCall, 0, "morning"))),
        List.of());
  }

  private static RuleBody rule(
      String name, List<String> conditions, List<String> severities, StepBody step) {
    return new RuleBody(
        name,
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        conditions,
        severities,
        HoursBody.ALWAYS,
        List.of(step));
  }
}
