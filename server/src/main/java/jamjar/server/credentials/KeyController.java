package jamjar.server.credentials;

import jamjar.server.instances.KeyChange;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The key of the stored passwords. */
@RestController
@RequestMapping(path = "/api/secrets/key", produces = "application/json")
class KeyController {
  private final KeyChange change;

  KeyController(KeyChange change) {
    this.change = change;
  }

  /** Changes it: for a fresh one, or for the one that its file holds by now. */
  @PostMapping
  KeyChange.Renewed change() {
    return change.change();
  }
}
