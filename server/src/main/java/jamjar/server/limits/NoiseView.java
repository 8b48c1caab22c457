package jamjar.server.limits;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import java.util.Map;

/**
 * What limits told in the last four weeks.
 *
 * @param rang the noisiest first
 * @param counters those that limits are set on
 */
@Schema(name = "LimitNoise")
public record NoiseView(List<Rang> rang, List<Counter> counters) {

  /**
   * What a limit told of one series.
   *
   * @param rule number of the limit
   * @param series 0 for the whole instance
   * @param atNight how many of the alerts began from 22 to 6 o'clock where the instance is
   * @param inAlert how long one was open, ms
   * @param acknowledged how many somebody acknowledged
   * @param untilAcknowledged how long that took in all, ms
   */
  @Schema(name = "LimitRang")
  public record Rang(
      int rule,
      int instance,
      int series,
      String counter,
      Map<String, String> labels,
      String condition,
      int alerts,
      int atNight,
      long inAlert,
      int acknowledged,
      long untilAcknowledged) {}

  /** A counter by its name. */
  @Schema(name = "LimitCounter")
  public record Counter(String key, String title, String unit) {}
}
