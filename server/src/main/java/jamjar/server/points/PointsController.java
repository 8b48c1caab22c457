package jamjar.server.points;

import jakarta.validation.Valid;
import jamjar.server.problems.Times;
import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The points of charts, and the values of a moment. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class PointsController {
  private final PointsService points;

  PointsController(PointsService points) {
    this.points = points;
  }

  @PostMapping("/points")
  List<SeriesPoints> points(@Valid @RequestBody PointsBody body) {
    Times.requireWindow(body.from(), body.to());
    return points.points(body);
  }

  @PostMapping("/figures")
  List<SeriesFigures> figures(@Valid @RequestBody FiguresBody body) {
    Times.requireWindow(body.from(), body.to());
    return points.figures(body);
  }

  @PostMapping("/moment")
  List<MomentValue> moment(@Valid @RequestBody MomentBody body) {
    Times.of("at", body.at());
    return points.moment(body);
  }
}
