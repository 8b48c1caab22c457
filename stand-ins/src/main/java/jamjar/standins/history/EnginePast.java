package jamjar.standins.history;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.DemoFolder;
import jamjar.standins.history.Calibration.Usual;
import jamjar.standins.servers.Readings;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/**
 * An engine in a time that is over: as it was in its first minute under watch, with the load of
 * that time by its load of then, and with what the story tells. A pure function of the seed and the
 * moment.
 */
public final class EnginePast implements Readings {
  private static final Duration BEFORE = Duration.ofMinutes(11);
  private static final Duration AFTER = Duration.ofMinutes(11);
  private static final int STEP_SECONDS = 10;
  private static final int SLOW_SECONDS = 300;

  /** Of a day, by which what is stored grows. */
  private static final double GROWTH = 0.011;

  /** Within days before then nothing was frozen. */
  private static final double AGED_DAYS = 60;

  private static final Set<String> LASTING =
      Set.of("statements.time", "session_time.active", "io.read_time");
  private static final Set<String> READ =
      Set.of(
          "blocks.hit", "blocks.read", "rows.returned", "rows.fetched", "statements.blocks_read");

  /** What comes once in minutes can't be scaled by one of them. */
  private static final Set<String> SELDOM =
      Set.of(
          "checkpoints", "buffers.checkpoint", "buffers.sessions_sync", "archive", "certificate");

  private final String name;
  private final Recipe recipe;
  private final Calibration usual;
  private final EngineStory story;
  private final Predicate<Instant> cutOff;
  private final Wander wander;
  private final Map<SeriesKey, Wander> own = new HashMap<>();

  /** Those that are not the sum of others. */
  private final Map<SeriesKey, Usual> parts = new HashMap<>();

  private final Map<Pace, List<SeriesKey>> order = new EnumMap<>(Pace.class);

  /**
   * @param name of the instance
   * @param cutOff whether it could not be read at a moment
   */
  public EnginePast(
      String name,
      Recipe recipe,
      Calibration usual,
      EngineStory story,
      Predicate<Instant> cutOff,
      long seed) {
    this.name = name;
    this.recipe = recipe;
    this.usual = usual;
    this.story = story;
    this.cutOff = cutOff;
    this.wander = new Wander(seed, name);
    Set<String> summed =
        usual.series().keySet().stream()
            .filter(key -> !key.labels().isEmpty() && counter(key).summed())
            .map(SeriesKey::counter)
            .collect(Collectors.toSet());
    usual
        .series()
        .forEach(
            (key, theirs) -> {
              boolean sum = key.labels().isEmpty() && summed.contains(key.counter());
              if (!sum && SELDOM.stream().noneMatch(key.counter()::startsWith)) {
                parts.put(key, theirs);
                own.put(key, new Wander(seed, name + key));
              }
            });
  }

  @Override
  public void read(Instant from, Instant to, Every every, Taking taking) {
    Map<Pace, Instant> last = new EnumMap<>(Pace.class);
    long first = Math.floorDiv(from.minus(BEFORE).getEpochSecond(), STEP_SECONDS) * STEP_SECONDS;
    Instant end = to.plus(AFTER);
    for (Instant at = Instant.ofEpochSecond(first); at.isBefore(end); ) {
      int seconds = every.seconds(at);
      if (!cutOff.test(at)) {
        take(Pace.FAST, at, seconds, last, taking);
        take(Pace.SLOW, at, Math.max(seconds, SLOW_SECONDS), last, taking);
      }
      at = at.plusSeconds(STEP_SECONDS);
    }
  }

  private void take(Pace pace, Instant at, int seconds, Map<Pace, Instant> last, Taking taking) {
    if (at.getEpochSecond() % seconds != 0) {
      return;
    }
    Instant read = at.plusMillis((long) wander.counted(4, at.plusSeconds(pace.code())));
    Instant before = last.put(pace, read);
    if (before != null) {
      taking.take(pace, seconds, step(pace, before, read));
    }
  }

  private Increases.Step step(Pace pace, Instant before, Instant at) {
    Map<SeriesKey, Double> values = new HashMap<>();
    Map<SeriesKey, LastTotals.Raw> totals = new HashMap<>();
    double load = load(at);
    if (pace == Pace.FAST) {
      new EngineSessions(usual, wander, at, load, story.blocked(name, at), story.idle(name, at))
          .addTo(values);
    }
    parts.forEach(
        (key, theirs) -> {
          if (theirs.pace() == pace && theirs.total()) {
            totals.put(key, new LastTotals.Raw(0, 0));
            values.put(key, increase(key, theirs.mean(), load, before, at));
          } else if (theirs.pace() == pace && !key.counter().startsWith(EngineSessions.WAITING)) {
            values.computeIfAbsent(key, k -> level(k, theirs.mean(), load, at));
          }
        });
    addSums(values);
    List<SeriesKey> keys = inOrder(pace, values.keySet());
    double[] all = keys.stream().mapToDouble(key -> rounded(key, values.get(key))).toArray();
    Set<String> read = new HashSet<>();
    keys.forEach(key -> read.add(key.counter()));
    long elapsed = Duration.between(before, at).toMillis();
    return new Increases.Step(
        new Reading(at, elapsed, keys, all, new WhyNothing[all.length]),
        new LastTotals(at, 0, LastTotals.NO_MONOTONIC, 0, read, totals, Set.of()));
  }

  /** Mostly the same as before. */
  private List<SeriesKey> inOrder(Pace pace, Set<SeriesKey> keys) {
    List<SeriesKey> before = order.getOrDefault(pace, List.of());
    if (before.size() != keys.size() || !keys.containsAll(before)) {
      before = keys.stream().sorted().toList();
      order.put(pace, before);
    }
    return before;
  }

  private double load(Instant at) {
    return story.load(name, at) / story.load(name, usual.at()) * (wander.at(at) + wander.burst(at));
  }

  private double increase(SeriesKey key, double mean, double load, Instant before, Instant at) {
    String counter = key.counter();
    double rate = mean * load * own.get(key).at(at);
    if (LASTING.contains(counter)) {
      rate *= story.slower(name, at) / story.slower(name, usual.at());
    }
    if (READ.contains(counter)) {
      rate *= story.reads(name, at) / story.reads(name, usual.at());
    }
    double more = 0;
    if (counter.equals("deadlocks") || counter.equals("transactions.rolled_back")) {
      more =
          key.labels().containsValue(DemoFolder.DATABASE) ? story.deadlocks(name, before, at) : 0;
    }
    double seconds = Duration.between(before, at).toMillis() / 1000.0;
    return more + own.get(key).counted(rate * seconds, at);
  }

  private double level(SeriesKey key, double mean, double load, Instant at) {
    String counter = key.counter();
    double days = story.daysBefore(at);
    if (counter.startsWith("size.") || counter.equals("tables.live_rows")) {
      return mean * Math.max(0.2, 1 - GROWTH * days);
    }
    if (counter.startsWith("vacuum.")) {
      return mean * Math.max(0.05, 1 - days / AGED_DAYS);
    }
    if (counter.startsWith("replication.behind") || counter.equals("replication.replay_delay")) {
      return mean * load * own.get(key).at(at);
    }
    // what is configured, and how many standbys there are, is as it is now
    boolean configured = counter.startsWith("connections.") || counter.startsWith("replication.");
    return configured ? mean : mean * own.get(key).at(at);
  }

  private CounterDefinition counter(SeriesKey key) {
    return recipe.counters().get(key.counter());
  }

  /** Those of all labels are the sum of the labels. */
  private void addSums(Map<SeriesKey, Double> values) {
    Map<String, Double> sums = new HashMap<>();
    List<SeriesKey> keys = new ArrayList<>(values.keySet());
    for (SeriesKey key : keys) {
      // of sessions that is done already
      boolean done = key.counter().equals(EngineSessions.WAITING);
      if (counter(key).summed() && !key.labels().isEmpty() && !done) {
        sums.merge(key.counter(), values.get(key), Double::sum);
      }
    }
    sums.forEach((counter, sum) -> values.put(SeriesKey.of(counter), sum));
  }

  private double rounded(SeriesKey key, double value) {
    double resolution = counter(key).resolution();
    return resolution > 0 ? Math.rint(value / resolution) * resolution : Math.rint(value);
  }
}
