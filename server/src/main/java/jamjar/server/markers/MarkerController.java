package jamjar.server.markers;

import jakarta.validation.Valid;
import jamjar.server.problems.Times;
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

/** Markers. */
@RestController
@RequestMapping(path = "/api/markers", produces = "application/json")
class MarkerController {
  private final MarkerService markers;

  MarkerController(MarkerService markers) {
    this.markers = markers;
  }

  /**
   * Those that touch a window, oldest first.
   *
   * @param from epoch ms
   * @param to epoch ms
   */
  @GetMapping
  List<MarkerView> touching(@RequestParam long from, @RequestParam long to) {
    return markers.touching(Times.of("from", from), Times.of("to", to));
  }

  /** What a release or a change made better or worse, of each instance that it is about. */
  @GetMapping("/{id}/outcomes")
  List<MarkerView.OutcomeOf> outcomes(@PathVariable int id) {
    return markers.outcomes(id);
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  MarkerView add(@Valid @RequestBody MarkerView.Body body) {
    return markers.add(body);
  }

  @PutMapping("/{id}")
  MarkerView change(@PathVariable int id, @Valid @RequestBody MarkerView.Body body) {
    return markers.change(id, body);
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable int id) {
    markers.remove(id);
  }
}
