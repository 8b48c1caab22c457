package jamjar.server.normals;

import jamjar.core.baseline.Habit;
import jamjar.core.chart.Points;
import jamjar.core.chart.Summary;
import jamjar.server.problems.Times;
import jamjar.server.readings.SameHour;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.readings.Subjects;
import jamjar.server.readings.Subjects.Subject;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Whether what is good at zero only comes back at its hour: of that, no normal tells. */
@RestController
@RequestMapping(path = "/api/series/{id}/recurs", produces = "application/json")
class RecursController {
  /** Points a quarter of an hour wide. */
  private static final int QUARTERS = 96;

  private final Subjects subjects;
  private final SeriesSamples samples;

  RecursController(Subjects subjects, SeriesSamples samples) {
    this.subjects = subjects;
    this.samples = samples;
  }

  /**
   * @param at epoch ms: half an hour before and after it is looked at on each of 14 days before, in
   *     the instance's zone; where it came on fewer than two, any other hour
   */
  @GetMapping
  RecursView recurs(@PathVariable int id, @RequestParam long at) {
    Subject of = subjects.of(id);
    int looked = 0;
    List<RecursView.Day> days = new ArrayList<>();
    for (SameHour hour : SameHour.before(Times.of("at", at), of.zone())) {
      Summary then =
          samples
              .summaries(
                  of.instance().id(),
                  List.of(of.series()),
                  of.counter(),
                  hour.from().toEpochMilli(),
                  hour.to().toEpochMilli())
              .get(0);
      looked += Double.isNaN(then.mean()) ? 0 : 1;
      if (then.max() > 0) {
        days.add(new RecursView.Day(hour.middle().toEpochMilli(), then.max()));
      }
    }
    return new RecursView(looked, days, days.size() < 2 ? usual(of, at) : null);
  }

  private RecursView.Usual usual(Subject of, long at) {
    Points then =
        samples
            .points(
                of.instance().id(),
                samples.parts(of.instance().id(), List.of(of.series())),
                at - Duration.ofDays(SameHour.DAYS).toMillis(),
                at,
                SameHour.DAYS * QUARTERS)
            .get(0);
    return Habit.of(then.at(), then.max(), of.zone())
        .map(
            habit ->
                new RecursView.Usual(habit.latest(at, of.zone()), habit.days(), habit.looked()))
        .orElse(null);
  }
}
