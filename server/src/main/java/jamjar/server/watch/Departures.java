package jamjar.server.watch;

import jamjar.core.baseline.Departing;
import jamjar.core.baseline.Departing.Departure;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.reading.Shown;
import java.time.Instant;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Which series of one instance have left their normal: of those that its latest readings hold. */
final class Departures {
  private final Recipe recipe;
  private final Schedule schedule;
  private final NormalAt normals;
  private final Map<Pace, Map<Integer, Departing>> all = new EnumMap<>(Pace.class);

  /** What is normal for a series at a moment, epoch ms. */
  @FunctionalInterface
  interface NormalAt {
    Normal of(int series, long at);
  }

  Departures(Recipe recipe, int intervalS, NormalAt normals) {
    this.recipe = recipe;
    this.schedule = new Schedule(recipe, intervalS);
    this.normals = normals;
  }

  /**
   * Takes a reading of one pace.
   *
   * @param ids the numbers of the series, in the order of shown
   */
  void read(Pace pace, Instant at, int[] ids, List<Shown> shown) {
    Map<Integer, Departing> before = all.getOrDefault(pace, Map.of());
    Map<Integer, Departing> now = new HashMap<>();
    for (int i = 0; i < ids.length; i++) {
      Shown one = shown.get(i);
      int id = ids[i];
      Departing series = before.get(id);
      if (series == null) {
        CounterDefinition counter = recipe.counters().get(one.series().counter());
        series = new Departing(counter.matters(), counter.resolution(), schedule.millis(pace));
      }
      series.read(at.toEpochMilli(), one.value(), when -> normals.of(id, when));
      now.put(id, series);
    }
    all.put(pace, now);
  }

  /** What is normal for a series at a moment, epoch ms. */
  Normal normal(int series, long at) {
    return normals.of(series, at);
  }

  /** Those that are outside now, by number. */
  Map<Integer, Departure> now() {
    Map<Integer, Departure> found = new HashMap<>();
    all.values()
        .forEach(
            of ->
                of.forEach(
                    (id, series) -> series.departure().ifPresent(one -> found.put(id, one))));
    return found;
  }
}
