package jamjar.server.alerts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;

/**
 * An alert with all that happened to it.
 *
 * @param limit number of the limit that it is of
 * @param series 0 for the whole instance
 * @param about what its labels stand for where they do not say it themselves; else empty
 * @param condition above, below, outside, silent or unreachable
 * @param state building, warning, critical, settling, not measured; calm, retired or switched off
 *     when it ended
 * @param severity warning or critical; kept while settling
 * @param since the first judging that passed, epoch ms
 * @param ended epoch ms; null while it is open
 * @param value as last judged
 * @param number of the limit that mattered last
 * @param flapping whether it rose more than three times within an hour
 * @param muted whether maintenance keeps it out of lid and head now
 */
public record AlertView(
    long id,
    int limit,
    int instance,
    String instanceName,
    int series,
    String counter,
    String title,
    Map<String, String> labels,
    String about,
    String unit,
    String condition,
    String state,
    String severity,
    long since,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long ended,
    @Schema(types = {"number", "null"}) Double value,
    @Schema(types = {"number", "null"}) Double normalLow,
    @Schema(types = {"number", "null"}) Double normalHigh,
    @Schema(types = {"number", "null"}) Double number,
    @Schema(types = {"number", "null"}) Double worst,
    boolean flapping,
    boolean muted,
    @Schema(types = {"object", "null"}) Note acknowledged,
    List<Passed> transitions,
    List<Note> notes) {

  /**
   * One transition.
   *
   * @param at when the reading was taken, epoch ms
   * @param arrived when it arrived, epoch ms
   * @param distance from normal, in spreads
   */
  @Schema(name = "AlertTransition")
  public record Passed(
      long at,
      long arrived,
      String from,
      String to,
      @Schema(types = {"number", "null"}) Double value,
      @Schema(types = {"number", "null"}) Double normalLow,
      @Schema(types = {"number", "null"}) Double normal,
      @Schema(types = {"number", "null"}) Double normalHigh,
      @Schema(types = {"number", "null"}) Double number,
      @Schema(types = {"number", "null"}) Double distance) {}

  /** What somebody wrote, and when (epoch ms). */
  @Schema(name = "AlertNote")
  public record Note(long at, String who, String note) {}

  /** What a person writes. */
  @Schema(name = "AlertNoteBody")
  public record NoteBody(@NotNull @Size(max = 2000) String note) {}

  /**
   * How often it rang.
   *
   * @param times how many alerts of this limit on this series began in the last four weeks
   * @param seconds how long they were open in all
   */
  @Schema(name = "AlertRang")
  public record Rang(int times, long seconds) {}
}
