package jamjar.server.points;

import jamjar.core.baseline.Normal;
import jamjar.core.chart.Figures;
import jamjar.core.chart.Points;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Schedule;
import jamjar.core.counter.WhyNothing;
import jamjar.core.value.Value;
import jamjar.core.watching.Gap;
import jamjar.server.normals.NormalsService;
import jamjar.server.numbers.Numbers;
import jamjar.server.points.SeriesPoints.NothingBecause;
import jamjar.server.problems.Problem;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.Scopes;
import jamjar.server.security.Sight;
import jamjar.store.Store;
import jamjar.store.series.NothingSpan;
import jamjar.store.series.SeriesRow;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.function.ToDoubleFunction;
import java.util.stream.DoubleStream;
import java.util.stream.IntStream;
import org.springframework.stereotype.Service;

/** Reads windows of series from the store and makes them into points. */
@Service
public class PointsService {
  private final Store store;
  private final Scopes scopes;
  private final SeriesSamples samples;
  private final NormalsService normals;
  private final Recipes recipes;
  private final Clock clock;

  PointsService(
      Store store,
      Scopes scopes,
      SeriesSamples samples,
      NormalsService normals,
      Recipes recipes,
      Clock clock) {
    this.store = store;
    this.scopes = scopes;
    this.samples = samples;
    this.normals = normals;
    this.recipes = recipes;
    this.clock = clock;
  }

  public List<SeriesPoints> points(PointsBody body) {
    Map<Integer, SeriesPoints> found = new HashMap<>();
    List<Gap> gaps =
        store
            .watching()
            .touching(Instant.ofEpochMilli(body.from()), Instant.ofEpochMilli(body.to()));
    ofInstances(body.series())
        .forEach((instance, theirs) -> add(found, instance, theirs, gaps, body));
    return body.series().stream().map(found::get).toList();
  }

  List<MomentValue> moment(MomentBody body) {
    Map<Integer, MomentValue> found = new HashMap<>();
    ofInstances(body.series())
        .forEach(
            (instance, theirs) -> {
              double[] values =
                  samples.moment(instance, samples.parts(instance, theirs), body.at());
              int[] ids = theirs.stream().mapToInt(SeriesRow::id).toArray();
              Map<Integer, Normal> usual = normals.at(instance, ids, body.at());
              for (int i = 0; i < values.length; i++) {
                int series = theirs.get(i).id();
                Normal normal = usual.getOrDefault(series, Normal.NONE);
                found.put(
                    series,
                    new MomentValue(
                        series,
                        Numbers.known(values[i]),
                        Numbers.known(normal.p05()),
                        Numbers.known(normal.p95())));
              }
            });
    return body.series().stream().map(found::get).toList();
  }

  List<SeriesFigures> figures(FiguresBody body) {
    Map<Integer, SeriesFigures> found = new HashMap<>();
    ofInstances(body.series())
        .forEach(
            (instance, theirs) -> {
              List<Figures> all =
                  samples.figures(
                      instance, samples.parts(instance, theirs), body.from(), body.to());
              for (int i = 0; i < all.size(); i++) {
                int series = theirs.get(i).id();
                found.put(series, SeriesFigures.of(series, all.get(i)));
              }
            });
    return body.series().stream().map(found::get).toList();
  }

  /** The series by their instances, each once. */
  private Map<Integer, List<SeriesRow>> ofInstances(List<Integer> series) {
    int[] ids = series.stream().mapToInt(Integer::intValue).distinct().toArray();
    Map<Integer, SeriesRow> rows = new HashMap<>();
    store.series().byIds(ids).forEach(row -> rows.put(row.id(), row));
    Map<Integer, List<SeriesRow>> found = new LinkedHashMap<>();
    Sight sight = scopes.sight();
    for (int id : ids) {
      SeriesRow row = rows.get(id);
      if (row == null || !sight.holds(row.instance())) {
        throw Problem.unknown("There is no series " + id + ".");
      }
      if (recipes.ofInstance(row.instance()).counter(row.counter()).isEmpty()) {
        throw Problem.unknown("No recipe holds " + row.counter() + " now.");
      }
      found.computeIfAbsent(row.instance(), i -> new ArrayList<>()).add(row);
    }
    return found;
  }

  private void add(
      Map<Integer, SeriesPoints> found,
      int instance,
      List<SeriesRow> rows,
      List<Gap> gaps,
      PointsBody body) {
    Map<SeriesRow, int[]> parts = samples.parts(instance, rows);
    List<Points> points = samples.points(instance, parts, body.from(), body.to(), body.maxPoints());
    Why why = new Why(instance, parts, gaps, body);
    for (int i = 0; i < rows.size(); i++) {
      found.put(rows.get(i).id(), one(rows.get(i), points.get(i), why.spans(rows.get(i)), body));
    }
  }

  private SeriesPoints one(
      SeriesRow row, Points points, List<NothingBecause> spans, PointsBody body) {
    boolean wanted = Boolean.TRUE.equals(body.normal());
    List<Normal> normal =
        wanted
            ? Arrays.stream(points.at()).mapToObj(normals.at(row.instance(), row.id())).toList()
            : List.of();
    OptionalLong learnedAfter =
        wanted && points.at().length > 0
            ? normals.learnedAfter(row.instance(), row.id(), points.at()[0])
            : OptionalLong.empty();
    return new SeriesPoints(
        row.id(),
        Arrays.stream(points.at()).boxed().toList(),
        boxed(points.mean()),
        boxed(points.min()),
        boxed(points.max()),
        spans,
        of(normal, Normal::p05),
        of(normal, Normal::p50),
        of(normal, Normal::p95),
        learnedAfter.isPresent() ? learnedAfter.getAsLong() : null);
  }

  private static List<Double> of(List<Normal> normal, ToDoubleFunction<Normal> quantile) {
    return boxed(normal.stream().mapToDouble(quantile).toArray());
  }

  /** Why series of an instance have nothing, each asked of the store once for all of them. */
  private final class Why {
    private final PointsBody body;
    private final Map<SeriesRow, int[]> parts;
    private final List<Gap> gaps;
    private final List<Silence> silences;
    private final List<NothingSpan> nothing;
    private final long end;

    Why(int instance, Map<SeriesRow, int[]> parts, List<Gap> gaps, PointsBody body) {
      Instant from = Instant.ofEpochMilli(body.from());
      Instant to = Instant.ofEpochMilli(body.to());
      this.body = body;
      this.parts = parts;
      this.gaps = gaps;
      this.silences = store.silences().touching(instance, from, to);
      int[] all = parts.values().stream().flatMapToInt(IntStream::of).distinct().toArray();
      this.nothing = store.series().touching(all, from, to);
      this.end = Math.min(body.to(), clock.millis());
    }

    List<NothingBecause> spans(SeriesRow row) {
      Schedule schedule = recipes.scheduleOf(row.instance());
      CounterDefinition counter = schedule.recipe().counters().get(row.counter());
      Pace source = schedule.recipe().pace(counter);
      long interval = schedule.millis(counter);
      int[] made = parts.get(row);
      List<NothingBecause> spans = new ArrayList<>();
      silences.stream()
          .filter(silence -> silence.source() == source.code())
          .forEach(s -> spans.add(span(s.from(), s.to(), s.words(), body.from(), end)));
      nothing.stream()
          .filter(span -> IntStream.of(made).anyMatch(id -> id == span.series()))
          .map(s -> span(s.from(), s.to(), WhyNothing.valueOf(s.why()).words(), body.from(), end))
          .distinct()
          .forEach(spans::add);
      gaps.stream()
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
