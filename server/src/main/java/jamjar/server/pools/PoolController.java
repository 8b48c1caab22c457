package jamjar.server.pools;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.baseline.Normal;
import jamjar.core.chart.Summary;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.pool.PoolCheck;
import jamjar.server.instances.InstanceService;
import jamjar.server.normals.NormalsService;
import jamjar.server.problems.Times;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Whether the connections that pools have lent out come back. */
@RestController
@RequestMapping(path = "/api/instances/{id}/pools", produces = "application/json")
class PoolController {
  private static final String IN_USE = "pool.in_use";
  private static final String HANDED_OUT = "pool.acquired";
  private static final String HOLD = "pool.mean_hold";

  /** Shorter than this nothing is said: so much is looked at at least, ms. */
  private static final long LEAST = 300_000;

  private final Store store;
  private final InstanceService instances;
  private final SeriesSamples samples;
  private final NormalsService normals;
  private final Recipes recipes;

  PoolController(
      Store store,
      InstanceService instances,
      SeriesSamples samples,
      NormalsService normals,
      Recipes recipes) {
    this.store = store;
    this.instances = instances;
    this.samples = samples;
    this.normals = normals;
    this.recipes = recipes;
  }

  /** A counter of each pool over the window, with the number of its series. */
  private record Over(int series, double mean) {}

  @GetMapping("/check")
  List<PoolCheckView> check(@PathVariable int id, @RequestParam long from, @RequestParam long to) {
    Times.requireWindow(from, to);
    instances.row(id);
    long begin = Math.min(from, to - LEAST);
    Recipe recipe = recipes.ofInstance(id);
    Map<Map<String, String>, Over> inUse = over(id, recipe, IN_USE, begin, to);
    Map<Map<String, String>, Over> handedOut = over(id, recipe, HANDED_OUT, begin, to);
    Map<Map<String, String>, Over> hold = over(id, recipe, HOLD, begin, to);
    int[] ids = hold.values().stream().mapToInt(Over::series).toArray();
    Map<Integer, Normal> usual = normals.at(id, ids, to);
    double matters = recipe.counter(HOLD).map(CounterDefinition::matters).orElse(0.0);
    List<PoolCheckView> found = new ArrayList<>();
    inUse.forEach(
        (labels, used) -> {
          Over none = new Over(0, Double.NaN);
          Over held = hold.getOrDefault(labels, none);
          double perSecond = handedOut.getOrDefault(labels, none).mean();
          Normal normal = usual.getOrDefault(held.series(), Normal.NONE);
          PoolCheck check =
              PoolCheck.of(
                  (to - begin) / 1000.0, used.mean(), perSecond, held.mean(), normal, matters);
          found.add(
              new PoolCheckView(
                  labels,
                  check.verdict().name().toLowerCase(Locale.ROOT),
                  known(used.mean()),
                  known(perSecond),
                  known(held.mean()),
                  known(normal.p95()),
                  known(check.expected()),
                  check.notBack()));
        });
    return found;
  }

  private Map<Map<String, String>, Over> over(
      int id, Recipe recipe, String key, long from, long to) {
    Map<Map<String, String>, Over> found = new HashMap<>();
    recipe
        .counter(key)
        .ifPresent(
            counter -> {
              List<SeriesRow> rows =
                  store.series().alive(id).stream()
                      .filter(row -> row.counter().equals(key))
                      .toList();
              List<Summary> all = samples.summaries(id, rows, counter, from, to);
              for (int i = 0; i < rows.size(); i++) {
                found.put(rows.get(i).labels(), new Over(rows.get(i).id(), all.get(i).mean()));
              }
            });
    return found;
  }
}
