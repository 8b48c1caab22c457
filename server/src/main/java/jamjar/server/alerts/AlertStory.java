package jamjar.server.alerts;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * What an alert is read with.
 *
 * @param together the others that it belongs together with, the first first
 * @param usedBy the instances that use the one that it is about, by name
 * @param uses those that it uses itself, by name
 * @param whatToDo for its limit, its instance and its group, the nearest first
 * @param meaning what its counter counts; empty where it is of no counter
 * @param trouble whether that is good at zero only, so that it is told on how many days it came
 *     back
 * @param suggests what a high value suggests, and what to do
 * @param readWith the counters to read it with
 * @param earlier its alerts before, of six weeks, the newest first
 */
public record AlertStory(
    List<AlertView> together,
    List<String> usedBy,
    List<String> uses,
    List<WhatToDo> whatToDo,
    String meaning,
    boolean trouble,
    String suggests,
    List<Other> readWith,
    List<Before> earlier) {

  /** Another counter. */
  @Schema(name = "ReadWith")
  public record Other(String key, String title) {}

  /**
   * The same limit on the same series, before.
   *
   * @param since epoch ms
   * @param ended epoch ms; null while it is open
   * @param note what was said to it last; empty for nothing
   * @param noted when that was, epoch ms; null for never
   */
  @Schema(name = "AlertBefore")
  public record Before(
      long id,
      long since,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long ended,
      String severity,
      String note,
      String who,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long noted) {}
}
