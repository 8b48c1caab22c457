package jamjar.server.points;

import jamjar.core.baseline.Normal;
import jamjar.core.chart.Points;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.WhyNothing;
import jamjar.core.value.Value;
import jamjar.server.normals.NormalsService;
import jamjar.server.numbers.Numbers;
import jamjar.server.points.SeriesPoints.NothingBecause;
import jamjar.server.problems.Problem;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.series.SeriesRow;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;
import java.util.stream.DoubleStream;
import org.springframework.stereotype.Service;

/** Reads windows of series from the store and makes them into points. */
@Service
class PointsService {
  private final Store store;
  private final SeriesSamples samples;
  private final NormalsService normals;
  private final Recipes recipes;
  private final Clock clock;

  PointsService(
      Store store, SeriesSamples samples, NormalsService normals, Recipes recipes, Clock clock) {
    this.store = store;
    this.samples = samples;
    this.normals = normals;
    this.recipes = recipes;
    this.clock = clock;
  }

  List<SeriesPoints> points(PointsBody body) {
    int[] ids = body.series().stream().mapToInt(Integer::intValue).toArray();
    Map<Integer, SeriesRow> rows = new HashMap<>();
    store.series().byIds(ids).forEach(row -> rows.put(row.id(), row));
    List<SeriesPoints> found = new ArrayList<>();
    for (int id : ids) {
      SeriesRow row = rows.get(id);
      if (row == null) {
        throw Problem.unknown("There is no series " + id + ".");
      }
      found.add(points(row, body));
    }
    return found;
  }

  private SeriesPoints points(SeriesRow row, PointsBody body) {
    CounterDefinition counter =
        recipes
            .ofInstance(row.instance())
            .counter(row.counter())
            .orElseThrow(() -> Problem.unknown("No recipe holds " + row.counter() + " now."));
    int[] parts = samples.parts(row, counter);
    Points points = samples.points(row, counter, body.from(), body.to(), body.maxPoints());
    List<Normal> normal =
        Boolean.TRUE.equals(body.normal())
            ? Arrays.stream(points.at())
                .mapToObj(at -> normals.at(row.instance(), row.id(), at))
                .toList()
            : List.of();
    return new SeriesPoints(
        row.id(),
        Arrays.stream(points.at()).boxed().toList(),
        boxed(points.mean()),
        boxed(points.min()),
        boxed(points.max()),
        spans(counter, row, parts, body),
        of(normal, Normal::p05),
        of(normal, Normal::p50),
        of(normal, Normal::p95));
  }

  private static List<Double> of(List<Normal> normal, ToDoubleFunction<Normal> quantile) {
    return boxed(normal.stream().mapToDouble(quantile).toArray());
  }

  private List<NothingBecause> spans(
      CounterDefinition counter, SeriesRow row, int[] parts, PointsBody body) {
    Instant from = Instant.ofEpochMilli(body.from());
    Instant to = Instant.ofEpochMilli(body.to());
    long end = Math.min(body.to(), clock.millis());
    List<NothingBecause> spans = new ArrayList<>();
    Pace source = recipes.ofInstance(row.instance()).pace(counter);
    store.silences().touching(row.instance(), from, to).stream()
        .filter(silence -> silence.source() == source.code())
        .forEach(
            silence ->
                spans.add(span(silence.from(), silence.to(), silence.words(), body.from(), end)));
    store.series().touching(parts, from, to).stream()
        .map(
            nothing ->
                span(
                    nothing.from(),
                    nothing.to(),
                    WhyNothing.valueOf(nothing.why()).words(),
                    body.from(),
                    end))
        .distinct()
        .forEach(spans::add);
    long interval = recipes.scheduleOf(row.instance()).millis(counter);
    store.watching().touching(from, to).stream()
        // shorter ones than a gap of the series itself are none of it
        .filter(gap -> !gap.overlaps() && !Value.covers(gap.lasted(), interval))
        .map(
            gap ->
                new NothingBecause(
                    Math.max(body.from(), gap.from()), Math.min(end, gap.to()), gap.words()))
        .forEach(spans::add);
    spans.sort(Comparator.comparingLong(NothingBecause::from));
    return spans;
  }

  private static NothingBecause span(Instant from, Instant to, String why, long least, long most) {
    return new NothingBecause(
        Math.max(least, from.toEpochMilli()),
        to == null ? most : Math.min(most, to.toEpochMilli()),
        why);
  }

  private static List<Double> boxed(double[] values) {
    List<Double> boxed = new ArrayList<>(values.length);
    DoubleStream.of(values).forEach(v -> boxed.add(Numbers.known(v)));
    return boxed;
  }
}
