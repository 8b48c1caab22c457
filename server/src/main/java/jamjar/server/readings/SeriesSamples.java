package jamjar.server.readings;

import jamjar.core.baseline.Timeline;
import jamjar.core.chart.Charting;
import jamjar.core.chart.Points;
import jamjar.core.chart.Samples;
import jamjar.core.chart.Summary;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.counter.Shape;
import jamjar.server.problems.Problem;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.readings.Readings;
import jamjar.store.series.SeriesRow;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.springframework.stereotype.Component;

/** The stored readings of a series, whether it was read itself or is made of others. */
@Component
public class SeriesSamples {
  private static final int DAY_MINUTES = 1440;

  /** Readings on either side of a window that reach into it, in intervals. */
  private static final long MARGIN = 3;

  private final Store store;
  private final Recipes recipes;

  SeriesSamples(Store store, Recipes recipes) {
    this.store = store;
    this.recipes = recipes;
  }

  /**
   * Without steps every reading of a window is looked at: more than these values at once would fill
   * the heap.
   */
  private static final long MOST_VALUES = 12_000_000;

  private static final int AT_ONCE = 2;
  private static final long PATIENCE_SECONDS = 20;
  private final Semaphore room = new Semaphore(AT_ONCE, true);

  /** Holds room for a large window, or tells that there is none. */
  private <T> T within(long from, long to, long interval, int columns, Supplier<T> look) {
    long readings = (to - from) / Math.max(1, interval);
    if (readings * columns > MOST_VALUES) {
      long days = MOST_VALUES / columns * interval / 86_400_000;
      throw Problem.field(
          "to",
          "That is too long a window for what is asked: at most "
              + Math.max(1, days)
              + " days of it can be looked at at once.");
    }
    try {
      if (!room.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        throw Problem.busy("Other long windows are just being looked at; ask again in a moment.");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.busy("The server is stopping.");
    }
    try {
      return look.get();
    } finally {
      room.release();
    }
  }

  /** The points of a series over a window, at most as many as wanted. */
  public Points points(
      SeriesRow row, CounterDefinition counter, long from, long to, int maxPoints) {
    Schedule schedule = recipes.scheduleOf(row.instance());
    Recipe recipe = schedule.recipe();
    long margin = MARGIN * schedule.millis(counter);
    int[] parts = parts(row, counter);
    // a reading of one series takes about as much as eight values of a whole reading
    return within(
        from,
        to,
        schedule.millis(counter),
        8 * parts.length,
        () -> {
          Samples samples =
              store
                  .readings()
                  .samples(
                      row.instance(),
                      parts,
                      Instant.ofEpochMilli(from - margin),
                      Instant.ofEpochMilli(to + margin));
          return Charting.points(counter, partShape(recipe, counter), samples, from, to, maxPoints);
        });
  }

  /**
   * Series of one instance over a window, each in one; read together.
   *
   * @return in the order of the rows
   */
  public List<Summary> summaries(
      int instance, List<SeriesRow> rows, CounterDefinition counter, long from, long to) {
    Schedule schedule = recipes.scheduleOf(instance);
    Recipe recipe = schedule.recipe();
    long margin = MARGIN * schedule.millis(counter);
    List<SeriesRow> all = store.series().ofInstance(instance);
    return within(
        from,
        to,
        schedule.millis(counter),
        Math.max(1, store.series().alive(instance).size()),
        () -> summaries(instance, all, rows, counter, recipe, from, to, margin));
  }

  private List<Summary> summaries(
      int instance,
      List<SeriesRow> all,
      List<SeriesRow> rows,
      CounterDefinition counter,
      Recipe recipe,
      long from,
      long to,
      long margin) {
    Readings window =
        store
            .readings()
            .readings(
                instance, Instant.ofEpochMilli(from - margin), Instant.ofEpochMilli(to + margin));
    Map<SeriesRow, int[]> parts = parts(recipe, all);
    return rows.stream()
        .map(
            row ->
                Charting.summary(
                    counter, partShape(recipe, counter), window.samples(parts.get(row)), from, to))
        .toList();
  }

  /**
   * The 1-minute means of all series of an instance, read a day at a time.
   *
   * @param from start of the first minute, epoch ms
   * @return per number of a series its minutes; NaN for a gap, a thin step or too few. Of a series
   *     that is read less often than once a minute there is one value per reading
   */
  public Map<Integer, double[]> minutes(int instance, long from, int minutes) {
    Schedule schedule = recipes.scheduleOf(instance);
    Recipe recipe = schedule.recipe();
    // labels that are gone for good are learned no more
    List<SeriesRow> all =
        store.series().alive(instance).stream()
            .filter(row -> recipe.counters().containsKey(row.counter()))
            .toList();
    Map<Integer, double[]> found = new HashMap<>();
    all.forEach(row -> found.put(row.id(), new double[minutes]));
    long margin = MARGIN * schedule.paces().stream().mapToLong(schedule::millis).max().orElse(0);
    for (int first = 0; first < minutes; first += DAY_MINUTES) {
      int count = Math.min(DAY_MINUTES, minutes - first);
      long begin = from + first * Timeline.MINUTE;
      Readings day =
          store
              .readings()
              .readings(
                  instance,
                  Instant.ofEpochMilli(begin - margin),
                  Instant.ofEpochMilli(begin + count * Timeline.MINUTE + margin));
      Map<SeriesRow, int[]> parts = parts(recipe, all);
      for (SeriesRow row : all) {
        CounterDefinition counter = recipe.counters().get(row.counter());
        double[] means =
            Charting.steps(
                counter,
                partShape(recipe, counter),
                day.samples(parts.get(row)),
                begin,
                Timeline.MINUTE,
                count);
        thinOut(means, begin, (int) (schedule.millis(counter) / Timeline.MINUTE));
        System.arraycopy(means, 0, found.get(row.id()), first, count);
      }
    }
    return found;
  }

  private static void thinOut(double[] means, long begin, int every) {
    long minute = begin / Timeline.MINUTE;
    for (int i = 0; every > 1 && i < means.length; i++) {
      if ((minute + i) % every != 0) {
        means[i] = Double.NaN;
      }
    }
  }

  /** The series that were read: the series itself, or of a quotient those it is made of. */
  public int[] parts(SeriesRow row, CounterDefinition counter) {
    return counter.shape() == Shape.QUOTIENT
        ? parts(recipes.ofInstance(row.instance()), store.series().ofInstance(row.instance()))
            .get(row)
        : new int[] {row.id()};
  }

  private static Map<SeriesRow, int[]> parts(Recipe recipe, List<SeriesRow> all) {
    record Named(String counter, Map<String, String> labels) {}
    Map<Named, Integer> ids = new HashMap<>();
    all.forEach(row -> ids.put(new Named(row.counter(), row.labels()), row.id()));
    Map<SeriesRow, int[]> parts = new HashMap<>();
    for (SeriesRow row : all) {
      CounterDefinition counter = recipe.counters().get(row.counter());
      if (counter == null || counter.shape() != Shape.QUOTIENT) {
        parts.put(row, new int[] {row.id()});
      } else {
        List<String> keys = new ArrayList<>(List.of(counter.numerator()));
        keys.addAll(counter.denominators());
        parts.put(
            row,
            keys.stream()
                .mapToInt(
                    key ->
                        ids.getOrDefault(
                            new Named(key, row.labels()),
                            ids.getOrDefault(new Named(key, Map.of()), 0)))
                .toArray());
      }
    }
    return parts;
  }

  private static Shape partShape(Recipe recipe, CounterDefinition counter) {
    return counter.shape() == Shape.QUOTIENT
        ? recipe.counters().get(counter.numerator()).shape()
        : counter.shape();
  }
}
