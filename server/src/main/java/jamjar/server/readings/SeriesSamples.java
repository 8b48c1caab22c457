package jamjar.server.readings;

import jamjar.core.baseline.Timeline;
import jamjar.core.chart.Charting;
import jamjar.core.chart.Figures;
import jamjar.core.chart.Points;
import jamjar.core.chart.Samples;
import jamjar.core.chart.Summary;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.counter.Shape;
import jamjar.core.reading.Work;
import jamjar.server.readings.WindowReader.Window;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.time.Instant;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.LongSummaryStatistics;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.springframework.stereotype.Component;

/** The stored readings of a series, whether it was read itself or is made of others. */
@Component
public class SeriesSamples {
  /** Readings on either side of a window that reach into it, in intervals. */
  private static final long MARGIN = 3;

  /** As often it may have been read before, ms: what is set now says nothing of then. */
  private static final long SELDOM = 60_000;

  /** Of a window in one the steps at its ends, of which parts lie outside, weigh little. */
  private static final double FINE = 100;

  private final Store store;
  private final Recipes recipes;
  private final WindowReader reader;

  SeriesSamples(Store store, Recipes recipes) {
    this.store = store;
    this.recipes = recipes;
    this.reader = new WindowReader(store);
  }

  /**
   * The points of series of one instance over a window, read together; of each at most as many as
   * wanted.
   *
   * @param parts per series what was read of it, as of {@link #parts}
   * @return in the order of the series
   */
  public List<Points> points(
      int instance, Map<SeriesRow, int[]> parts, long from, long to, int maxPoints) {
    Schedule schedule = recipes.scheduleOf(instance);
    Recipe recipe = schedule.recipe();
    List<SeriesRow> rows = List.copyOf(parts.keySet());
    double width = (double) (to - from) / maxPoints;
    Points[] found = new Points[rows.size()];
    reader.read(
        window(instance, schedule, rows, from, to, width),
        rows.stream().map(parts::get).toList(),
        (i, stepped) -> {
          CounterDefinition counter = recipe.counters().get(rows.get(i).counter());
          found[i] =
              Charting.points(counter, partShape(recipe, counter), stepped, from, to, maxPoints);
        });
    return List.of(found);
  }

  /**
   * What was kept of one reading.
   *
   * @param elapsed ms that it covers
   * @param interval ms between two readings as set then
   * @param parts the series that were read, the one above the line first; 0 for one that is none
   * @param kept of each the level, or what it grew by; NaN for none
   * @param value as shown; NaN for none
   */
  public record KeptThen(
      long at, long elapsed, long interval, int[] parts, double[] kept, double value) {}

  /**
   * The reading of a series that covers a moment, epoch ms; empty where none does, or it is kept no
   * more but in steps.
   */
  public Optional<KeptThen> reading(SeriesRow row, long moment) {
    int instance = row.instance();
    Schedule schedule = recipes.scheduleOf(instance);
    CounterDefinition counter = schedule.recipe().counters().get(row.counter());
    long margin = MARGIN * Math.max(SELDOM, schedule.millis(counter));
    int[] parts = parts(instance, List.of(row)).get(row);
    Samples samples =
        store
            .readings()
            .samples(
                instance,
                List.of(parts),
                Instant.ofEpochMilli(moment - margin),
                Instant.ofEpochMilli(moment + margin))
            .get(0);
    Shape shape = partShape(schedule.recipe(), counter);
    int place = samples.covering(shape, moment);
    if (place < 0) {
      return Optional.empty();
    }
    double[] kept = new double[parts.length];
    kept[0] = samples.value()[place];
    for (int part = 1; part < kept.length; part++) {
      kept[part] = samples.below().get(part - 1)[place];
    }
    long elapsed = samples.elapsed()[place];
    long interval = samples.interval()[place];
    return Optional.of(
        new KeptThen(
            samples.at()[place],
            elapsed,
            interval,
            parts,
            kept,
            Work.value(counter, shape, kept, elapsed, interval)));
  }

  /**
   * What series of one instance were at a moment, as shown; NaN where there was nothing.
   *
   * @param parts as for {@link #points}
   * @return in the order of the series
   */
  public double[] moment(int instance, Map<SeriesRow, int[]> parts, long at) {
    Schedule schedule = recipes.scheduleOf(instance);
    Recipe recipe = schedule.recipe();
    List<SeriesRow> rows = List.copyOf(parts.keySet());
    double[] found = new double[rows.size()];
    reader.read(
        window(instance, schedule, rows, at, at, 0),
        rows.stream().map(parts::get).toList(),
        (i, stepped) -> {
          CounterDefinition counter = recipe.counters().get(rows.get(i).counter());
          found[i] = Charting.at(counter, partShape(recipe, counter), stepped, at);
        });
    return found;
  }

  /**
   * The figures of series of one instance over a window.
   *
   * @param parts as for {@link #points}
   * @return in the order of the series
   */
  public List<Figures> figures(int instance, Map<SeriesRow, int[]> parts, long from, long to) {
    Schedule schedule = recipes.scheduleOf(instance);
    Recipe recipe = schedule.recipe();
    List<SeriesRow> rows = List.copyOf(parts.keySet());
    Figures[] found = new Figures[rows.size()];
    reader.read(
        window(instance, schedule, rows, from, to, (to - from) / FINE),
        rows.stream().map(parts::get).toList(),
        (i, stepped) -> {
          CounterDefinition counter = recipe.counters().get(rows.get(i).counter());
          found[i] = Charting.figures(counter, partShape(recipe, counter), stepped, from, to);
        });
    return List.of(found);
  }

  /**
   * @param width how wide what is made of it is, ms
   */
  private static Window window(
      int instance, Schedule schedule, List<SeriesRow> rows, long from, long to, double width) {
    LongSummaryStatistics intervals =
        rows.stream()
            .mapToLong(row -> schedule.millis(schedule.recipe().counters().get(row.counter())))
            .summaryStatistics();
    return new Window(
        instance,
        from,
        to,
        Math.max(1, intervals.getMin()),
        MARGIN * Math.max(SELDOM, intervals.getMax()),
        width,
        true);
  }

  /**
   * Series of one counter of an instance over a window, each in one.
   *
   * @return in the order of the rows
   */
  public List<Summary> summaries(
      int instance, List<SeriesRow> rows, CounterDefinition counter, long from, long to) {
    Schedule schedule = recipes.scheduleOf(instance);
    Shape shape = partShape(schedule.recipe(), counter);
    Map<SeriesRow, int[]> parts = parts(instance, rows);
    Summary[] found = new Summary[rows.size()];
    reader.read(
        window(instance, schedule, rows, from, to, (to - from) / FINE),
        rows.stream().map(parts::get).toList(),
        (i, stepped) -> found[i] = Charting.summary(counter, shape, stepped, from, to));
    return List.of(found);
  }

  /** Takes the minutes of one series after the other. */
  @FunctionalInterface
  public interface TakingMinutes {
    void take(SeriesRow series, CounterDefinition counter, double[] means);
  }

  /**
   * The 1-minute means of all series of an instance.
   *
   * @param from start of the first minute, epoch ms
   * @param taking gets of each series its minutes; NaN for a gap, a thin step or too few. Of a
   *     series that is read less often than once a minute there is one value per reading
   */
  public void minutes(int instance, long from, int minutes, TakingMinutes taking) {
    List<SeriesRow> rows = learned(instance);
    minutes(instance, partsOfAll(instance, rows), from, minutes, taking);
  }

  /** The series of an instance that are learned: labels that are gone for good are no more. */
  public List<SeriesRow> learned(int instance) {
    Recipe recipe = recipes.ofInstance(instance);
    return store.series().alive(instance).stream()
        .filter(row -> recipe.counters().containsKey(row.counter()))
        .toList();
  }

  /** As above, of some series of an instance. */
  public void minutes(
      int instance, List<SeriesRow> rows, long from, int minutes, TakingMinutes taking) {
    minutes(instance, parts(instance, rows), from, minutes, taking);
  }

  private void minutes(
      int instance, Map<SeriesRow, int[]> parts, long from, int minutes, TakingMinutes taking) {
    Schedule schedule = recipes.scheduleOf(instance);
    means(
        instance,
        parts,
        from,
        Timeline.MINUTE,
        minutes,
        (series, counter, means) -> {
          thinOut(means, from, (int) (schedule.millis(counter) / Timeline.MINUTE));
          taking.take(series, counter, means);
        });
  }

  /**
   * The means of series of an instance in steps.
   *
   * @param from begin of the first step, epoch ms
   * @param width of a step, ms: whole minutes
   * @param taking gets of each series its steps; NaN for a gap, a thin step or too few
   */
  public void means(
      int instance, List<SeriesRow> rows, long from, long width, int steps, TakingMinutes taking) {
    means(instance, parts(instance, rows), from, width, steps, taking);
  }

  private void means(
      int instance,
      Map<SeriesRow, int[]> parts,
      long from,
      long width,
      int steps,
      TakingMinutes taking) {
    if (parts.isEmpty() || steps == 0) {
      return;
    }
    Schedule schedule = recipes.scheduleOf(instance);
    Recipe recipe = schedule.recipe();
    List<SeriesRow> rows = List.copyOf(parts.keySet());
    // as wide as what fits such steps
    long to = from + steps * width;
    reader.readApart(
        window(instance, schedule, rows, from, to, 2.0 * width).ofMeans(),
        rows.stream().map(parts::get).toList(),
        (i, stepped) -> {
          CounterDefinition counter = recipe.counters().get(rows.get(i).counter());
          double[] means =
              Charting.steps(counter, partShape(recipe, counter), stepped, from, width, steps);
          taking.take(rows.get(i), counter, means);
        });
  }

  private static void thinOut(double[] means, long begin, int every) {
    long minute = begin / Timeline.MINUTE;
    for (int i = 0; every > 1 && i < means.length; i++) {
      if ((minute + i) % every != 0) {
        means[i] = Double.NaN;
      }
    }
  }

  /**
   * Per series of one instance those that were read: the series itself, or of a quotient those that
   * it is made of.
   */
  public Map<SeriesRow, int[]> parts(int instance, List<SeriesRow> rows) {
    Recipe recipe = recipes.ofInstance(instance);
    boolean made = rows.stream().anyMatch(row -> isQuotient(recipe, row));
    Map<SeriesRow, int[]> all = parts(recipe, made ? store.series().ofInstance(instance) : rows);
    Map<SeriesRow, int[]> theirs = new LinkedHashMap<>();
    rows.forEach(row -> theirs.put(row, all.get(row)));
    return theirs;
  }

  /** As above, of all that are there: what they are made of is mostly among them. */
  private Map<SeriesRow, int[]> partsOfAll(int instance, List<SeriesRow> rows) {
    Map<SeriesRow, int[]> theirs = new LinkedHashMap<>();
    Map<SeriesRow, int[]> all = parts(recipes.ofInstance(instance), rows);
    rows.forEach(row -> theirs.put(row, all.get(row)));
    boolean whole = theirs.values().stream().flatMapToInt(IntStream::of).allMatch(id -> id > 0);
    return whole ? theirs : parts(instance, rows);
  }

  private static boolean isQuotient(Recipe recipe, SeriesRow row) {
    return recipe.counter(row.counter()).filter(c -> c.shape() == Shape.QUOTIENT).isPresent();
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
        parts.put(
            row,
            counter.parts().stream()
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

  /** The shape of what is read of a counter: of a quotient that of its parts. */
  public static Shape partShape(Recipe recipe, CounterDefinition counter) {
    return recipe.counters().get(counter.parts().get(0)).shape();
  }
}
