package jamjar.server.facts;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.store.Store;
import jamjar.store.facts.FactRow;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What instances say of themselves. */
@RestController
@RequestMapping(path = "/api/instances", produces = "application/json")
class FactController {
  private final Store store;

  FactController(Store store) {
    this.store = store;
  }

  /**
   * A fact over a time.
   *
   * @param name such as {@code version}; of a setting, an argument or a property with that before a
   *     slash
   * @param from since when it holds, epoch ms
   * @param to until when it held, epoch ms; null while it holds
   */
  @Schema(name = "ToldFact")
  record Told(
      String name,
      String value,
      long from,
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long to) {}

  /** By name, of each name the newest first. */
  @GetMapping("/{id}/facts")
  List<Told> facts(@PathVariable int id) {
    return store.facts().all(id).stream().map(FactController::told).toList();
  }

  private static Told told(FactRow row) {
    return new Told(
        row.name(),
        row.value(),
        row.from().toEpochMilli(),
        row.to() == null ? null : row.to().toEpochMilli());
  }
}
