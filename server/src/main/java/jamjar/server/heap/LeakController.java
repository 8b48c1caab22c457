package jamjar.server.heap;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.chart.Figures;
import jamjar.core.heap.Leak;
import jamjar.server.instances.InstanceService;
import jamjar.server.problems.Times;
import jamjar.server.readings.SeriesSamples;
import jamjar.store.Store;
import jamjar.store.facts.FactRow;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Is there a leak, and when is the wall reached? */
@RestController
@RequestMapping(path = "/api/instances/{id}/leak", produces = "application/json")
class LeakController {
  private static final String FLOOR = "old_generation.floor_share";
  private static final String STARTED = "started";
  private static final double WALL = 100;

  private final Store store;
  private final InstanceService instances;
  private final SeriesSamples samples;
  private final Clock clock;

  LeakController(Store store, InstanceService instances, SeriesSamples samples, Clock clock) {
    this.store = store;
    this.instances = instances;
    this.samples = samples;
    this.clock = clock;
  }

  /**
   * @param at as it is at that moment, epoch ms; now without
   */
  @GetMapping
  LeakView leak(@PathVariable int id, @RequestParam(required = false) Long at) {
    InstanceRow row = instances.row(id);
    Instant moment = at == null ? clock.instant() : Times.of("at", at);
    Optional<SeriesRow> floor =
        store.series().alive(id).stream().filter(one -> one.counter().equals(FLOOR)).findFirst();
    if (floor.isEmpty()) {
      return new LeakView("not_known", 0, null, null, null, List.of(), List.of(), 0);
    }
    ZoneId zone = ZoneId.of(row.zone());
    Instant since = started(id, moment).orElse(Instant.EPOCH);
    // its own day is not over, that of the start is not one of calm running
    LocalDate last = moment.atZone(zone).toLocalDate().minusDays(1);
    LocalDate first = last.minusDays(Leak.MOST_DAYS - 1L);
    LocalDate begun = since.atZone(zone).toLocalDate().plusDays(1);
    first = first.isBefore(begun) ? begun : first;
    List<Long> days = new ArrayList<>();
    List<Double> floors = new ArrayList<>();
    Map<SeriesRow, int[]> parts = samples.parts(id, List.of(floor.get()));
    for (LocalDate day = first; !day.isAfter(last); day = day.plusDays(1)) {
      long from = day.atStartOfDay(zone).toInstant().toEpochMilli();
      long to = day.plusDays(1).atStartOfDay(zone).toInstant().toEpochMilli();
      Figures figures = samples.figures(id, parts, from, to).get(0);
      days.add(from);
      floors.add(figures.least());
    }
    Leak leak = Leak.mostEven(floors.stream().mapToDouble(Double::doubleValue).toArray(), WALL);
    return new LeakView(
        leak.verdict().name().toLowerCase(Locale.ROOT),
        leak.days(),
        known(leak.perDay()),
        known(leak.hoursLeast()),
        Double.isInfinite(leak.hoursMost()) ? null : known(leak.hoursMost()),
        days,
        floors.stream().map(value -> known(value)).toList(),
        since.toEpochMilli());
  }

  /** When the process that ran then began, as far as that was told. */
  private Optional<Instant> started(int instance, Instant at) {
    return store.facts().all(instance).stream()
        .filter(fact -> fact.name().equals(STARTED))
        .filter(fact -> !fact.from().isAfter(at))
        .map(FactRow::value)
        .findFirst()
        .flatMap(LeakController::epoch);
  }

  private static Optional<Instant> epoch(String value) {
    try {
      return Optional.of(Instant.ofEpochMilli(Long.parseLong(value)));
    } catch (NumberFormatException e) {
      return Optional.empty();
    }
  }
}
