package jamjar.server.arrangements;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.arrangements.ArrangementRow;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** How the charts of Now are arranged, where they are not as they began. */
@RestController
@RequestMapping(path = "/api/arrangements", produces = "application/json")
class ArrangementController {
  private final Store store;
  private final Scopes scopes;

  ArrangementController(Store store, Scopes scopes) {
    this.store = store;
    this.scopes = scopes;
  }

  /**
   * Charts in their order.
   *
   * @param of the kind, or the number of the instance
   * @param charts each a counter with its labels, and its size as {@code @2x1} where it is larger
   */
  record Arrangement(
      @NotNull @Pattern(regexp = "kind|instance", message = "is kind or instance") String reach,
      @NotBlank @Size(max = 40) String of,
      @NotNull @Size(min = 1, max = 60, message = "has 1 to 60 charts")
          List<@NotBlank @Size(max = 500) String> charts) {}

  @GetMapping
  List<Arrangement> all() {
    Sight sight = scopes.sight();
    return store.arrangements().all().stream()
        .filter(row -> sight.sees(row.reach(), row.ofWhat()))
        .map(row -> new Arrangement(row.reach(), row.ofWhat(), List.of(row.charts())))
        .toList();
  }

  @PutMapping
  Arrangement put(@Valid @RequestBody Arrangement body) {
    scopes.requireOwn(body.reach(), body.of());
    store
        .arrangements()
        .put(new ArrangementRow(body.reach(), body.of(), body.charts().toArray(String[]::new)));
    return body;
  }

  /** The charts are as they began; that there was no other arrangement is no fault. */
  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@RequestParam String reach, @RequestParam String of) {
    scopes.requireOwn(reach, of);
    store.arrangements().remove(reach, of);
  }
}
