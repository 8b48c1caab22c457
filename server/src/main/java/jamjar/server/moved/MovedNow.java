package jamjar.server.moved;

import static jamjar.server.numbers.Numbers.known;

import jamjar.core.baseline.Departing.Departure;
import jamjar.core.baseline.Moved;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Shown;
import jamjar.server.normals.NormalsService;
import jamjar.server.readings.LabelWords;
import jamjar.server.recipes.Recipes;
import jamjar.server.watch.Watch;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** What of an instance is outside of its normal now, and has been for five minutes. */
@Component
public class MovedNow {
  private static final long HELD = 5 * Timeline.MINUTE;

  private final Watch watch;
  private final NormalsService normals;
  private final Recipes recipes;
  private final LabelWords words;
  private final Clock clock;

  MovedNow(Watch watch, NormalsService normals, Recipes recipes, LabelWords words, Clock clock) {
    this.watch = watch;
    this.normals = normals;
    this.recipes = recipes;
    this.words = words;
    this.clock = clock;
  }

  /** In no order. */
  public MovedView of(InstanceRow row) {
    return held(row, HELD);
  }

  /**
   * As above.
   *
   * @param held for how long it is outside at least, ms
   */
  public MovedView held(InstanceRow row, long held) {
    Recipe recipe = recipes.of(row);
    Map<Integer, Shown> latest = watch.latest(row.id());
    Map<Integer, Departure> departed = watch.departed(row.id());
    long at = clock.millis();
    int looked = 0;
    for (int series : latest.keySet()) {
      looked += normals.now(row.id(), series, at).known() ? 1 : 0;
    }
    List<MovedView.Row> rows = new ArrayList<>();
    departed.forEach(
        (series, departure) -> {
          Shown shown = latest.get(series);
          CounterDefinition counter =
              shown == null ? null : recipe.counters().get(shown.series().counter());
          if (counter != null && at - departure.since() >= held) {
            Normal normal = normals.now(row.id(), series, at);
            rows.add(
                row(
                    row,
                    series,
                    counter,
                    shown.series().labels(),
                    false,
                    new Moved(
                        departure.distance(),
                        departure.since(),
                        (int) ((at - departure.since()) / Timeline.MINUTE),
                        shown.value(),
                        at,
                        normal)));
          }
        });
    return new MovedView(rows, rows.size(), looked);
  }

  MovedView.Row row(
      InstanceRow row,
      int series,
      CounterDefinition counter,
      Map<String, String> labels,
      boolean before,
      Moved moved) {
    return new MovedView.Row(
        row.id(),
        row.name(),
        row.groupName(),
        row.site(),
        series,
        counter.key(),
        counter.title(),
        labels,
        words.of(row.id(), labels),
        counter.unit(),
        moved.distance(),
        moved.since(),
        before,
        moved.at(),
        known(moved.value()),
        known(moved.normal().p05()),
        known(moved.normal().p95()),
        moved.minutes());
  }
}
