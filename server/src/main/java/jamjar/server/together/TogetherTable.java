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
import jamjar.core.reading.Shown;
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

  /** A series, how it is, and what of it is normal. */
  private record Told(SeriesRow series, Shown shown, double value, Normal normal) {}

  private TogetherView.Row row(
      InstanceRow instance, List<CounterDefinition> columns, Optional<Long> at) {
    Map<String, List<SeriesRow>> standing =
        many.standing(instance, columns.stream().map(CounterDefinition::key).toList());
    List<SeriesRow> all = standing.values().stream().flatMap(List::stream).toList();
    Map<SeriesRow, Told> told = at.isPresent() ? then(instance, all, at.get()) : now(instance, all);
    Map<Integer, List<InForce>> limits = judge.inForce(instance.id());
    Map<Integer, Departure> departed = at.isPresent() ? Map.of() : watch.departed(instance.id());
    Map<Integer, String> nothing = new HashMap<>();
    store.series().lasting(instance.id()).forEach(span -> nothing.put(span.series(), span.why()));
    List<TogetherView.Cell> cells = new ArrayList<>();
    for (CounterDefinition counter : columns) {
      cells.add(
          standing.getOrDefault(counter.key(), List.of()).stream()
              .map(told::get)
              .max(worst(counter, departed))
              .map(
                  worst ->
                      cell(
                          instance,
                          worst,
                          at.isPresent()
                              ? (Double.isNaN(worst.value()) ? "nothing then" : "")
                              : unread.why(
                                  instance, worst.shown(), nothing.get(worst.series().id())),
                          departed.get(worst.series().id()),
                          limits.getOrDefault(worst.series().id(), List.of())))
              .orElseGet(() -> none(instance, counter)));
    }
    return new TogetherView.Row(
        instance.id(),
        instance.name(),
        instance.groupName(),
        instance.site(),
        watch.state(instance.id()).map(state -> state.state().word()).orElse(""),
        cells);
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

  private TogetherView.Cell cell(
      InstanceRow instance, Told told, String why, Departure departure, List<InForce> limits) {
    SeriesRow series = told.series();
    return new TogetherView.Cell(
        series.id(),
        series.labels(),
        words.of(instance.id(), series.labels()),
        why.isEmpty() ? known(told.value()) : null,
        why,
        known(told.normal().p05()),
        known(told.normal().p95()),
        departure == null ? null : departure.distance(),
        limits.stream().map(inForce -> LimitInForce.of(series.id(), inForce)).toList());
  }

  /**
   * Which of several labels stands for all: what has left its normal the farthest, else by value.
   */
  private static Comparator<Told> worst(
      CounterDefinition counter, Map<Integer, Departure> departed) {
    return Comparator.<Told>comparingDouble(told -> left(counter, told, departed))
        .thenComparingDouble(
            told ->
                Double.isNaN(told.value())
                    ? Double.NEGATIVE_INFINITY
                    : counter.worse() == Worse.DOWN ? -told.value() : told.value());
  }

  /** How far it has left its normal, in spreads; 0 where it has not. */
  private static double left(
      CounterDefinition counter, Told told, Map<Integer, Departure> departed) {
    Departure now = departed.get(told.series().id());
    double distance =
        told.shown() == null
            ? told.normal().distance(told.value(), counter.matters(), counter.resolution())
            : now == null ? 0 : now.distance();
    return Math.abs(distance) >= Departing.FAR ? Math.abs(distance) : 0;
  }

  private Map<SeriesRow, Told> now(InstanceRow instance, List<SeriesRow> series) {
    Map<Integer, Shown> latest = watch.latest(instance.id());
    long at = clock.millis();
    Map<SeriesRow, Told> told = new HashMap<>();
    for (SeriesRow row : series) {
      Shown shown = latest.get(row.id());
      told.put(
          row,
          new Told(
              row,
              shown,
              shown == null ? Double.NaN : shown.value(),
              normals.now(instance.id(), row.id(), at)));
    }
    return told;
  }

  private Map<SeriesRow, Told> then(InstanceRow instance, List<SeriesRow> series, long at) {
    Times.of("at", at);
    Map<SeriesRow, Told> told = new HashMap<>();
    if (series.isEmpty()) {
      return told;
    }
    Map<SeriesRow, int[]> parts = samples.parts(instance.id(), series);
    double[] values = samples.moment(instance.id(), parts, at);
    Map<Integer, Normal> usual =
        normals.at(instance.id(), series.stream().mapToInt(SeriesRow::id).toArray(), at);
    int i = 0;
    for (SeriesRow row : parts.keySet()) {
      Normal normal = usual.getOrDefault(row.id(), Normal.NONE);
      told.put(row, new Told(row, null, values[i++], normal));
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
