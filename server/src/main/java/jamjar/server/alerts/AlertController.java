package jamjar.server.alerts;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import jamjar.server.problems.Problem;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Alerts. */
@RestController
@RequestMapping(path = "/api/alerts", produces = "application/json")
class AlertController {
  private final AlertService alerts;

  private final AlertStories stories;

  AlertController(AlertService alerts, AlertStories stories) {
    this.alerts = alerts;
    this.stories = stories;
  }

  /**
   * Alerts, newest first.
   *
   * @param state open, or all of a window
   * @param from epoch ms; with all
   * @param to epoch ms; with all
   */
  @GetMapping
  List<AlertView> list(
      @RequestParam(defaultValue = "open") String state,
      @RequestParam(defaultValue = "0") long from,
      @RequestParam(defaultValue = "9007199254740991") long to) {
    return switch (state) {
      case "open" -> alerts.open();
      case "all" -> alerts.touching(from, Math.min(to, 253_402_300_799_000L));
      default -> throw Problem.field("state", "'" + state + "' is neither open nor all.");
    };
  }

  @GetMapping("/{id}")
  AlertView one(@PathVariable long id) {
    return alerts.one(id);
  }

  /** What it is read with. */
  @GetMapping("/{id}/story")
  AlertStory story(@PathVariable long id) {
    return stories.of(id);
  }

  @GetMapping("/{id}/rang")
  AlertView.Rang rang(@PathVariable long id) {
    return alerts.rang(id);
  }

  @PostMapping("/{id}/acknowledge")
  AlertView acknowledge(@PathVariable long id, @Valid @RequestBody AlertView.AcknowledgeBody body) {
    return alerts.acknowledge(id, body);
  }

  /** The names of those to whom it can be given. */
  @GetMapping("/{id}/assignable")
  List<String> assignable(@PathVariable long id) {
    return alerts.assignable(id);
  }

  /**
   * To whom it is given.
   *
   * @param to a name; empty for nobody
   */
  @Schema(name = "AssignBody")
  record Assign(@NotNull @Size(max = 80) String to) {}

  @PutMapping("/{id}/assigned")
  AlertView assign(@PathVariable long id, @Valid @RequestBody Assign body) {
    return alerts.assign(id, body.to());
  }

  @PostMapping("/{id}/comments")
  AlertView comment(@PathVariable long id, @Valid @RequestBody AlertView.NoteBody body) {
    return alerts.comment(id, body.note());
  }
}
