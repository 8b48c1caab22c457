package jamjar.server.limits;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.chart.Samples;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Limit;
import jamjar.core.limit.PastJudgings;
import jamjar.server.normals.NormalsService;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.LongFunction;
import org.springframework.stereotype.Component;

/** Reads the past of series as limits would judge it, and keeps it for a while. */
@Component
class PastReader {
  private static final Duration KEPT = Duration.ofMinutes(10);

  /** So many judgings are kept, of all: 25 bytes each. */
  private static final long MOST = 1_500_000;

  private static final long WEEK = Duration.ofDays(7).toMillis();
  private static final long LEARNED = Duration.ofDays(35).toMillis();

  private final Store store;
  private final SeriesSamples samples;
  private final NormalsService normals;
  private final Recipes recipes;
  private final Cache<Key, PastJudgings> kept =
      Caffeine.newBuilder()
          .maximumWeight(MOST)
          .weigher((Key key, PastJudgings past) -> past.size() + 1)
          .expireAfterWrite(KEPT)
          .build();

  private record Key(
      int series, long step, Condition condition, double against, long from, long to) {}

  PastReader(Store store, SeriesSamples samples, NormalsService normals, Recipes recipes) {
    this.store = store;
    this.samples = samples;
    this.normals = normals;
    this.recipes = recipes;
  }

  /**
   * @param limit by which it would be judged; outside normal each week against what was learned
   *     from the weeks before it
   * @param from epoch ms
   */
  PastJudgings read(InstanceRow row, SeriesRow series, Limit limit, long from, long to) {
    return kept.get(
        new Key(series.id(), limit.stepMillis(), judgedAs(limit), limit.against(), from, to),
        key -> readOnce(row, series, limit, from, to));
  }

  /** As above, of what is not wanted again. */
  PastJudgings readOnce(InstanceRow row, SeriesRow series, Limit limit, long from, long to) {
    Recipe recipe = recipes.of(row);
    CounterDefinition counter = recipe.counters().get(series.counter());
    int[] parts = samples.parts(row.id(), List.of(series)).get(series);
    Samples read =
        store
            .readings()
            .samples(row.id(), parts, Instant.ofEpochMilli(from), Instant.ofEpochMilli(to));
    if (limit.condition() == Condition.OVERDUE) {
      return PastJudgings.overdue(read, limit);
    }
    PastJudgings past =
        PastJudgings.of(
            counter, SeriesSamples.partShape(recipe, counter), read, limit.stepMillis());
    return limit.condition() == Condition.OUTSIDE
        ? past.against(counter, asKnown(row, series, counter, from, to))
        : past;
  }

  /** Above and below are judged by the same values. */
  private static Condition judgedAs(Limit limit) {
    return limit.condition() == Condition.BELOW ? Condition.ABOVE : limit.condition();
  }

  private LongFunction<Normal> asKnown(
      InstanceRow row, SeriesRow series, CounterDefinition counter, long from, long to) {
    List<Baseline> weeks = new ArrayList<>();
    for (long week = from; week < to; week += WEEK) {
      weeks.add(learned(row, series, counter, week));
    }
    ZoneId zone = ZoneId.of(row.zone());
    Set<LocalDate> holidays = normals.holidays(row);
    return at ->
        weeks
            .get((int) Math.max(0, Math.min(weeks.size() - 1, (at - 1 - from) / WEEK)))
            .at(Timeline.slotOf(at - 1, zone, holidays));
  }

  private Baseline learned(
      InstanceRow row, SeriesRow series, CounterDefinition counter, long until) {
    long end = Math.floorDiv(until, Timeline.MINUTE) * Timeline.MINUTE;
    long begin =
        store
            .readings()
            .firstAt(row.id(), Instant.ofEpochMilli(end - LEARNED))
            .map(at -> Math.floorDiv(at.toEpochMilli(), Timeline.MINUTE) * Timeline.MINUTE)
            .orElse(end);
    int minutes = (int) Math.max(0, (end - begin) / Timeline.MINUTE);
    Baseline[] found = {null};
    samples.minutes(
        row.id(),
        List.of(series),
        begin,
        minutes,
        (one, of, values) ->
            found[0] = Baseline.learn(normals.timeline(row, begin, minutes), values, counter));
    return found[0] == null ? Baseline.NONE : found[0];
  }
}
