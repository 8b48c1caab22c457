package jamjar.server.moved;

import jamjar.core.baseline.Moved;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Schedule;
import jamjar.server.normals.NormalsService;
import jamjar.server.problems.OneAtATime;
import jamjar.server.problems.Problem;
import jamjar.server.problems.Times;
import jamjar.server.readings.SeriesSamples;
import jamjar.server.recipes.Recipes;
import jamjar.server.security.Scopes;
import jamjar.server.security.Those;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.series.SeriesRow;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongFunction;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What else moved: all series of the estate by how far they were outside of their normal. */
@RestController
@RequestMapping(path = "/api/moved", produces = "application/json")
class MovedController {
  private static final Duration LONGEST = Duration.ofHours(24);
  private static final int MOST = 500;

  private final Store store;
  private final Scopes scopes;
  private final MovedNow now;
  private final NormalsService normals;
  private final SeriesSamples samples;
  private final Recipes recipes;

  /** It reads all there is of a time: one after the other. */
  private final OneAtATime one = new OneAtATime("Others just ask what else moved.");

  MovedController(
      Store store,
      Scopes scopes,
      MovedNow now,
      NormalsService normals,
      SeriesSamples samples,
      Recipes recipes) {
    this.store = store;
    this.scopes = scopes;
    this.now = now;
    this.normals = normals;
    this.samples = samples;
    this.recipes = recipes;
  }

  /** What was found, of some instances. */
  private static final class Found {
    private final List<MovedView.Row> rows = new ArrayList<>();
    private int looked;

    synchronized void add(Found more) {
      rows.addAll(more.rows);
      looked += more.looked;
    }

    void add(MovedView more) {
      rows.addAll(more.rows());
      looked += more.looked();
    }
  }

  /**
   * What is outside of its normal now and has been for five minutes, or was so in a window.
   *
   * @param from epoch ms; without it and its end: now
   * @param of which instances
   * @param order distance or first
   */
  @GetMapping
  MovedView moved(
      @RequestParam(required = false) Long from,
      @RequestParam(required = false) Long to,
      @RequestParam(defaultValue = "") String of,
      @RequestParam(defaultValue = "distance") String order,
      @RequestParam(defaultValue = "100") int most) {
    if (!order.equals("distance") && !order.equals("first")) {
      throw Problem.field("order", "It is distance or first.");
    }
    if ((from == null) != (to == null)) {
      throw Problem.field("from", "A window has a begin and an end.");
    }
    Those those = new Those(of);
    List<InstanceRow> instances =
        scopes.instances().stream().filter(row -> !row.paused() && those.holds(row)).toList();
    Found found = new Found();
    if (from == null) {
      instances.forEach(row -> found.add(now.of(row)));
    } else {
      window(instances, from, to, found);
    }
    Comparator<MovedView.Row> far = Comparator.comparingDouble(row -> -Math.abs(row.distance()));
    found.rows.sort(
        order.equals("distance")
            ? far
            // who was outside before it begins did not leave in it
            : Comparator.comparing(MovedView.Row::before)
                .thenComparingLong(MovedView.Row::since)
                .thenComparing(far));
    return new MovedView(
        List.copyOf(found.rows.subList(0, Math.min(Math.min(most, MOST), found.rows.size()))),
        found.rows.size(),
        found.looked);
  }

  private void window(List<InstanceRow> instances, long from, long to, Found found) {
    Times.requireWindow(from, to);
    if (to - from > LONGEST.toMillis()) {
      throw Problem.field("from", "Ask for a day at most: of more all have moved.");
    }
    one.answer(() -> instances.parallelStream().map(row -> window(row, from, to)).toList())
        .forEach(found::add);
  }

  private Found window(InstanceRow row, long from, long to) {
    Found found = new Found();
    Schedule schedule = recipes.scheduleOf(row.id());
    long begin = Math.floorDiv(from, Timeline.MINUTE) * Timeline.MINUTE;
    int minutes = (int) Math.max(1, (to - begin) / Timeline.MINUTE);
    Map<Integer, Taken> taken = new HashMap<>();
    samples.minutes(
        row.id(),
        begin,
        minutes,
        (series, counter, means) -> taken.put(series.id(), new Taken(series, counter, means)));
    normals.within(
        row.id(),
        taken.keySet().stream().mapToInt(Integer::intValue).toArray(),
        begin,
        to,
        (series, normal) -> {
          found.looked++;
          taken
              .get(series)
              .moved(begin, normal, schedule)
              .ifPresent(
                  moved ->
                      found.rows.add(
                          now.row(
                              row,
                              series,
                              taken.get(series).counter(),
                              taken.get(series).series().labels(),
                              moved.since() == begin,
                              moved)));
        });
    return found;
  }

  private record Taken(SeriesRow series, CounterDefinition counter, double[] means) {
    Optional<Moved> moved(long from, LongFunction<Normal> normal, Schedule schedule) {
      return Moved.of(
          from, means, normal, counter.matters(), counter.resolution(), schedule.millis(counter));
    }
  }
}
