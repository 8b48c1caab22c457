package jamjar.server.readings;

import jakarta.validation.Valid;
import jamjar.server.problems.Problem;
import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The points of charts. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class PointsController {
  private final PointsService points;

  PointsController(PointsService points) {
    this.points = points;
  }

  @PostMapping("/points")
  List<SeriesPoints> points(@Valid @RequestBody PointsBody body) {
    if (body.to() <= body.from()) {
      throw Problem.field("to", "The window must end after it begins.");
    }
    return points.points(body);
  }
}
