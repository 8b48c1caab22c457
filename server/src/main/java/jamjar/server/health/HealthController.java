package jamjar.server.health;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.security.Actor;
import jamjar.server.watch.Watch;
import jamjar.server.watching.Beat;
import jamjar.server.watching.StoreThere;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Whether the server does its work. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class HealthController {
  private final Beat beat;
  private final StoreThere there;
  private final Watch watch;

  HealthController(Beat beat, StoreThere there, Watch watch) {
    this.beat = beat;
    this.there = there;
    this.watch = watch;
  }

  /**
   * @param database whether the database answers, and what is read can be kept
   * @param instances how many instances are under watch, Jam Jar itself not counted; null to who is
   *     not signed in
   * @param reading of how many a reading was kept lately; likewise
   */
  record Health(
      boolean database,
      @Schema(types = {"integer", "null"}) Integer instances,
      @Schema(types = {"integer", "null"}) Integer reading) {}

  @GetMapping("/health")
  ResponseEntity<Health> health() {
    boolean database = !there.away() && !beat.away();
    return ResponseEntity.status(database ? HttpStatus.OK : HttpStatus.SERVICE_UNAVAILABLE)
        .body(
            Actor.current().isPresent()
                ? new Health(database, watch.counted().size(), watch.keptLately())
                : new Health(database, null, null));
  }
}
