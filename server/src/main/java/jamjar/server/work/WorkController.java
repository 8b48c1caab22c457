package jamjar.server.work;

import jamjar.collect.ByHand;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Work;
import jamjar.server.limits.LimitInForce;
import jamjar.server.limits.LiveJudge;
import jamjar.server.normals.NormalsService;
import jamjar.server.numbers.Numbers;
import jamjar.server.problems.Times;
import jamjar.server.readings.LabelWords;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.readings.SeriesSamples.KeptThen;
import jamjar.server.readings.Subjects;
import jamjar.server.readings.Subjects.Subject;
import jamjar.server.watch.Watch;
import jamjar.server.watch.Worked;
import jamjar.server.work.WorkView.PartView;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How a value came about. */
@RestController
@RequestMapping(path = "/api/series", produces = "application/json")
class WorkController {
  private static final long QUARTER_HOUR = 900_000;

  private final Store store;
  private final Watch watch;
  private final LiveJudge judge;
  private final NormalsService normals;
  private final SeriesSamples samples;
  private final Subjects subjects;
  private final LabelWords words;
  private final Clock clock;

  WorkController(
      Store store,
      Watch watch,
      LiveJudge judge,
      NormalsService normals,
      SeriesSamples samples,
      Subjects subjects,
      LabelWords words,
      Clock clock) {
    this.store = store;
    this.watch = watch;
    this.judge = judge;
    this.normals = normals;
    this.samples = samples;
    this.subjects = subjects;
    this.words = words;
    this.clock = clock;
  }

  /** A reading, the latest or one of the past. */
  private record Read(
      long at,
      Long before,
      long elapsed,
      String clock,
      boolean latest,
      long interval,
      Double cost,
      int together,
      List<PartView> parts,
      double value) {
    static Read nothing(Subject subject) {
      long interval = subject.schedule().millis(subject.counter());
      return new Read(0, null, 0, "", false, interval, null, 0, List.of(), Double.NaN);
    }
  }

  /**
   * @param at a moment of the past, epoch ms; without, it is the latest value
   */
  @GetMapping("/{id}/work")
  WorkView work(@PathVariable int id, @RequestParam(required = false) Long at) {
    Subject subject = subjects.of(id);
    SeriesRow row = subject.series();
    CounterDefinition counter = subject.counter();
    Read read = at == null ? latest(subject) : then(subject, Times.of("at", at).toEpochMilli());
    long moment = read.at() > 0 ? read.at() : at == null ? clock.millis() : at;
    Normal normal = normals.at(row.instance(), row.id()).apply(moment);
    return new WorkView(
        row.id(),
        subject.instance().name(),
        name(subject, new SeriesKey(row.counter(), row.labels())),
        counter.unit(),
        counter.shape().name().toLowerCase(Locale.ROOT),
        counter.factor(),
        counter.shape() == Shape.QUOTIENT ? counter.least() : 0,
        Numbers.known(read.value()),
        Double.isNaN(read.value()) ? why(counter, read) : "",
        read.at(),
        read.before(),
        read.elapsed(),
        read.clock(),
        read.latest(),
        (int) (read.interval() / 1000),
        read.cost(),
        read.together(),
        read.parts(),
        Math.floorDiv(moment, QUARTER_HOUR) * QUARTER_HOUR,
        Numbers.known(normal.p05()),
        Numbers.known(normal.p50()),
        Numbers.known(normal.p95()),
        normal.basis().words(),
        normal.steps(),
        judge.inForce(row.instance()).getOrDefault(row.id(), List.of()).stream()
            .map(limit -> LimitInForce.of(row.id(), limit))
            .toList());
  }

  private Read latest(Subject subject) {
    SeriesRow row = subject.series();
    Optional<Worked> worked =
        watch.work(row.instance(), new SeriesKey(row.counter(), row.labels()));
    if (worked.isEmpty()) {
      return Read.nothing(subject);
    }
    Work work = worked.get().work();
    boolean fast = worked.get().pace() == Pace.FAST;
    long interval = subject.schedule().millis(subject.counter());
    double[] kept = work.parts().stream().mapToDouble(Work.Part::kept).toArray();
    return new Read(
        work.at().toEpochMilli(),
        work.before() == null ? null : work.before().toEpochMilli(),
        work.elapsedMillis(),
        work.by() == null ? "" : work.by().words(),
        true,
        interval,
        fast ? Numbers.known(watch.taken(row.instance()).whole()) : null,
        work.together(),
        work.parts().stream().map(part -> view(subject, part, worked.get().byHand())).toList(),
        Work.value(
            subject.counter(),
            SeriesSamples.partShape(subject.recipe(), subject.counter()),
            kept,
            work.elapsedMillis(),
            interval));
  }

  private Read then(Subject subject, long moment) {
    Optional<KeptThen> found = samples.reading(subject.series(), moment);
    if (found.isEmpty()) {
      return Read.nothing(subject);
    }
    KeptThen then = found.get();
    Map<Integer, SeriesRow> rows =
        store.series().byIds(then.parts()).stream()
            .collect(Collectors.toMap(SeriesRow::id, row -> row, (one, same) -> one));
    List<PartView> parts = new ArrayList<>();
    for (int i = 0; i < then.parts().length; i++) {
      String counter = subject.counter().parts().get(i);
      SeriesRow row = rows.get(then.parts()[i]);
      Map<String, String> labels = row == null ? subject.series().labels() : row.labels();
      parts.add(
          view(
              subject,
              new Work.Part(
                  new SeriesKey(counter, labels),
                  Double.NaN,
                  Double.NaN,
                  false,
                  then.kept()[i],
                  null,
                  List.of()),
              Map.of()));
    }
    return new Read(
        then.at(), null, then.elapsed(), "", false, then.interval(), null, 0, parts, then.value());
  }

  private PartView view(Subject subject, Work.Part part, Map<SeriesKey, ByHand> byHand) {
    Optional<ByHand> how = Optional.ofNullable(byHand.get(part.series()));
    return new PartView(
        name(subject, part.series()),
        Numbers.known(part.raw()),
        Numbers.known(part.rawBefore()),
        part.byEntries(),
        counterOf(subject, part.series()).map(CounterDefinition::resolution).orElse(0.0),
        Numbers.known(part.kept()),
        part.why() == null ? "" : part.why().words(),
        how.map(ByHand::how).orElse(""),
        how.map(ByHand::text).orElse(""),
        part.sumOf().stream().map(one -> view(subject, one, byHand)).toList());
  }

  /** It was read by the recipe of then: that of now may hold it no more. */
  private static Optional<CounterDefinition> counterOf(Subject subject, SeriesKey key) {
    return subject.recipe().counter(key.counter());
  }

  private String name(Subject subject, SeriesKey key) {
    String title = counterOf(subject, key).map(CounterDefinition::title).orElse(key.counter());
    String about = words.of(subject.instance().id(), key.labels());
    String labels = about.isEmpty() ? String.join(", ", key.labels().values()) : about;
    return labels.isEmpty() ? title : title + " · " + labels;
  }

  private static String why(CounterDefinition counter, Read read) {
    return read.parts().stream()
        .map(PartView::why)
        .filter(words -> !words.isEmpty())
        .findFirst()
        .orElse(
            (counter.shape() == Shape.QUOTIENT && !read.parts().isEmpty()
                    ? WhyNothing.TOO_FEW
                    : WhyNothing.NOT_YET_KNOWN)
                .words());
  }
}
