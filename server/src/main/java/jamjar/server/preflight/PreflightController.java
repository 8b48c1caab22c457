package jamjar.server.preflight;

import jakarta.validation.Valid;
import jamjar.server.instances.CheckView;
import jamjar.server.instances.InstanceBody;
import jamjar.server.instances.InstanceService;
import java.util.List;
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

  PreflightController(InstanceService instances) {
    this.instances = instances;
  }

  /** Tries what a person has typed; nothing is saved. */
  @PostMapping("/preflight")
  List<CheckView> preflight(@Valid @RequestBody InstanceBody body) {
    return instances.check(body);
  }

  /** Tries an instance as it is stored, or as it would be after a change. */
  @PostMapping("/{id}/preflight")
  List<CheckView> preflightOf(
      @PathVariable int id, @Valid @RequestBody(required = false) InstanceBody body) {
    return body == null ? instances.check(id) : instances.check(id, body);
  }
}
