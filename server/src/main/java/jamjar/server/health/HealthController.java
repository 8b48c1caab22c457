package jamjar.server.health;

import jamjar.server.watch.Watch;
import jamjar.store.Store;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Whether the server does its work. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class HealthController {
  private final Store store;
  private final Watch watch;

  HealthController(Store store, Watch watch) {
    this.store = store;
    this.watch = watch;
  }

  /**
   * @param database whether the database answers
   * @param instances how many instances are under watch, Jam Jar itself not counted
   * @param reading how many of them are being read
   */
  record Health(boolean database, int instances, int reading) {}

  @GetMapping("/health")
  ResponseEntity<Health> health() {
    boolean database = store.answers();
    var states = watch.counted();
    int reading = (int) states.stream().filter(s -> s.state().equals("reading")).count();
    return ResponseEntity.status(database ? HttpStatus.OK : HttpStatus.SERVICE_UNAVAILABLE)
        .body(new Health(database, states.size(), reading));
  }
}
