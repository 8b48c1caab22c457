package jamjar.server.watch;

import jakarta.annotation.PreDestroy;
import jamjar.collect.Collector;
import jamjar.collect.Target;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Shown;
import jamjar.server.instances.InstanceState;
import jamjar.server.limits.LiveJudge;
import jamjar.server.recipes.Recipes;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** All instances under watch. */
@Component
public class Watch {
  private static final Duration END_WITHIN = Duration.ofSeconds(10);

  private final Store store;
  private final ReadingWriter writer;
  private final LiveJudge judge;
  private final Recipes recipes;
  private final Collectors collectors;
  private final WatchCounts counts;
  private final Clock clock;
  private final List<WatchEvents> listeners;
  private final Map<Integer, Running> running = new ConcurrentHashMap<>();

  private record Running(boolean own, Watched watched, List<Watcher> watchers) {}

  Watch(
      Store store,
      ReadingWriter writer,
      LiveJudge judge,
      Recipes recipes,
      Collectors collectors,
      WatchCounts counts,
      Clock clock,
      List<WatchEvents> listeners) {
    this.store = store;
    this.writer = writer;
    this.judge = judge;
    this.recipes = recipes;
    this.collectors = collectors;
    this.counts = counts;
    this.clock = clock;
    this.listeners = listeners;
  }

  /** Begins to watch an instance, or begins anew after it was changed. */
  public synchronized void begin(InstanceRow row, Target target) {
    int instance = row.id();
    end(instance);
    Recipe recipe = recipes.of(row);
    boolean paused = row.paused();
    Watched watched =
        new Watched(
            instance,
            row.intervalS(),
            recipe,
            judge,
            listeners,
            paused ? "paused" : "starting",
            clock.instant());
    if (paused) {
      rest(instance);
    } else {
      judge.begin(row);
    }
    Map<Source, Collector> reads = paused ? Map.of() : collectors.of(row, target);
    List<Watcher> watchers =
        reads.entrySet().stream()
            .map(
                e ->
                    new Watcher(
                        row,
                        e.getKey(),
                        e.getValue(),
                        recipe,
                        store,
                        writer,
                        judge,
                        counts,
                        clock,
                        watched.listener(e.getKey())))
            .toList();
    running.put(instance, new Running(InstanceRow.OWN.equals(row.kind()), watched, watchers));
    listeners.forEach(listener -> listener.state(watched.state()));
    watchers.forEach(Watcher::start);
  }

  /** The gap of a paused instance begins where it was last read. */
  private void rest(int instance) {
    for (Source source : Source.values()) {
      store
          .readings()
          .last(instance, source.code())
          .filter(l -> store.silences().lasting(instance, source.code()).isEmpty())
          .map(
              l ->
                  Silence.since(
                      l.at(), instance, source.code(), "paused", "paused: a person has paused it"))
          .ifPresent(store.silences()::begin);
    }
  }

  /** What it took to take the last reading. */
  public Taken taken(int instance) {
    Running now = running.get(instance);
    return now == null ? Taken.NONE : now.watched().taken();
  }

  /** Ends watching an instance; nothing happens when it is not watched. */
  public synchronized void end(int instance) {
    Running ended = running.remove(instance);
    if (ended != null) {
      end(ended.watchers());
      judge.end(instance);
    }
  }

  /** Tells that an instance is gone for good. */
  public synchronized void removed(int instance) {
    Running ended = running.remove(instance);
    if (ended != null) {
      end(ended.watchers());
      judge.retire(instance);
    }
    listeners.forEach(listener -> listener.removed(instance));
  }

  public Optional<InstanceState> state(int instance) {
    return Optional.ofNullable(running.get(instance)).map(r -> r.watched().state());
  }

  /** How all are doing, Jam Jar itself among them. */
  public List<InstanceState> states() {
    return running.values().stream().map(r -> r.watched().state()).toList();
  }

  /** How all are doing but Jam Jar itself, which is not counted. */
  public List<InstanceState> counted() {
    return running.values().stream().filter(r -> !r.own()).map(r -> r.watched().state()).toList();
  }

  /**
   * The latest value of each series, by the number of the series; empty while the instance is
   * silent.
   */
  public Map<Integer, Shown> latest(int instance) {
    Running now = running.get(instance);
    return now == null ? Map.of() : now.watched().latest();
  }

  /**
   * What the instance said of itself when last connected, but for its settings, arguments and
   * properties.
   */
  public Map<String, String> facts(int instance) {
    Running now = running.get(instance);
    if (now == null) {
      return Map.of();
    }
    Map<String, String> plain = new HashMap<>(now.watched().facts());
    plain.keySet().removeIf(name -> name.contains("/"));
    return plain;
  }

  @PreDestroy
  synchronized void endAll() {
    end(running.values().stream().flatMap(r -> r.watchers().stream()).toList());
    running.keySet().forEach(judge::end);
    running.clear();
  }

  /** All are asked to end before any is waited for: one that hangs does not keep the others. */
  private static void end(List<Watcher> watchers) {
    watchers.forEach(Watcher::end);
    long until = System.nanoTime() + END_WITHIN.toNanos();
    try {
      for (Watcher watcher : watchers) {
        watcher.await(Duration.ofNanos(until - System.nanoTime()));
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
