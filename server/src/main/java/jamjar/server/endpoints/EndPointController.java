package jamjar.server.endpoints;

import static jamjar.server.numbers.Numbers.known;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.instances.InstanceState;
import jamjar.server.preflight.LastChecks;
import jamjar.server.security.Scopes;
import jamjar.server.watch.Taken;
import jamjar.server.watch.Watch;
import jamjar.store.instances.InstanceRow;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Where everything is read, whether it answers, and what that takes. */
@RestController
@RequestMapping(path = "/api/endpoints", produces = "application/json")
class EndPointController {
  private final Scopes scopes;
  private final Watch watch;
  private final LastChecks checks;

  EndPointController(Scopes scopes, Watch watch, LastChecks checks) {
    this.scopes = scopes;
    this.watch = watch;
    this.checks = checks;
  }

  /**
   * An end point.
   *
   * @param address host and port, or the process that is attached to
   * @param roundTrip of the smallest question of the last reading, in s; null when unknown
   * @param took how long the last reading took, in s; null when there is none
   * @param late how long after its time the last reading began, in s; null when there is none
   * @param state how it is doing; null while it is being begun
   * @param checked what was found when it was tried last
   */
  @Schema(name = "EndPoint")
  record EndPoint(
      int instance,
      String address,
      String tls,
      @Schema(types = {"number", "null"}) Double roundTrip,
      @Schema(types = {"number", "null"}) Double took,
      @Schema(types = {"number", "null"}) Double late,
      @Schema(types = {"object", "null"}) InstanceState state,
      LastChecks.Checked checked) {}

  @GetMapping
  List<EndPoint> all() {
    return scopes.instances().stream()
        .filter(row -> !row.kind().equals(InstanceRow.OWN))
        .map(this::endPoint)
        .toList();
  }

  private EndPoint endPoint(InstanceRow row) {
    Taken taken = watch.taken(row.id());
    return new EndPoint(
        row.id(),
        address(row),
        row.tls(),
        known(taken.roundTrip()),
        known(taken.whole()),
        known(taken.late()),
        watch.state(row.id()).orElse(null),
        checks.of(row.id()));
  }

  private static String address(InstanceRow row) {
    if (row.port() == 0) {
      return "this machine: " + row.database();
    }
    String address = row.host() + ":" + row.port();
    return row.database().isEmpty() ? address : address + "/" + row.database();
  }
}
