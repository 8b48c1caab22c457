package jamjar.standins.history;

import jamjar.core.session.StatementText;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.standins.booking.Doing;
import jamjar.standins.history.Calibration.Ran;
import jamjar.store.statements.StatementStore;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.Predicate;

/**
 * What the statements of an engine did in a time that is over, by the minute: each as often as in
 * its first minute under watch, by the load of then, and as slow as the story tells. A pure
 * function of the seed and the moment.
 */
public final class CountedPast {
  /** As long as minutes are kept. */
  private static final Duration KEPT = Duration.ofDays(42);

  private static final int SECONDS = 60;

  private final String name;
  private final EnginePast past;
  private final Calibration usual;
  private final EngineStory story;
  private final Predicate<Instant> cutOff;
  private final Map<StatementKey, Wander> wanders = new HashMap<>();
  private final long changed;

  /** What waits for the reload itself, and what waits for rows that these have. */
  private final List<Long> held =
      Doing.HOLD_BERTH.statements().stream()
          .map(sql -> StatementText.of(sql).fingerprint())
          .toList();

  public CountedPast(
      String name,
      EnginePast past,
      Calibration usual,
      EngineStory story,
      Predicate<Instant> cutOff,
      long seed) {
    this.name = name;
    this.past = past;
    this.usual = usual;
    this.story = story;
    this.cutOff = cutOff;
    this.changed = StatementText.of(EngineStory.changed(name)).fingerprint();
    usual.statements().keySet().forEach(key -> wanders.put(key, new Wander(seed, name + key)));
  }

  /** The minutes that end in [from, to). */
  public List<Counted> between(Instant from, Instant to) {
    return Newest.minutes(from, to, cutOff).stream().map(this::minute).toList();
  }

  /** What was counted in the minute until then. */
  public Counted minute(Instant at) {
    SortedMap<StatementKey, StatementCounts> all = new TreeMap<>();
    double load = past.load(at);
    Instant before = at.minusSeconds(SECONDS);
    usual
        .statements()
        .forEach(
            (key, ran) -> {
              Wander wander = wanders.get(key);
              double calls = wander.counted(ran.calls() * load * SECONDS, at);
              StatementCounts counts = of(key, ran, calls, wander.at(at), before);
              int waits = held.indexOf(key.fingerprint());
              if (waits >= 0) {
                counts = counts.plus(released(before, at, waits == 0));
              }
              if (counts.calls() > 0) {
                all.put(key, counts);
              }
            });
    return new Counted(at, SECONDS * 1000L, 0, all);
  }

  /**
   * @param at the beginning of the minute: what changes at its end is of the next
   */
  private StatementCounts of(StatementKey key, Ran ran, double calls, double wander, Instant at) {
    boolean it = key.fingerprint() == changed;
    double slower = it ? past.itSlower(at) : 1;
    double more = it ? story.reads(name, at) / story.reads(name, usual.at()) : 1;
    return new StatementCounts(
        (long) calls,
        Math.round(calls * ran.timeUs() * slower * wander),
        Math.round(calls * ran.rows()),
        Math.round(calls * ran.hit() * more),
        Math.round(calls * ran.read() * more),
        Math.round(calls * ran.temporary()));
  }

  /** Those that the fare reload let go. */
  private StatementCounts released(Instant from, Instant to, boolean directly) {
    List<Double> all = story.released(name, from, to);
    int first = Math.min(SampledPast.DIRECTLY, all.size());
    List<Double> waited = directly ? all.subList(0, first) : all.subList(first, all.size());
    double us = waited.stream().mapToDouble(s -> s * 1e6).sum();
    return new StatementCounts(waited.size(), Math.round(us), waited.size(), 0, 0, 0);
  }

  /** Writes all that would be kept by the end, the newest hours first; what is there is left. */
  public void write(StatementStore store, int instance, Instant end) {
    Newest.hours(KEPT, end, (hour, to) -> store.put(instance, hour, between(hour, to)));
  }
}
