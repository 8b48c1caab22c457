package jamjar.server.keeping;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import jamjar.store.keeping.Keeping;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** How large the store is and how long what was read is kept. */
@RestController
@RequestMapping(path = "/api/store", produces = "application/json")
class KeepingController {
  private static final int LONGEST_DAYS = 36_500;

  private final Store store;
  private final KeepingService service;
  private final Changes changes;

  KeepingController(Store store, KeepingService service, Changes changes) {
    this.store = store;
    this.service = service;
    this.changes = changes;
  }

  @GetMapping
  StoreView size() {
    return service.view();
  }

  /**
   * For how long a class is kept.
   *
   * @param readingsDays as it was read
   * @param minutesDays in steps of a minute; null for ever
   */
  @Schema(name = "KeepingBody")
  record KeepingBody(
      @Min(1) @Max(LONGEST_DAYS) int readingsDays,
      @Schema(types = {"integer", "null"}) @Min(1) @Max(LONGEST_DAYS) Integer minutesDays) {}

  @PutMapping("/classes/{keep}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void change(@PathVariable int keep, @Valid @RequestBody KeepingBody body) {
    Keeping before = known(keep);
    if (body.minutesDays() != null && body.minutesDays() < body.readingsDays()) {
      throw Problem.field(
          "minutesDays", "Steps of a minute are kept at least as long as what they are made of.");
    }
    Keeping after = new Keeping(keep, before.name(), body.readingsDays(), body.minutesDays());
    store.inOne(
        () -> {
          store.keeping().change(after);
          changes.add(What.KEEPING, before.name(), before, after);
        });
  }

  /**
   * Of which class an instance is.
   *
   * @param keep number of the class; it holds for what is read from now on
   */
  @Schema(name = "KeptAsBody")
  record KeptAsBody(int keep) {}

  @PutMapping("/instances/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keepAs(@PathVariable int id, @RequestBody KeptAsBody body) {
    String name =
        store
            .instances()
            .byId(id)
            .orElseThrow(() -> Problem.unknown("There is no instance " + id + "."))
            .name();
    Keeping after = known(body.keep());
    store.inOne(
        () -> {
          Keeping before = known(store.keeping().of(id));
          if (after.keep() == Keeping.USUAL) {
            store.keeping().keepAsUsual(id);
          } else {
            store.keeping().keepAs(id, after.keep());
          }
          changes.add(What.KEEPING, name, before.name(), after.name());
        });
  }

  private Keeping known(int keep) {
    return store
        .keeping()
        .byNumber(keep)
        .orElseThrow(() -> Problem.unknown("There is no class " + keep + "."));
  }
}
