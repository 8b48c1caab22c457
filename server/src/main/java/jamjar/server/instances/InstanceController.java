package jamjar.server.instances;

import jakarta.validation.Valid;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The instances under watch. */
@RestController
@RequestMapping(path = "/api/instances", produces = "application/json")
class InstanceController {
  private final InstanceService instances;

  InstanceController(InstanceService instances) {
    this.instances = instances;
  }

  @GetMapping
  List<InstanceView> all() {
    return instances.all();
  }

  @GetMapping("/{id}")
  InstanceView one(@PathVariable int id) {
    return instances.one(id);
  }

  /**
   * @param insist whether to save it although a check failed
   */
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  InstanceView add(
      @Valid @RequestBody InstanceBody body, @RequestParam(defaultValue = "false") boolean insist) {
    return instances.add(body, insist);
  }

  @PutMapping("/{id}")
  InstanceView change(
      @PathVariable int id,
      @Valid @RequestBody InstanceBody body,
      @RequestParam(defaultValue = "false") boolean insist) {
    return instances.change(id, body, insist);
  }

  /** Leaves it unread for now. */
  @PostMapping("/{id}/pause")
  InstanceView pause(@PathVariable int id) {
    return instances.pause(id, true);
  }

  /** Reads it again. */
  @PostMapping("/{id}/resume")
  InstanceView resume(@PathVariable int id) {
    return instances.pause(id, false);
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable int id) {
    instances.remove(id);
  }
}
