package jamjar.server.together;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.baseline.Departing;
import jamjar.core.baseline.Departing.Departure;
import jamjar.core.baseline.Normal;
import jamjar.core.compare.Across;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.InForce;
import jamjar.server.limits.LimitInForce;
import jamjar.server.limits.LiveJudge;
import jamjar.server.normals.NormalsService;
import jamjar.server.problems.Times;
import jamjar.server.readings.LabelWords;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.series.Unread;
import jamjar.server.watch.Watch;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Instances in one table: what some counters are on each, and across them. */
@Component
class TogetherTable {
  private final Store store;
  private final Watch watch;
  private final LiveJudge judge;
  private final NormalsService normals;
  private final SeriesSamples samples;
  private final LabelWords words;
  private final Unread unread;
  private final Many many;
  private final Clock clock;

  TogetherTable(
      Store store,
      Watch watch,
      LiveJudge judge,
      NormalsService normals,
      SeriesSamples samples,
      LabelWords words,
      Unread unread,
      Many many,
      Clock clock) {
    this.store = store;
    this.watch = watch;
    this.judge = judge;
    this.normals = normals;
    this.samples = samples;
    this.words = words;
    this.unread = unread;
    this.many = many;
    this.clock = clock;
  }

  /**
   * @param at epoch ms; empty for now
   */
  TogetherView of(
      List<InstanceRow> instances,
      List<CounterDefinition> columns,
      Map<String, CounterDefinition> choices,
      Optional<Long> at) {
    List<TogetherView.Row> rows = instances.stream().map(row -> row(row, columns, at)).toList();
    return new TogetherView(
        columns.stream().map(TogetherTable::column).toList(),
        choices.values().stream()
            .map(c -> new TogetherView.Choice(c.key(), c.title(), c.group()))
            .toList(),
        rows,
        sums(rows, columns));
  }

  private static TogetherView.Column column(CounterDefinition counter) {
    return new TogetherView.Column(
        counter.key(),
        counter.title(),
        counter.unit(),
        counter.meaning(),
        counter.worse().name().toLowerCase(Locale.ROOT),
        sums(counter));
  }

  /** Shares and times of several do not add up. */
  private static boolean sums(CounterDefinition counter) {
    return counter.shape() == Shape.TOTAL
        || counter.shape() == Shape.LEVEL && !List.of("%", "s").contains(counter.unit());
  }

  /**
   * A series, how it is, and what of it is normal.
   *
   * @param why why there is no value; empty where there is one
   * @param departure how far it has left its normal now; null where it has not
   * @param left how far it is outside of it, in spreads; 0 where it is not
   */
  private record Told(
      int series,
      Map<String, String> labels,
      double value,
      String why,
      Normal normal,
      Departure departure,
      double left) {}

  private TogetherView.Row row(
      InstanceRow instance, List<CounterDefinition> columns, Optional<Long> at) {
    Map<String, List<Told>> told =
        at.isPresent() ? then(instance, columns, at.get()) : now(instance, columns);
    Map<Integer, List<InForce>> limits = judge.inForce(instance.id());
    return new TogetherView.Row(
        instance.id(),
        instance.name(),
        instance.groupName(),
        instance.site(),
        watch.state(instance.id()).map(state -> state.state().word()).orElse(""),
        columns.stream()
            .map(
                counter ->
                    told.getOrDefault(counter.key(), List.of()).stream()
                        .max(worst(counter))
                        .map(
                            worst ->
                                cell(
                                    instance,
                                    worst,
                                    limits.getOrDefault(worst.series(), List.of())))
                        .orElseGet(() -> none(instance, counter)))
            .toList());
  }

  private TogetherView.Cell none(InstanceRow instance, CounterDefinition counter) {
    boolean has = many.counter(instance, counter.key()).isPresent();
    return new TogetherView.Cell(
        0,
        Map.of(),
        "",
        null,
        has ? "none there" : "not of its recipe",
        null,
        null,
        null,
        List.of());
  }

  private TogetherView.Cell cell(InstanceRow instance, Told told, List<InForce> limits) {
    return new TogetherView.Cell(
        told.series(),
        told.labels(),
        words.of(instance.id(), told.labels()),
        told.why().isEmpty() ? known(told.value()) : null,
        told.why(),
        known(told.normal().p05()),
        known(told.normal().p95()),
        told.departure() == null ? null : told.departure().distance(),
        limits.stream().map(inForce -> LimitInForce.of(told.series(), inForce)).toList());
  }

  /**
   * Which of several labels stands for all: what has left its normal the farthest, else by value.
   */
  private static Comparator<Told> worst(CounterDefinition counter) {
    return Comparator.comparingDouble(Told::left)
        .thenComparingDouble(
            told ->
                Double.isNaN(told.value())
                    ? Double.NEGATIVE_INFINITY
                    : counter.worse() == Worse.DOWN ? -told.value() : told.value());
  }

  /** What the latest reading told; the store is asked only of what that does not hold. */
  private Map<String, List<Told>> now(InstanceRow instance, List<CounterDefinition> columns) {
    long at = clock.millis();
    Map<Integer, Departure> departed = watch.departed(instance.id());
    Set<String> wanted = columns.stream().map(CounterDefinition::key).collect(Collectors.toSet());
    Map<String, List<Told>> told = new HashMap<>();
    watch
        .latest(instance.id())
        .forEach(
            (id, shown) -> {
              String counter = shown.series().counter();
              if (wanted.remove(counter) || told.containsKey(counter)) {
                Departure departure = departed.get(id);
                told.computeIfAbsent(counter, key -> new ArrayList<>())
                    .add(
                        new Told(
                            id,
                            shown.series().labels(),
                            shown.value(),
                            unread.why(instance, shown, null),
                            normals.now(instance.id(), id, at),
                            departure,
                            departure == null ? 0 : Math.abs(departure.distance())));
              }
            });
    told.replaceAll((counter, all) -> Many.standing(all, Told::labels));
    if (!wanted.isEmpty()) {
      told.putAll(notRead(instance, wanted));
    }
    return told;
  }

  private Map<String, List<Told>> notRead(InstanceRow instance, Set<String> counters) {
    Map<Integer, String> nothing = new HashMap<>();
    store.series().lasting(instance.id()).forEach(span -> nothing.put(span.series(), span.why()));
    Map<String, List<Told>> told = new HashMap<>();
    many.standing(instance, counters)
        .forEach(
            (counter, series) ->
                told.put(
                    counter,
                    series.stream()
                        .map(
                            row ->
                                new Told(
                                    row.id(),
                                    row.labels(),
                                    Double.NaN,
                                    unread.why(instance, null, nothing.get(row.id())),
                                    normals.now(instance.id(), row.id(), clock.millis()),
                                    null,
                                    0))
                        .toList()));
    return told;
  }

  private Map<String, List<Told>> then(
      InstanceRow instance, List<CounterDefinition> columns, long at) {
    Times.of("at", at);
    Map<String, CounterDefinition> counters =
        columns.stream().collect(Collectors.toMap(CounterDefinition::key, counter -> counter));
    Map<String, List<SeriesRow>> standing = many.standing(instance, counters.keySet());
    List<SeriesRow> series = standing.values().stream().flatMap(List::stream).toList();
    if (series.isEmpty()) {
      return Map.of();
    }
    Map<SeriesRow, int[]> parts = samples.parts(instance.id(), series);
    double[] values = samples.moment(instance.id(), parts, at);
    Map<Integer, Normal> usual =
        normals.at(instance.id(), series.stream().mapToInt(SeriesRow::id).toArray(), at);
    Map<String, List<Told>> told = new HashMap<>();
    int i = 0;
    for (SeriesRow row : parts.keySet()) {
      double value = values[i++];
      Normal normal = usual.getOrDefault(row.id(), Normal.NONE);
      CounterDefinition counter = counters.get(row.counter());
      double far = Math.abs(normal.distance(value, counter.matters(), counter.resolution()));
      told.computeIfAbsent(row.counter(), key -> new ArrayList<>())
          .add(
              new Told(
                  row.id(),
                  row.labels(),
                  value,
                  Double.isNaN(value) ? "nothing then" : "",
                  normal,
                  null,
                  far >= Departing.FAR ? far : 0));
    }
    return told;
  }

  private static List<TogetherView.Sum> sums(
      List<TogetherView.Row> rows, List<CounterDefinition> columns) {
    List<TogetherView.Sum> sums = new ArrayList<>();
    sums.add(sum("", rows, columns));
    Map<String, List<TogetherView.Row>> sites =
        rows.stream()
            .collect(
                Collectors.groupingBy(
                    TogetherView.Row::site, LinkedHashMap::new, Collectors.toList()));
    if (sites.size() > 1) {
      sites.forEach((site, theirs) -> sums.add(sum(site, theirs, columns)));
    }
    return sums;
  }

  private static TogetherView.Sum sum(
      String site, List<TogetherView.Row> rows, List<CounterDefinition> columns) {
    List<TogetherView.Figure> figures = new ArrayList<>();
    for (int c = 0; c < columns.size(); c++) {
      int column = c;
      Across across =
          Across.of(
              rows.stream()
                  .map(row -> row.cells().get(column).value())
                  .mapToDouble(value -> value == null ? Double.NaN : value)
                  .toArray());
      figures.add(
          new TogetherView.Figure(
              across.n(),
              sums(columns.get(c)) ? known(across.sum()) : null,
              known(across.mean()),
              known(across.least()),
              known(across.greatest()),
              known(across.overMedian())));
    }
    return new TogetherView.Sum(site, rows.size(), figures);
  }
}
