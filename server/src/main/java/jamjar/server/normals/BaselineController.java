package jamjar.server.normals;

import static jamjar.server.numbers.Numbers.known;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.server.problems.Problem;
import jamjar.server.security.Scopes;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What is normal, by quarter-hour of the week. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class BaselineController {
  private final Store store;
  private final Scopes scopes;
  private final NormalsService normals;

  BaselineController(Store store, Scopes scopes, NormalsService normals) {
    this.store = store;
    this.scopes = scopes;
    this.normals = normals;
  }

  /**
   * One quarter-hour of the week.
   *
   * @param slot 0 (Monday 00:00) … 671, in the instance's zone
   * @param basis what it was learned from, in words
   */
  record BaselineSlot(
      int slot,
      String basis,
      int steps,
      @Schema(types = {"number", "null"}) Double p05,
      @Schema(types = {"number", "null"}) Double p25,
      @Schema(types = {"number", "null"}) Double p50,
      @Schema(types = {"number", "null"}) Double p75,
      @Schema(types = {"number", "null"}) Double p95) {}

  @GetMapping("/baselines")
  List<BaselineSlot> baseline(@RequestParam int series) {
    SeriesRow row =
        store.series().byIds(new int[] {series}).stream()
            .filter(found -> scopes.holds(found.instance()))
            .findFirst()
            .orElseThrow(() -> Problem.unknown("There is no series " + series + "."));
    Optional<Baseline> week = normals.history(row.id()).map(BaselineHistory::now);
    List<BaselineSlot> slots = new ArrayList<>();
    for (int slot = 0; slot < Timeline.SLOTS; slot++) {
      Normal normal = week.isEmpty() ? Normal.NONE : week.get().at(slot);
      slots.add(
          new BaselineSlot(
              slot,
              normal.basis().words(),
              normal.steps(),
              known(normal.p05()),
              known(normal.p25()),
              known(normal.p50()),
              known(normal.p75()),
              known(normal.p95())));
    }
    return slots;
  }

  /** Learns an instance anew now, and answers when that is done. */
  @PostMapping("/instances/{id}/learn")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void learn(@PathVariable int id) throws InterruptedException {
    normals.learnNow(id);
  }
}
