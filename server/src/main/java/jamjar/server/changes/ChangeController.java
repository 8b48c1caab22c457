package jamjar.server.changes;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Times;
import jamjar.store.Store;
import jamjar.store.changes.ChangeRow;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What persons changed. */
@RestController
@RequestMapping(path = "/api/changes", produces = "application/json")
class ChangeController {
  private static final int MOST = 1000;
  private static final int LAST = 10;
  private final Store store;
  private final ChangesInScope inScope;

  ChangeController(Store store, ChangesInScope inScope) {
    this.store = store;
    this.inScope = inScope;
  }

  /**
   * A change.
   *
   * @param at epoch ms
   * @param what limit, instance, group, recipe, marker, keeping, what_to_do or alert
   * @param of which of them
   * @param before as JSON; null for what was not there
   * @param after as JSON; null for what is gone
   */
  @Schema(name = "PastChange")
  record Told(
      long at,
      String who,
      String what,
      String of,
      @Schema(types = {"string", "null"}) String before,
      @Schema(types = {"string", "null"}) String after) {}

  /**
   * Those of what is watched, and how, in a window: the latest first, of at most 1,000. Who came
   * in, and who may, is told to who administers alone.
   *
   * @param from epoch ms
   * @param to epoch ms
   */
  @GetMapping
  List<Told> between(@RequestParam long from, @RequestParam long to) {
    return told(
        store.changes().between(Times.of("from", from), Times.of("to", to), What.ofEstate(), MOST));
  }

  /**
   * The last ten of one thing, the latest first.
   *
   * @param what limit, marker, recipe or alert
   * @param of which of them
   */
  @GetMapping("/of")
  List<Told> of(
      @RequestParam @Pattern(regexp = "limit|marker|recipe|alert") String what,
      @RequestParam @Size(max = 200) String of) {
    return told(store.changes().of(what, of, LAST));
  }

  private List<Told> told(List<ChangeRow> rows) {
    return inScope.of(rows).stream()
        .map(
            row ->
                new Told(
                    row.at().toEpochMilli(),
                    row.who(),
                    row.what(),
                    row.ofWhat(),
                    row.before(),
                    row.after()))
        .toList();
  }
}
