package jamjar.server.watch;

import jamjar.collect.Collector;
import jamjar.collect.Refusal;
import jamjar.core.baseline.Departing;
import jamjar.core.baseline.Departing.Departure;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Shown;
import jamjar.core.statement.FollowedReading;
import jamjar.server.instances.InstanceState;
import jamjar.server.instances.InstanceState.State;
import jamjar.server.instances.JarView;
import jamjar.server.limits.LiveJudge;
import java.time.Instant;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** What is known right now of one instance under watch: its state and its latest values. */
final class Watched {
  /** What is outside for so long stands on the shelf, ms. */
  private static final long STANDS_AFTER = 300_000;

  private final int instance;
  private final Recipe recipe;
  private final LiveJudge judge;
  private final List<WatchEvents> listeners;
  private final Departures departures;
  private final Map<Pace, Map<Integer, Shown>> latest = new EnumMap<>(Pace.class);
  private Map<String, String> facts = Map.of();
  private Taken taken = Taken.NONE;
  private InstanceState state;
  private boolean replaced;

  Watched(
      InstanceState begins,
      Recipe recipe,
      LiveJudge judge,
      Departures departures,
      List<WatchEvents> listeners) {
    this.instance = begins.instance();
    this.recipe = recipe;
    this.judge = judge;
    this.departures = departures;
    this.listeners = listeners;
    this.state = begins;
  }

  synchronized InstanceState state() {
    return state;
  }

  /** Another one takes its place: how it is doing is told by that from now on. */
  synchronized void replace() {
    replaced = true;
  }

  private void tell() {
    if (!replaced) {
      listeners.forEach(listener -> listener.state(state));
    }
  }

  synchronized Map<Integer, Shown> latest() {
    Map<Integer, Shown> all = new HashMap<>();
    latest.values().forEach(all::putAll);
    return all;
  }

  synchronized Map<Integer, Departure> departed() {
    // what is read seldom may come first
    Long at = state.lastAt();
    return latest.isEmpty() || at == null ? Map.of() : departed(at);
  }

  /** Just after a start nothing is as usual. */
  private Map<Integer, Departure> departed(long at) {
    return Departing.settled(started(), at) ? departures.now() : Map.of();
  }

  synchronized Map<String, String> facts() {
    return facts;
  }

  synchronized Taken taken() {
    return taken;
  }

  /** Only the fast pace decides how an instance is doing; another would say so too late. */
  Watcher.Told listener(Pace source) {
    return new Watcher.Told() {
      @Override
      public void read(
          Instant at, int[] ids, List<Shown> shown, Map<String, String> newFacts, Taken newTaken) {
        take(source, at, ids, shown, newFacts, newTaken);
      }

      @Override
      public void silent(Instant since, Refusal refusal) {
        if (source == Pace.FAST) {
          fell(
              refusal.reason().answered() ? State.UNREACHABLE : State.SILENT,
              since,
              refusal.reason().words(),
              refusal.sentence(),
              refusal.advice());
        }
      }

      @Override
      public void failing(Instant since, String why, String words) {
        if (source == Pace.FAST) {
          fell(State.FAILING, since, why, words, "");
        }
      }
    };
  }

  private void take(
      Pace source,
      Instant at,
      int[] ids,
      List<Shown> shown,
      Map<String, String> newFacts,
      Taken newTaken) {
    JarView before = state().jar();
    JarView jar = judge.jar(instance, before == null ? 0 : before.series()).orElse(null);
    take(source, at, ids, shown, newFacts, newTaken, jar);
  }

  private synchronized void take(
      Pace source,
      Instant at,
      int[] ids,
      List<Shown> shown,
      Map<String, String> newFacts,
      Taken newTaken,
      JarView jar) {
    // what a reading does not hold any more is not there any more
    Map<Integer, Shown> now = new HashMap<>();
    for (int i = 0; i < ids.length; i++) {
      now.put(ids[i], shown.get(i));
    }
    latest.put(source, now);
    departures.read(source, at, ids, shown);
    if (source == Pace.FAST && !facts.equals(newFacts)) {
      facts = newFacts;
      judge.started(instance, started());
      listeners.forEach(listener -> listener.facts(instance, at, newFacts));
    }
    Map<Integer, Departure> departed = departed(at.toEpochMilli());
    if (source == Pace.FAST) {
      taken = newTaken;
      state =
          state.read(
              at.toEpochMilli(),
              shelf(shown),
              jar,
              farthest(departed, at.toEpochMilli()),
              facts.getOrDefault(Collector.RESTART, ""));
    }
    listeners.forEach(listener -> listener.read(instance, at, ids, shown, departed));
    if (source == Pace.FAST) {
      tell();
    }
  }

  private synchronized void fell(State as, Instant at, String why, String words, String advice) {
    state = state.fell(as, at.toEpochMilli(), why, words, advice);
    latest.clear();
    tell();
  }

  /**
   * Of what has been outside its normal for long enough to stand on the shelf the farthest: in the
   * direction in which it gets worse.
   */
  private InstanceState.Outside farthest(Map<Integer, Departure> departed, long at) {
    Map<Integer, Shown> now = latest();
    return departed.entrySet().stream()
        .filter(one -> at - one.getValue().since() >= STANDS_AFTER)
        .filter(one -> now.containsKey(one.getKey()) && gotWorse(now.get(one.getKey()), one))
        .max(Comparator.comparingDouble(one -> Math.abs(one.getValue().distance())))
        .flatMap(
            one -> {
              Shown shown = now.get(one.getKey());
              Normal normal = departures.normal(one.getKey(), at);
              return recipe
                  .counter(shown.series().counter())
                  .filter(counter -> normal.known() && !Double.isNaN(shown.value()))
                  .map(
                      counter ->
                          new InstanceState.Outside(
                              title(counter, shown),
                              shown.value(),
                              counter.unit(),
                              one.getValue().distance(),
                              normal.p05(),
                              normal.p95()));
            })
        .orElse(null);
  }

  /** When it began, epoch ms; 0 where it does not tell. */
  private long started() {
    try {
      return Long.parseLong(facts.getOrDefault("started", "0"));
    } catch (NumberFormatException e) {
      return 0;
    }
  }

  private boolean gotWorse(Shown shown, Map.Entry<Integer, Departure> departed) {
    double distance = departed.getValue().distance();
    return recipe
        .counter(shown.series().counter())
        .filter(counter -> counter.worse().worsens(distance))
        .isPresent();
  }

  /** With what its labels name; a statement's fingerprint says nothing. */
  private static String title(CounterDefinition counter, Shown shown) {
    boolean says =
        !shown.series().labels().isEmpty()
            && !shown.series().labels().containsKey(FollowedReading.LABEL);
    return says
        ? counter.title() + " · " + String.join(", ", shown.series().labels().values())
        : counter.title();
  }

  private List<InstanceState.Fact> shelf(List<Shown> shown) {
    // of a counter that has labels only the greatest
    return shown.stream()
        .filter(s -> s.series().counter().equals(recipe.fact()) && s.why() == null)
        .max(
            Comparator.comparing((Shown s) -> s.series().labels().isEmpty())
                .thenComparing(Shown::value))
        .map(
            s -> {
              CounterDefinition counter = recipe.counters().get(recipe.fact());
              return List.of(new InstanceState.Fact(counter.title(), s.value(), counter.unit()));
            })
        .orElse(List.of());
  }
}
