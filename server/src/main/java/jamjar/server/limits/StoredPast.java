package jamjar.server.limits;

import jamjar.core.chart.Samples;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.store.Store;
import jamjar.store.readings.StoredReading;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;

/** What the store has of an instance. */
final class StoredPast implements Past {
  /** What is due each day was seen within so long, or is late. */
  private static final Duration LOOKED_BACK = Duration.ofDays(3);

  private final Store store;
  private final Runnable upToDate;
  private final int instance;
  private final Clock clock;

  /**
   * @param upToDate returns when all that was kept until then is in the store
   */
  StoredPast(Store store, int instance, Clock clock, Runnable upToDate) {
    this.store = store;
    this.upToDate = upToDate;
    this.instance = instance;
    this.clock = clock;
  }

  @Override
  public Map<Docket.Key, LimitState> states() {
    // this is asked for first of all
    upToDate.run();
    return store.states().ofInstance(instance);
  }

  @Override
  public Map<Integer, SeriesKey> present(Pace pace) {
    Map<Integer, SeriesKey> present = new HashMap<>();
    // one query for all of them: at a start every instance asks
    Map<Integer, SeriesKey> alive = store.readings().series(instance);
    for (int id : store.readings().lastSeries(instance, pace.code())) {
      Optional.ofNullable(alive.get(id)).or(() -> key(id)).ifPresent(key -> present.put(id, key));
    }
    return present;
  }

  @Override
  public Optional<SeriesKey> key(int series) {
    return store.readings().key(series);
  }

  @Override
  public int[] numbers(List<SeriesKey> series) {
    return store.readings().numbers(instance, series, clock.instant());
  }

  @Override
  public OptionalLong happened(int series) {
    Instant now = clock.instant();
    Samples read =
        store.readings().samples(instance, new int[] {series}, now.minus(LOOKED_BACK), now);
    for (int i = read.size() - 1; i >= 0; i--) {
      if (read.value()[i] > 0) {
        return OptionalLong.of(read.at()[i]);
      }
    }
    return read.size() == 0 ? OptionalLong.empty() : OptionalLong.of(read.at()[0]);
  }

  @Override
  public Optional<Long> lastAt(Pace pace) {
    return store.readings().last(instance, pace.code()).map(last -> last.at().toEpochMilli());
  }

  @Override
  public void gather(Pace pace, long last, long back, Docket docket, Recipe recipe) {
    // the last reading was stored to the µs
    Instant until = Instant.ofEpochMilli(last + 1);
    for (StoredReading stored :
        store.readings().toJudge(instance, until.minusMillis(back), until)) {
      if (stored.source() == pace.code()) {
        AsShown shown = shown(stored, recipe);
        docket.gather(
            stored.at().toEpochMilli(),
            stored.arrived().toEpochMilli(),
            shown.ids(),
            shown.values());
      }
    }
  }

  /** A stored reading as it was judged: with its quotients. */
  record AsShown(int[] ids, List<Shown> values) {}

  /** Without the series that no recipe holds any more. */
  AsShown shown(StoredReading stored, Recipe recipe) {
    List<SeriesKey> series = new ArrayList<>();
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < stored.values().length; i++) {
      SeriesKey key = key(stored.series()[i]).orElse(SeriesKey.of(""));
      if (recipe.counters().containsKey(key.counter())) {
        series.add(key);
        places.add(i);
      }
    }
    double[] values = places.stream().mapToDouble(i -> stored.values()[i]).toArray();
    WhyNothing[] why = new WhyNothing[values.length];
    for (int i = 0; i < why.length; i++) {
      why[i] = Double.isNaN(values[i]) ? WhyNothing.NOT_YET_KNOWN : null;
    }
    Reading reading = new Reading(stored.at(), stored.elapsedMillis(), series, values, why);
    List<Shown> shown = Shown.of(reading, recipe, 1000L * stored.intervalS());
    return new AsShown(numbers(shown.stream().map(Shown::series).toList()), shown);
  }
}
