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
import java.time.Clock;
import java.time.ZoneOffset;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
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
  private final Clock clock;

  KeepingController(Store store, KeepingService service, Changes changes, Clock clock) {
    this.store = store;
    this.service = service;
    this.changes = changes;
    this.clock = clock;
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

  /**
   * What goes for good if a class is kept so.
   *
   * @param month its first day, epoch ms
   * @param minutes whether it goes in steps of a minute, else as it was read
   */
  @Schema(name = "GoingMonth")
  record GoingMonth(long month, boolean minutes, long bytes) {}

  /** What would go by a change, which is not made. */
  @PostMapping("/classes/{keep}/going")
  List<GoingMonth> going(@PathVariable int keep, @Valid @RequestBody KeepingBody body) {
    return store.readings().retention().going(clock.instant(), after(known(keep), body)).stream()
        .map(
            gone ->
                new GoingMonth(
                    gone.month().atDay(1).atStartOfDay(ZoneOffset.UTC).toInstant().toEpochMilli(),
                    gone.minutes(),
                    gone.bytes()))
        .toList();
  }

  private static Keeping after(Keeping before, KeepingBody body) {
    if (body.minutesDays() != null && body.minutesDays() < body.readingsDays()) {
      throw Problem.field(
          "minutesDays", "Steps of a minute are kept at least as long as what they are made of.");
    }
    return new Keeping(before.keep(), before.name(), body.readingsDays(), body.minutesDays());
  }

  /** What goes by it goes ten minutes later. */
  @PutMapping("/classes/{keep}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void change(@PathVariable int keep, @Valid @RequestBody KeepingBody body) {
    Keeping before = known(keep);
    Keeping after = after(before, body);
    store.inOne(
        () -> {
          store.keeping().change(after, clock.instant());
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
