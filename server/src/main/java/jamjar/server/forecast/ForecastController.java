package jamjar.server.forecast;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.forecast.Peaks;
import jamjar.core.reading.Shown;
import jamjar.server.numbers.Numbers;
import jamjar.server.problems.Problem;
import jamjar.server.readings.DailyPeaks;
import jamjar.server.readings.Subjects;
import jamjar.server.readings.Subjects.Subject;
import jamjar.server.watch.Watch;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** When daily peaks reach what there is room for. */
@RestController
@RequestMapping(path = "/api/series", produces = "application/json")
class ForecastController {
  /** What may be used of a counter that is no share, by its key: the counter that tells it. */
  private static final Map<String, String> ROOM =
      Map.of(
          "connections.used",
          "connections.usable",
          "heap.used",
          "heap.max",
          "pool.in_use",
          "pool.max");

  private final DailyPeaks peaks;
  private final Subjects subjects;
  private final Watch watch;
  private final Clock clock;

  ForecastController(DailyPeaks peaks, Subjects subjects, Watch watch, Clock clock) {
    this.peaks = peaks;
    this.subjects = subjects;
    this.watch = watch;
    this.clock = clock;
  }

  private record Capacity(double number, String words) {}

  /**
   * @param capacity what the peaks may reach, in the unit as shown; without, what is known of it
   */
  @GetMapping("/{id}/forecast")
  ForecastView forecast(@PathVariable int id, @RequestParam(required = false) Double capacity) {
    Subject subject = subjects.of(id);
    if (capacity != null && !(Double.isFinite(capacity) && capacity > 0)) {
      throw Problem.field("capacity", "It is a number above 0.");
    }
    Optional<Capacity> room =
        capacity == null ? known(subject) : Optional.of(new Capacity(capacity, "as it was typed"));
    ZoneId zone = subject.zone();
    LocalDate today = clock.instant().atZone(zone).toLocalDate();
    LocalDate first = today.minusDays(DailyPeaks.DAYS);
    double[] found = peaks.of(subject.instance(), subject.series(), first, today);
    Peaks told = Peaks.of(found, room.map(Capacity::number).orElse(Double.POSITIVE_INFINITY));
    boolean says = told.verdict() != Peaks.Verdict.TOO_FEW_DAYS;
    long last = today.atStartOfDay(zone).toInstant().toEpochMilli();
    boolean meets =
        room.isPresent()
            && (told.verdict() == Peaks.Verdict.REACHES || told.verdict() == Peaks.Verdict.REACHED);
    return new ForecastView(
        says && room.isEmpty() ? "no_capacity" : told.verdict().name().toLowerCase(Locale.ROOT),
        room.map(Capacity::number).orElse(null),
        room.map(Capacity::words).orElse(""),
        told.days(),
        first.plusDays(told.first()).atStartOfDay(zone).toInstant().toEpochMilli(),
        Numbers.known(told.perDay()),
        Numbers.known(told.now()),
        meets ? after(last, told.middle()) : null,
        meets ? after(last, told.soonest()) : null,
        meets ? after(last, told.latest()) : null);
  }

  private static Long after(long last, double days) {
    return Double.isFinite(days) ? (Long) (last + Math.round(days * 86_400_000.0)) : null;
  }

  private Optional<Capacity> known(Subject subject) {
    if (subject.counter().unit().equals("%")) {
      return Optional.of(new Capacity(100, "a share of it all"));
    }
    String room = ROOM.get(subject.counter().key());
    if (room == null) {
      return Optional.empty();
    }
    String title = subject.recipe().counter(room).map(CounterDefinition::title).orElse(room);
    return watch.latest(subject.instance().id()).values().stream()
        .filter(shown -> shown.series().counter().equals(room))
        .filter(shown -> shown.series().labels().equals(subject.series().labels()))
        .map(Shown::value)
        .filter(Double::isFinite)
        .findFirst()
        .map(number -> new Capacity(number, "read: " + title));
  }
}
