package jamjar.server.normals;

import static jamjar.server.numbers.Numbers.known;

import jakarta.validation.Valid;
import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Drift;
import jamjar.core.baseline.LearnedWeek;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Outside;
import jamjar.core.baseline.Timeline;
import jamjar.server.markers.MarkerService;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.readings.Subjects;
import jamjar.server.readings.Subjects.Subject;
import jamjar.server.security.Actor;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.normals.FrozenRow;
import jamjar.store.normals.Learned;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongFunction;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The week as it was learned, from what, and what is kept of it by a name. */
@RestController
@RequestMapping(path = "/api", produces = "application/json")
class WeekController {
  private static final int QUARTER_MINUTES = 15;
  private static final int LONGEST_MINUTES = 35 * 1440;
  private static final int LEAST_MINUTES = 60;

  private final Store store;
  private final NormalsService normals;
  private final SeriesSamples samples;
  private final MarkerService markers;
  private final Subjects subjects;
  private final Clock clock;

  WeekController(
      Store store,
      NormalsService normals,
      SeriesSamples samples,
      MarkerService markers,
      Subjects subjects,
      Clock clock) {
    this.store = store;
    this.normals = normals;
    this.samples = samples;
    this.markers = markers;
    this.subjects = subjects;
    this.clock = clock;
  }

  /** A week of minutes. */
  private record Shown(LocalDate monday, long from, double[] means) {}

  /**
   * @param at a moment of the week that is shown, epoch ms
   */
  @GetMapping("/baselines/{series}/week")
  WeekView week(@PathVariable int series, @RequestParam long at) {
    Subject subject = subjects.of(series);
    Instant moment = Times.of("at", at);
    Optional<Learned> learned = store.normals().learned(subject.instance().id());
    Optional<BaselineHistory> history = normals.history(series);
    Optional<Baseline> baseline = history.map(BaselineHistory::now);
    Set<LocalDate> holidays = markers.holidays(subject.instance());
    LongFunction<Normal> normal =
        when ->
            history
                .map(one -> one.at(when, Timeline.slotOf(when, subject.zone(), holidays)))
                .orElse(Normal.NONE);
    Shown shown = shown(subject, moment);
    List<Long> quarters = new ArrayList<>();
    List<Normal> band = new ArrayList<>();
    List<Double> mean = new ArrayList<>();
    for (int i = 0; i + QUARTER_MINUTES <= shown.means().length; i += QUARTER_MINUTES) {
      long begin = shown.from() + i * Timeline.MINUTE;
      quarters.add(begin);
      band.add(normal.apply(begin));
      mean.add(known(mean(shown.means(), i)));
    }
    Outside outside = Outside.of(shown.from(), shown.means(), normal);
    return new WeekView(
        subject.instance().zone(),
        learned.map(l -> l.at().toEpochMilli()).orElse(null),
        learned.map(l -> l.at().toEpochMilli() - l.minutes() * Timeline.MINUTE).orElse(0L),
        learned.map(l -> l.at().toEpochMilli()).orElse(0L),
        quarters,
        band.stream().map(n -> known(n.p05())).toList(),
        band.stream().map(n -> known(n.p50())).toList(),
        band.stream().map(n -> known(n.p95())).toList(),
        mean,
        bases(baseline),
        learned.map(l -> weeks(subject, l)).orElse(List.of()),
        outside.minutes(),
        outside.outside(),
        outside.longestFrom(),
        outside.longestTo(),
        frozen(subject, baseline));
  }

  private InstanceRow instance(int id) {
    return store
        .instances()
        .byId(id)
        .orElseThrow(() -> Problem.unknown("There is no instance " + id + "."));
  }

  /** The local week that a moment lies in, up to now. */
  private Shown shown(Subject subject, Instant moment) {
    LocalDate monday =
        moment
            .atZone(subject.zone())
            .toLocalDate()
            .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
    long from = monday.atStartOfDay(subject.zone()).toInstant().toEpochMilli();
    long to = monday.plusDays(7).atStartOfDay(subject.zone()).toInstant().toEpochMilli();
    int minutes = (int) ((to - from) / Timeline.MINUTE);
    double[][] found = {new double[minutes]};
    Arrays.fill(found[0], Double.NaN);
    long end = Math.min(to, clock.millis());
    int past = (int) Math.max(0, Math.min(minutes, (end - from) / Timeline.MINUTE));
    samples.minutes(
        subject.instance().id(),
        List.of(subject.series()),
        from,
        past,
        (series, counter, means) -> System.arraycopy(means, 0, found[0], 0, means.length));
    return new Shown(monday, from, found[0]);
  }

  private static double mean(double[] means, int from) {
    double sum = 0;
    int n = 0;
    for (int i = from; i < from + QUARTER_MINUTES; i++) {
      if (!Double.isNaN(means[i])) {
        sum += means[i];
        n++;
      }
    }
    return n == 0 ? Double.NaN : sum / n;
  }

  private static List<WeekView.Served> bases(Optional<Baseline> baseline) {
    Map<String, Integer> slots = new LinkedHashMap<>();
    for (int slot = 0; slot < Timeline.SLOTS; slot++) {
      Normal normal = baseline.isEmpty() ? Normal.NONE : baseline.get().at(slot);
      slots.merge(normal.basis().words(), 1, Integer::sum);
    }
    return slots.entrySet().stream()
        .sorted((a, b) -> Integer.compare(b.getValue(), a.getValue()))
        .map(one -> new WeekView.Served(one.getKey(), one.getValue()))
        .toList();
  }

  /** What it was learned from, looked at again: of the same time, with the markers of now. */
  private List<WeekView.Week> weeks(Subject subject, Learned learned) {
    long to = Math.floorDiv(learned.at().toEpochMilli(), Timeline.MINUTE) * Timeline.MINUTE;
    long from = to - learned.minutes() * Timeline.MINUTE;
    List<LearnedWeek> told = new ArrayList<>();
    samples.minutes(
        subject.instance().id(),
        List.of(subject.series()),
        from,
        learned.minutes(),
        (series, counter, means) ->
            told.addAll(
                LearnedWeek.of(
                    normals.timeline(subject.instance(), from, learned.minutes()),
                    means,
                    counter.matters())));
    return told.stream()
        .map(
            week ->
                new WeekView.Week(
                    LocalDate.ofEpochDay(week.monday())
                        .atStartOfDay(subject.zone())
                        .toInstant()
                        .toEpochMilli(),
                    week.minutes(),
                    week.counted(),
                    week.leftOut().stream()
                        .map(
                            left ->
                                new WeekView.LeftOut(
                                    left.why(), left.first(), left.last(), left.minutes()))
                        .toList()))
        .toList();
  }

  private List<WeekView.Frozen> frozen(Subject subject, Optional<Baseline> now) {
    return store.normals().frozen(subject.instance().id()).stream()
        .map(
            row ->
                new WeekView.Frozen(
                    row.id(),
                    row.name(),
                    row.fromAt().toEpochMilli(),
                    row.toAt().toEpochMilli(),
                    row.madeAt().toEpochMilli(),
                    store
                        .normals()
                        .frozen(row.id(), subject.series().id())
                        .flatMap(
                            then ->
                                now.map(
                                    b ->
                                        Drift.of(
                                            then,
                                            b,
                                            subject.counter().matters(),
                                            subject.counter().resolution())))
                        .map(drift -> known(drift))
                        .orElse(null)))
        .toList();
  }

  /** Learns all series of an instance from a time and keeps that by a name, for ever. */
  @PostMapping("/instances/{id}/frozen")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void freeze(@PathVariable int id, @Valid @RequestBody WeekView.FrozenBody body)
      throws InterruptedException {
    InstanceRow row = instance(id);
    Times.requireWindow(body.from(), body.to());
    String name = body.name().strip();
    if (store.normals().frozen(id).stream().anyMatch(one -> one.name().equals(name))) {
      throw Problem.field(
          "name", "There is one of that name. Take it away first, or choose another.");
    }
    long minutes = Duration.ofMillis(body.to() - body.from()).toMinutes();
    if (minutes < LEAST_MINUTES || minutes > LONGEST_MINUTES) {
      throw Problem.field("from", "It is learned from an hour at least and five weeks at most.");
    }
    normals.freeze(
        row,
        new FrozenRow(
            0,
            id,
            name,
            Instant.ofEpochMilli(body.from()),
            Instant.ofEpochMilli(body.to()),
            clock.instant(),
            Actor.who()));
  }

  /** Takes away what is kept by a name. */
  @DeleteMapping("/instances/{id}/frozen/{frozen}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void thaw(@PathVariable int id, @PathVariable int frozen) {
    if (!store.normals().thaw(id, frozen)) {
      throw Problem.unknown("Nothing is kept under the number " + frozen + ".");
    }
  }
}
