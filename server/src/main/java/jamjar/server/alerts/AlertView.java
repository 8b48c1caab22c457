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
 * @param bundle the first alert of those that belong together; its own number where it is alone
 * @param subject the name of what it is about: the instance, or the group or site whose heads Jam
 *     Jar counts
 * @param standing of a group or a site how it stood, by name; else empty
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
 * @param quiet why it is kept out of lid and head now: maintenance, or a site that is unreachable;
 *     empty where it is not
 * @param afterwards whether it was judged over what was kept, and told to nobody
 * @param known whether it steps back, as somebody knows of it
 * @param assigned the name of whom it was given to; empty for nobody
 */
public record AlertView(
    long id,
    long bundle,
    int limit,
    int instance,
    String instanceName,
    String subject,
    String standing,
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
    String quiet,
    boolean afterwards,
    boolean known,
    String assigned,
    @Schema(types = {"object", "null"}) Acknowledged acknowledged,
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

  /**
   * Somebody knows of it.
   *
   * @param at epoch ms
   * @param until until when it steps back, epoch ms
   * @param evenIfWorse whether it does so whatever it becomes: it was told so, or was critical then
   */
  @Schema(name = "AlertAcknowledged")
  public record Acknowledged(long at, String who, String note, long until, boolean evenIfWorse) {}

  /**
   * What a person says who knows of it.
   *
   * @param until until when it steps back, epoch ms; null for twelve hours
   * @param evenIfWorse whether it does so whatever it becomes; else only until it gets worse
   */
  @Schema(name = "AlertAcknowledgeBody")
  public record AcknowledgeBody(
      @NotNull @Size(max = 2000) String note,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long until,
      @Schema(types = {"boolean", "null"}) Boolean evenIfWorse) {}

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
