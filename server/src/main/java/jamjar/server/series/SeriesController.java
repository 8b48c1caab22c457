package jamjar.server.series;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.baseline.Departing.Departure;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.limit.InForce;
import jamjar.core.reading.Shown;
import jamjar.server.instances.InstanceService;
import jamjar.server.limits.LimitInForce;
import jamjar.server.limits.LiveJudge;
import jamjar.server.normals.NormalsService;
import jamjar.server.readings.LabelWords;
import jamjar.server.recipes.Recipes;
import jamjar.server.watch.Watch;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The series of an instance, with their latest values. */
@RestController
@RequestMapping(path = "/api/instances", produces = "application/json")
class SeriesController {
  /** Labels that are gone for good and shown still: the latest of them. */
  static final int MOST_RETIRED = 500;

  private final Store store;
  private final InstanceService instances;
  private final Watch watch;
  private final LiveJudge judge;
  private final NormalsService normals;
  private final Recipes recipes;
  private final LabelWords words;
  private final Unread unread;
  private final Clock clock;

  SeriesController(
      Store store,
      InstanceService instances,
      Watch watch,
      LiveJudge judge,
      NormalsService normals,
      Recipes recipes,
      LabelWords words,
      Unread unread,
      Clock clock) {
    this.store = store;
    this.instances = instances;
    this.watch = watch;
    this.judge = judge;
    this.normals = normals;
    this.recipes = recipes;
    this.words = words;
    this.unread = unread;
    this.clock = clock;
  }

  @GetMapping("/{id}/series")
  List<SeriesView> series(@PathVariable int id) {
    InstanceRow instance = instances.row(id);
    Recipe recipe = recipes.of(instance);
    Map<Integer, Shown> latest = watch.latest(id);
    Map<Integer, Departure> departed = watch.departed(id);
    Map<Integer, List<InForce>> inForce = judge.inForce(id);
    List<SeriesRow> rows =
        store.series().shown(id, MOST_RETIRED).stream()
            .filter(row -> recipe.counters().containsKey(row.counter()))
            .toList();
    Map<String, SeriesRow> leading = leading(rows);
    Map<Integer, String> nothing = new HashMap<>();
    store.series().lasting(id).forEach(span -> nothing.put(span.series(), span.why()));
    return rows.stream()
        .map(
            row ->
                view(
                    instance,
                    recipe,
                    row,
                    leading.get(row.counter()) == row,
                    latest.get(row.id()),
                    nothing.get(row.id()),
                    departed.get(row.id()),
                    inForce.getOrDefault(row.id(), List.of())))
        .toList();
  }

  /** Which series of a counter stands for it: the one without labels, else the first by name. */
  private static Map<String, SeriesRow> leading(List<SeriesRow> rows) {
    Map<String, SeriesRow> leading = new HashMap<>();
    rows.forEach(
        row ->
            leading.merge(row.counter(), row, (a, b) -> name(a).compareTo(name(b)) <= 0 ? a : b));
    return leading;
  }

  private static String name(SeriesRow row) {
    return row.labels().isEmpty() ? "" : row.labels().toString();
  }

  private SeriesView view(
      InstanceRow instance,
      Recipe recipe,
      SeriesRow row,
      boolean leads,
      Shown shown,
      String lasting,
      Departure departure,
      List<InForce> limits) {
    int first = leads ? recipe.firstView().indexOf(row.counter()) : -1;
    Normal normal = normals.now(instance.id(), row.id(), clock.millis());
    CounterDefinition counter = recipe.counters().get(row.counter());
    boolean whole = row.labels().isEmpty();
    int interval = new Schedule(recipe, instance.intervalS()).seconds(recipe.pace(counter));
    String why = unread.why(instance, shown, lasting);
    return new SeriesView(
        row.id(),
        row.counter(),
        counter.title(),
        counter.group(),
        counter.unit(),
        counter.shape().name().toLowerCase(Locale.ROOT),
        row.labels(),
        words.of(instance.id(), row.labels()),
        whole,
        first,
        interval,
        counter.worse().name().toLowerCase(Locale.ROOT),
        counter.trouble(),
        counter.goodEnd(),
        counter.matters(),
        counter.meaning(),
        counter.suggests(),
        counter.questions(),
        counter.readWith(),
        why.isEmpty() ? shown.value() : null,
        why,
        known(normal.p05()),
        known(normal.p50()),
        known(normal.p95()),
        normal.basis().words(),
        departure == null ? null : departure.distance(),
        limits.stream().map(inForce -> LimitInForce.of(row.id(), inForce)).toList());
  }
}
