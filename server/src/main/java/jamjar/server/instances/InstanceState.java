package jamjar.server.instances;

import com.fasterxml.jackson.annotation.JsonValue;
import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import java.util.Locale;

/**
 * How an instance is doing as a source of readings.
 *
 * @param instance its number
 * @param since since when, epoch ms
 * @param lastAt when it was last read, epoch ms; null when never
 * @param reason for one that is silent, unreachable or failing the kind of failure in a word
 * @param words for one that is silent, unreachable or failing what was tried and what answered
 * @param advice for one that is silent or unreachable what to do
 * @param interval seconds between two readings
 * @param facts the numbers that stand on the shelf; none while there is no reading
 * @param jar how full its jar is; null without limits or readings
 * @param outside of its series that are outside their normal for five minutes the farthest; null
 *     for none
 * @param restart the settings that were changed there and wait for a restart; empty for none
 */
public record InstanceState(
    int instance,
    State state,
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
    @Schema(types = {"object", "null"}) Outside outside,
    String restart) {

  /** One number with its unit. */
  public record Fact(String title, double value, String unit) {}

  /**
   * A number that is outside its normal.
   *
   * @param distance in spreads; positive above
   */
  @Schema(name = "OutsideNormal")
  public record Outside(
      String title, double value, String unit, double distance, double low, double high) {}

  /** What an instance can be doing. */
  public enum State {
    STARTING,
    READING,
    /** It does not answer. */
    SILENT,
    /** It answers, but refuses to be read. */
    UNREACHABLE,
    /** It answers, but what it says can't be read, or is not kept. */
    FAILING,
    PAUSED;

    /** Whether it can't be read from here, for whatever reason that lies there or between. */
    public boolean cutOff() {
      return this == SILENT || this == UNREACHABLE;
    }

    @JsonValue
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /** One of which nothing is known yet. */
  public static InstanceState fresh(int instance, State state, long since, int interval) {
    return new InstanceState(
        instance, state, since, null, "", "", "", interval, List.of(), null, null, "");
  }

  /** The same, when it was read. */
  public InstanceState read(
      long at, List<Fact> shelf, JarView fullness, Outside farthest, String waitingForRestart) {
    return new InstanceState(
        instance,
        State.READING,
        state == State.READING ? since : at,
        at,
        "",
        "",
        "",
        interval,
        shelf,
        fullness,
        farthest,
        waitingForRestart);
  }

  /** The same, when it could not be read or kept. */
  public InstanceState fell(State as, long at, String why, String told, String mend) {
    return new InstanceState(
        instance,
        as,
        state == as ? since : at,
        lastAt,
        why,
        told,
        mend,
        interval,
        List.of(),
        null,
        null,
        restart);
  }
}
