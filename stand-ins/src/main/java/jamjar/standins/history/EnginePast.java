package jamjar.standins.history;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.session.StatementText;
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

  /** What was counted by then is not asked for. */
  private static final LastTotals.Raw NOT_KNOWN = new LastTotals.Raw(0, 0);

  /** Within days before then nothing was frozen. */
  private static final double AGED_DAYS = 60;

  private static final Set<String> LASTING =
      Set.of("statements.time", "session_time.active", "io.read_time");
  private static final Set<String> READ =
      Set.of(
          "blocks.hit", "blocks.read", "rows.returned", "rows.fetched", "statements.blocks_read");

  private static final Set<String> DEADLOCKING = Set.of("deadlocks", "transactions.rolled_back");

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

  /** Share of the time of the statement that the story changes. */
  private final double changedShare;

  /** Those that are not the sum of others. */
  private final Map<Pace, List<Part>> parts = new EnumMap<>(Pace.class);

  private final Map<Pace, List<SeriesKey>> order = new EnumMap<>(Pace.class);

  /** A series, with what is looked up once: there are many, and many moments. */
  private static final class Part {
    final SeriesKey key;
    final Usual usual;
    final CounterDefinition counter;
    final Wander own;
    final boolean lasting;
    final boolean read;
    final boolean ofDeadlocks;
    final boolean ofStatements;
    final boolean grows;
    final boolean ages;
    final boolean follows;
    final boolean configured;
    final boolean ofSessions;

    Part(SeriesKey key, Usual usual, CounterDefinition counter, Wander own) {
      String name = key.counter();
      this.key = key;
      this.usual = usual;
      this.counter = counter;
      this.own = own;
      this.lasting = LASTING.contains(name);
      this.read = READ.contains(name);
      this.ofDeadlocks =
          DEADLOCKING.contains(name) && key.labels().containsValue(DemoFolder.DATABASE);
      this.ofStatements = name.equals("statements.time");
      this.grows = name.startsWith("size.") || name.equals("tables.live_rows");
      this.ages = name.startsWith("vacuum.");
      this.follows =
          name.startsWith("replication.behind") || name.equals("replication.replay_delay");
      // what is configured, and how many standbys there are, is as it is now
      this.configured = name.startsWith("connections.") || name.startsWith("replication.");
      this.ofSessions = name.startsWith(EngineSessions.WAITING);
    }
  }

  /** What an engine is like at a moment. */
  private record Now(
      Instant before, Instant at, double seconds, double load, double slower, double reads) {}

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
    this.changedShare = usual.share(StatementText.of(EngineStory.changed(name)).fingerprint());
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
                parts
                    .computeIfAbsent(theirs.pace(), pace -> new ArrayList<>())
                    .add(new Part(key, theirs, counter(key), new Wander(seed, name + key)));
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
    Now now =
        new Now(
            before,
            at,
            Duration.between(before, at).toMillis() / 1000.0,
            load(at),
            slower(at),
            story.reads(name, at) / story.reads(name, usual.at()));
    if (pace == Pace.FAST) {
      values.putAll(sessions(at));
    }
    Map<String, Double> sums = new HashMap<>();
    for (Part part : parts.getOrDefault(pace, List.of())) {
      double value = 0;
      if (part.usual.total()) {
        totals.put(part.key, NOT_KNOWN);
        value = increase(part, now);
        values.put(part.key, value);
      } else if (!part.ofSessions) {
        // some are told by the sessions already
        value = values.computeIfAbsent(part.key, k -> level(part, now));
      }
      if (part.counter.summed() && !part.key.labels().isEmpty() && !part.ofSessions) {
        sums.merge(part.key.counter(), value, Double::sum);
      }
    }
    sums.forEach((counter, sum) -> values.put(SeriesKey.of(counter), sum));
    List<SeriesKey> keys = inOrder(pace, values.keySet());
    double[] all = keys.stream().mapToDouble(key -> rounded(key, values.get(key))).toArray();
    Set<String> read = new HashSet<>();
    keys.forEach(key -> read.add(key.counter()));
    long elapsed = Duration.between(before, at).toMillis();
    return new Increases.Step(
        new Reading(at, elapsed, keys, all, new WhyNothing[all.length]),
        new LastTotals(at, 0, LastTotals.NO_MONOTONIC, 0, read, totals, Set.of()));
  }

  /** How many sessions of each kind there are at a moment. */
  Map<SeriesKey, Double> sessions(Instant at) {
    Map<SeriesKey, Double> values = new HashMap<>();
    new EngineSessions(
            usual,
            wander,
            at,
            load(at),
            story.blocked(name, at),
            story.waiting(story.blocked(name, at)),
            story.idle(name, at))
        .addTo(values);
    return values;
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

  /**
   * How many times as long all statements took as when it was calibrated: where it is known what
   * share of the time the one that changed has, as much as that one makes of it.
   */
  private double slower(Instant at) {
    if (changedShare == 0) {
      return story.slower(name, at) / story.slower(name, usual.at());
    }
    return 1 + changedShare * (itSlower(at) - 1);
  }

  /** How many times as long the statement that changed took as when it was calibrated. */
  double itSlower(Instant at) {
    return story.itSlower(name, at) / story.itSlower(name, usual.at());
  }

  /** How many times as much was done as when it was calibrated. */
  double load(Instant at) {
    return story.load(name, at) / story.load(name, usual.at()) * (wander.at(at) + wander.burst(at));
  }

  private double increase(Part part, Now now) {
    double rate = part.usual.mean() * now.load() * part.own.at(now.at());
    rate *= part.lasting ? now.slower() : 1;
    rate *= part.read ? now.reads() : 1;
    double more = part.ofDeadlocks ? story.deadlocks(name, now.before(), now.at()) : 0;
    if (part.ofStatements) {
      more = 1e6 * sum(story.released(name, now.before(), now.at()));
    }
    return more + part.own.counted(rate * now.seconds(), now.at());
  }

  private static double sum(List<Double> all) {
    return all.stream().mapToDouble(Double::doubleValue).sum();
  }

  private double level(Part part, Now now) {
    double mean = part.usual.mean();
    if (part.grows) {
      return mean * Math.max(0.2, 1 - GROWTH * story.growth() * story.daysBefore(now.at()));
    }
    if (part.ages) {
      return mean * Math.max(0.05, 1 - story.daysBefore(now.at()) / AGED_DAYS);
    }
    if (part.follows) {
      return mean * now.load() * part.own.at(now.at());
    }
    return part.configured ? mean : mean * part.own.at(now.at());
  }

  private CounterDefinition counter(SeriesKey key) {
    return recipe.counters().get(key.counter());
  }

  private double rounded(SeriesKey key, double value) {
    double resolution = counter(key).resolution();
    return resolution > 0 ? Math.rint(value / resolution) * resolution : Math.rint(value);
  }
}
