package jamjar.server.compare;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Quantiles;
import jamjar.core.baseline.Timeline;
import jamjar.core.compare.Comparison;
import jamjar.core.compare.Comparison.Verdict;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.server.problems.OneAtATime;
import jamjar.server.readings.LabelWords;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.springframework.stereotype.Component;

/** Compares all series of an instance. */
@Component
class SeriesCompared {
  /** So many weeks before tell how much a series changes anyway. */
  private static final int WEEKS = 4;

  private static final long QUARTER = 15 * Timeline.MINUTE;
  private static final String BOTH = "both";

  /** A label that changed by so much of what the whole did is the whole. */
  private static final double NEARLY_ALL = 0.9;

  /** What an instance does; the first of them that it counts. */
  private static final List<String> WORK =
      List.of("transactions.committed", "requests.served", "component.calls");

  private final Store store;
  private final SeriesSamples samples;
  private final Recipes recipes;
  private final LabelWords words;

  /** It reads six stretches of all series: one after the other. */
  private final OneAtATime one = new OneAtATime("Others just compare.");

  SeriesCompared(Store store, SeriesSamples samples, Recipes recipes, LabelWords words) {
    this.store = store;
    this.samples = samples;
    this.recipes = recipes;
    this.words = words;
  }

  /**
   * With what it is compared.
   *
   * @param instances other ones, the middle of which counts; empty for none
   * @param frozen what is kept under that number; 0 for nothing
   */
  record Other(List<Integer> instances, int frozen) {
    static final Other SELF = new Other(List.of(), 0);
  }

  record Told(List<CompareView.Row> rows, int same, int notComparable) {}

  private record Key(String counter, Map<String, String> labels) {
    static Key of(SeriesRow row) {
      return new Key(row.counter(), row.labels());
    }
  }

  Told of(InstanceRow row, Stretches two, Other other) {
    return one.answer(() -> compared(row, two, other));
  }

  private Told compared(InstanceRow row, Stretches two, Other other) {
    Recipe recipe = recipes.ofInstance(row.id());
    List<SeriesRow> all = samples.learned(row.id());
    Map<Key, double[]> after = means(row.id(), all, two.after(), two);
    Map<Key, double[]> before = before(row, all, two, other);
    List<Map<Key, double[]>> weeks = new ArrayList<>();
    for (int week = 1; week <= WEEKS; week++) {
      weeks.add(means(row.id(), all, two.before() - week * Stretches.WEEK, two));
    }
    double[] none = new double[two.steps()];
    Arrays.fill(none, Double.NaN);
    Key work = work(after.keySet());
    Map<Key, Integer> beside = beside(all, other);
    List<CompareView.Row> rows = new ArrayList<>();
    int same = 0;
    int notComparable = 0;
    for (SeriesRow one : all) {
      CounterDefinition counter = recipe.counters().get(one.counter());
      Key key = Key.of(one);
      Comparison told =
          Comparison.of(
              before.getOrDefault(key, none),
              after.getOrDefault(key, none),
              weeks.stream().map(week -> week.getOrDefault(key, none)).toList(),
              counter.matters());
      if (told.verdict() == Verdict.NOT_COMPARABLE) {
        // who has no value in either is not missed
        notComparable += Double.isNaN(told.before()) && Double.isNaN(told.after()) ? 0 : 1;
      } else if (told.verdict() == Verdict.SAME) {
        same++;
      } else {
        boolean each = counter.shape() == Shape.TOTAL && work != null && !key.equals(work);
        Double perWork =
            each
                ? perWork(before.get(key), after.get(key), before.get(work), after.get(work))
                : null;
        rows.add(row(row, one, beside.get(key), counter, told, perWork));
      }
    }
    dropOnlyLabels(rows, all);
    // what is neither better nor worse comes after
    rows.sort(
        Comparator.comparing((CompareView.Row one) -> one.worse().equals(BOTH))
            .thenComparing(one -> -one.size()));
    return new Told(rows, same, notComparable);
  }

  /** One label that says what the whole says is left out. */
  private static void dropOnlyLabels(List<CompareView.Row> rows, List<SeriesRow> all) {
    Map<String, Integer> labels = new HashMap<>();
    all.stream()
        .filter(one -> !one.labels().isEmpty())
        .forEach(one -> labels.merge(one.counter(), 1, Integer::sum));
    Map<String, Double> whole = new HashMap<>();
    rows.stream()
        .filter(row -> row.labels().isEmpty())
        .forEach(row -> whole.put(row.counter(), Math.abs(row.shift())));
    rows.removeIf(
        row ->
            !row.labels().isEmpty()
                && whole.containsKey(row.counter())
                && (labels.get(row.counter()) == 1
                    || Math.abs(row.shift()) >= NEARLY_ALL * whole.get(row.counter())));
  }

  private Map<Key, double[]> before(
      InstanceRow row, List<SeriesRow> all, Stretches two, Other other) {
    if (!other.instances().isEmpty()) {
      return middle(
          other.instances().stream()
              .map(one -> means(one, samples.learned(one), two.before(), two))
              .toList());
    }
    if (other.frozen() != 0) {
      Map<Key, double[]> kept = new HashMap<>();
      ZoneId zone = ZoneId.of(row.zone());
      for (SeriesRow one : all) {
        store
            .normals()
            .frozen(other.frozen(), one.id())
            .ifPresent(week -> kept.put(Key.of(one), middles(week, zone, two)));
      }
      return kept;
    }
    return means(row.id(), all, two.before(), two);
  }

  /**
   * The series that can be drawn beside: of what is kept as normal, and of several, there is none.
   */
  private Map<Key, Integer> beside(List<SeriesRow> all, Other other) {
    if (other.frozen() != 0 || other.instances().size() > 1) {
      return Map.of();
    }
    return (other.instances().isEmpty() ? all : samples.learned(other.instances().get(0)))
        .stream().collect(Collectors.toMap(Key::of, SeriesRow::id, (one, same) -> one));
  }

  /** Of each series, in each step, the middle of those that have a value. */
  private static Map<Key, double[]> middle(List<Map<Key, double[]>> all) {
    Map<Key, List<double[]>> together = new HashMap<>();
    all.forEach(
        one ->
            one.forEach(
                (key, means) -> together.computeIfAbsent(key, k -> new ArrayList<>()).add(means)));
    Map<Key, double[]> middle = new HashMap<>();
    together.forEach(
        (key, theirs) ->
            middle.put(
                key,
                IntStream.range(0, theirs.get(0).length)
                    .mapToDouble(step -> middle(theirs, step))
                    .toArray()));
    return middle;
  }

  private static double middle(List<double[]> all, int step) {
    double[] known =
        all.stream()
            .mapToDouble(means -> means[step])
            .filter(value -> !Double.isNaN(value))
            .sorted()
            .toArray();
    return known.length == 0 ? Double.NaN : Quantiles.linear(known, 0.5);
  }

  /** What is kept as normal in each step: the mean of the middles of its quarter-hours. */
  private static double[] middles(Baseline week, ZoneId zone, Stretches two) {
    double[] means = new double[two.steps()];
    for (int i = 0; i < means.length; i++) {
      long begin = two.after() + i * two.step();
      double sum = 0;
      int n = 0;
      for (long at = begin; at < begin + two.step(); at += QUARTER) {
        sum += week.at(Timeline.slotOf(at, zone, Set.of())).p50();
        n++;
      }
      means[i] = sum / n;
    }
    return means;
  }

  private Map<Key, double[]> means(int instance, List<SeriesRow> rows, long from, Stretches two) {
    Map<Key, double[]> found = new HashMap<>();
    samples.means(
        instance,
        rows,
        from,
        two.step(),
        two.steps(),
        (series, counter, means) -> found.put(Key.of(series), means));
    return found;
  }

  private static Key work(Set<Key> keys) {
    for (String counter : WORK) {
      List<Key> theirs = keys.stream().filter(key -> key.counter().equals(counter)).toList();
      if (!theirs.isEmpty()) {
        return theirs.stream()
            .filter(key -> key.labels().isEmpty())
            .findFirst()
            .orElse(theirs.size() == 1 ? theirs.get(0) : null);
      }
    }
    return null;
  }

  /** By what part it is more for each unit of work; null where there was no work in one of them. */
  private static Double perWork(
      double[] before, double[] after, double[] workBefore, double[] workAfter) {
    if (workBefore == null || workAfter == null) {
      return null;
    }
    double was = mean(before) / mean(workBefore);
    double is = mean(after) / mean(workAfter);
    return known(is / was - 1);
  }

  private static double mean(double[] values) {
    return Arrays.stream(values).filter(v -> !Double.isNaN(v)).average().orElse(Double.NaN);
  }

  private CompareView.Row row(
      InstanceRow of,
      SeriesRow one,
      Integer beside,
      CounterDefinition counter,
      Comparison told,
      Double perWork) {
    return new CompareView.Row(
        one.id(),
        beside,
        counter.key(),
        counter.title(),
        one.labels(),
        words.of(of.id(), one.labels()),
        counter.unit(),
        counter.worse().name().toLowerCase(Locale.ROOT),
        told.before(),
        told.after(),
        told.shift(),
        known(told.usual()),
        told.verdict().name().toLowerCase(Locale.ROOT),
        told.size(counter.matters()),
        perWork);
  }
}
