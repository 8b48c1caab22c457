package jamjar.server.instances;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.limits.JarView;
import java.util.List;

/**
 * How an instance is doing as a source of readings.
 *
 * @param instance its number
 * @param state starting, reading, silent or paused
 * @param since since when, epoch ms
 * @param lastAt when it was last read, epoch ms; null when never
 * @param reason for a silent one the kind of failure in a word
 * @param words for a silent one what was tried and what answered
 * @param advice for a silent one what to do
 * @param interval seconds between two readings
 * @param facts the numbers that stand on the shelf; none while there is no reading
 * @param jar how full its jar is; null without limits or readings
 * @param restart the settings that were changed there and wait for a restart; empty for none
 */
public record InstanceState(
    int instance,
    String state,
    long since,
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long lastAt,
    String reason,
    String words,
    String advice,
    int interval,
    List<Fact> facts,
    @Schema(types = {"object", "null"}) JarView jar,
    String restart) {

  /** One number with its unit. */
  public record Fact(String title, double value, String unit) {}
}
