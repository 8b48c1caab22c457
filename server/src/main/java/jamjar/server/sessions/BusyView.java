package jamjar.server.sessions;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;

/**
 * Sessions that run a statement, over a window, split.
 *
 * @param at begin of each step, epoch ms
 * @param stepMs how long a step is
 * @param all mean number of all, per step; null where there is no sample
 * @param parts the largest first, all others together last; they add up to all
 */
@Schema(name = "Busy")
public record BusyView(List<Long> at, long stepMs, List<Double> all, List<Part> parts) {
  /**
   * @param name what its sessions have in common; a statement's fingerprint; empty where they say
   *     nothing
   * @param text of a statement; else empty
   * @param share of all sessions of the window, from 0 to 1
   */
  @Schema(name = "BusyPart")
  public record Part(String name, String text, double share, List<Double> mean) {}
}
