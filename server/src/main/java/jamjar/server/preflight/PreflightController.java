package jamjar.server.preflight;

import jakarta.validation.Valid;
import jamjar.server.instances.CheckView;
import jamjar.server.instances.InstanceBody;
import jamjar.server.instances.InstanceService;
import jamjar.store.instances.InstanceRow;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Tries a target before it is watched, or again later. */
@RestController
@RequestMapping(path = "/api/instances", produces = "application/json")
class PreflightController {
  private final InstanceService instances;
  private final Preflight preflight;
  private final LastChecks last;

  PreflightController(InstanceService instances, Preflight preflight, LastChecks last) {
    this.instances = instances;
    this.preflight = preflight;
    this.last = last;
  }

  /** Tries what a person has typed; nothing is saved. */
  @PostMapping("/preflight")
  List<CheckView> preflight(@Valid @RequestBody InstanceBody body) {
    instances.requireInScope(body);
    return preflight.of(body, null);
  }

  /** Tries an instance as it is stored, or as it would be after a change. */
  @PostMapping("/{id}/preflight")
  List<CheckView> preflightOf(
      @PathVariable int id, @Valid @RequestBody(required = false) InstanceBody body) {
    InstanceRow row = instances.row(id);
    if (body != null) {
      instances.requireInScope(body);
    }
    return body == null ? last.check(row) : preflight.of(body, row);
  }

  /** What was found when it was tried last, by a person or because it went silent. */
  @GetMapping("/{id}/preflight")
  LastChecks.Checked last(@PathVariable int id) {
    return last.of(instances.row(id).id());
  }
}
