package jamjar.server.work;

import jamjar.collect.ByHand;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.counter.Shape;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Work;
import jamjar.core.value.Value;
import jamjar.server.instances.InstanceService;
import jamjar.server.limits.LimitInForce;
import jamjar.server.limits.LiveJudge;
import jamjar.server.normals.NormalsService;
import jamjar.server.numbers.Numbers;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.readings.LabelWords;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.readings.SeriesSamples.KeptThen;
import jamjar.server.recipes.Recipes;
import jamjar.server.watch.Watch;
import jamjar.server.watch.Worked;
import jamjar.server.work.WorkView.PartView;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
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
  private final InstanceService instances;
  private final Watch watch;
  private final LiveJudge judge;
  private final NormalsService normals;
  private final SeriesSamples samples;
  private final Recipes recipes;
  private final LabelWords words;
  private final Clock clock;

  WorkController(
      Store store,
      InstanceService instances,
      Watch watch,
      LiveJudge judge,
      NormalsService normals,
      SeriesSamples samples,
      Recipes recipes,
      LabelWords words,
      Clock clock) {
    this.store = store;
    this.instances = instances;
    this.watch = watch;
    this.judge = judge;
    this.normals = normals;
    this.samples = samples;
    this.recipes = recipes;
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
      Double cost,
      int together,
      List<PartView> parts) {
    static final Read NOTHING = new Read(0, null, 0, "", false, null, 0, List.of());
  }

  /**
   * @param at a moment of the past, epoch ms; without, it is the latest value
   */
  @GetMapping("/{id}/work")
  WorkView work(@PathVariable int id, @RequestParam(required = false) Long at) {
    SeriesRow row =
        store.series().byIds(new int[] {id}).stream()
            .findFirst()
            .orElseThrow(() -> Problem.unknown("There is no series " + id + "."));
    Schedule schedule = recipes.scheduleOf(row.instance());
    Recipe recipe = schedule.recipe();
    CounterDefinition counter =
        recipe
            .counter(row.counter())
            .orElseThrow(() -> Problem.unknown("No recipe holds " + row.counter() + " now."));
    Read read =
        at == null ? latest(row, recipe) : then(row, recipe, Times.of("at", at).toEpochMilli());
    double value =
        Value.covers(read.elapsed(), schedule.millis(counter)) ? value(counter, read) : Double.NaN;
    long moment = read.at() > 0 ? read.at() : at == null ? clock.millis() : at;
    Normal normal = normals.at(row.instance(), row.id()).apply(moment);
    return new WorkView(
        row.id(),
        instances.row(row.instance()).name(),
        name(row.instance(), recipe, new SeriesKey(row.counter(), row.labels())),
        counter.unit(),
        counter.shape().name().toLowerCase(Locale.ROOT),
        counter.factor(),
        counter.shape() == Shape.QUOTIENT ? counter.least() : 0,
        Numbers.known(value),
        Double.isNaN(value) ? why(counter, read) : "",
        read.at(),
        read.before(),
        read.elapsed(),
        read.clock(),
        read.latest(),
        schedule.seconds(recipe.pace(counter)),
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

  private Read latest(SeriesRow row, Recipe recipe) {
    Optional<Worked> worked =
        watch.work(row.instance(), new SeriesKey(row.counter(), row.labels()));
    if (worked.isEmpty()) {
      return Read.NOTHING;
    }
    Work work = worked.get().work();
    boolean fast = worked.get().pace() == Pace.FAST;
    return new Read(
        work.at().toEpochMilli(),
        work.before() == null ? null : work.before().toEpochMilli(),
        work.elapsedMillis(),
        work.by() == null ? "" : work.by().words(),
        true,
        fast ? Numbers.known(watch.taken(row.instance()).whole()) : null,
        work.together(),
        work.parts().stream()
            .map(part -> view(row.instance(), recipe, part, worked.get().byHand()))
            .toList());
  }

  private Read then(SeriesRow row, Recipe recipe, long moment) {
    Optional<KeptThen> kept = samples.reading(row, moment);
    if (kept.isEmpty()) {
      return Read.NOTHING;
    }
    CounterDefinition counter = recipe.counters().get(row.counter());
    SeriesKey key = new SeriesKey(row.counter(), row.labels());
    List<String> names = new ArrayList<>();
    if (counter.shape() == Shape.QUOTIENT) {
      names.add(counter.numerator());
      names.addAll(counter.denominators());
    } else {
      names.add(counter.key());
    }
    List<PartView> parts = new ArrayList<>();
    for (int i = 0; i < names.size(); i++) {
      parts.add(
          view(
              row.instance(),
              recipe,
              new Work.Part(
                  key.withCounter(names.get(i)),
                  Double.NaN,
                  Double.NaN,
                  false,
                  kept.get().kept()[i],
                  null,
                  List.of()),
              Map.of()));
    }
    return new Read(kept.get().at(), null, kept.get().elapsed(), "", false, null, 0, parts);
  }

  private PartView view(
      int instance, Recipe recipe, Work.Part part, Map<SeriesKey, ByHand> byHand) {
    Optional<ByHand> how = Optional.ofNullable(byHand.get(part.series()));
    return new PartView(
        name(instance, recipe, part.series()),
        Numbers.known(part.raw()),
        Numbers.known(part.rawBefore()),
        part.byEntries(),
        recipe.counters().get(part.series().counter()).resolution(),
        Numbers.known(part.kept()),
        part.why() == null ? "" : part.why().words(),
        how.map(ByHand::how).orElse(""),
        how.map(ByHand::text).orElse(""),
        part.sumOf().stream().map(one -> view(instance, recipe, one, byHand)).toList());
  }

  private String name(int instance, Recipe recipe, SeriesKey key) {
    String title = recipe.counters().get(key.counter()).title();
    String about = words.of(instance, key.labels());
    String labels = about.isEmpty() ? String.join(", ", key.labels().values()) : about;
    return labels.isEmpty() ? title : title + " · " + labels;
  }

  private static double value(CounterDefinition counter, Read read) {
    double[] kept =
        read.parts().stream()
            .mapToDouble(part -> part.kept() == null ? Double.NaN : part.kept())
            .toArray();
    if (kept.length == 0) {
      return Double.NaN;
    }
    double below =
        switch (counter.shape()) {
          case LEVEL -> 1;
          case TOTAL -> read.elapsed() / 1000.0;
          case QUOTIENT -> Arrays.stream(kept).skip(1).sum();
        };
    boolean makesNone = counter.shape() == Shape.TOTAL && read.elapsed() == 0;
    return makesNone ? Double.NaN : Value.shown(counter, kept[0], below);
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
