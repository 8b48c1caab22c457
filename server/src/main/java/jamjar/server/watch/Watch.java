package jamjar.server.watch;

import jakarta.annotation.PreDestroy;
import jamjar.collect.Refusal;
import jamjar.collect.Target;
import jamjar.core.baseline.Departing.Departure;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.core.session.Sample;
import jamjar.server.instances.InstanceState;
import jamjar.server.instances.InstanceState.State;
import jamjar.server.instances.Reader;
import jamjar.server.limits.LiveJudge;
import jamjar.server.normals.NormalsService;
import jamjar.server.recipes.Recipes;
import jamjar.server.settings.Settings;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.intake.Intake;
import jamjar.store.silences.Silence;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** All instances under watch. */
@Component
public class Watch implements Reader {
  private static final Logger LOG = LoggerFactory.getLogger(Watch.class);

  /** A reading of this many intervals ago still tells that it is read. */
  private static final int LATELY = 3;

  private static final long GRACE_MILLIS = 5_000;
  private static final Duration REST_WITHIN = Duration.ofMinutes(10);

  private final Store store;
  private final Intake intake;
  private final LiveJudge judge;
  private final NormalsService normals;
  private final Recipes recipes;
  private final Collectors collectors;
  private final Followed followed;
  private final WatchCounts counts;
  private final Clock clock;
  private final int samplesS;
  private final List<WatchEvents> listeners;
  private final Map<Integer, Running> running = new ConcurrentHashMap<>();

  private record Running(
      InstanceRow row, Watched watched, List<Watcher> watchers, Optional<SampleWatcher> sampling) {
    boolean own() {
      return row.kind().equals(InstanceRow.OWN);
    }
  }

  Watch(
      Store store,
      Intake intake,
      LiveJudge judge,
      NormalsService normals,
      Recipes recipes,
      Collectors collectors,
      Followed followed,
      WatchCounts counts,
      Settings settings,
      Clock clock,
      List<WatchEvents> listeners) {
    this.samplesS = (int) Math.max(1, settings.samples().toSeconds());
    this.store = store;
    this.intake = intake;
    this.judge = judge;
    this.normals = normals;
    this.recipes = recipes;
    this.collectors = collectors;
    this.followed = followed;
    this.counts = counts;
    this.clock = clock;
    this.listeners = listeners;
  }

  @Override
  public void begin(InstanceRow row, Target target, boolean another) {
    Recipe recipe = recipes.of(row);
    Schedule schedule = new Schedule(recipe, row.intervalS());
    State begins = row.paused() ? State.PAUSED : State.STARTING;
    Watched watched =
        new Watched(
            InstanceState.fresh(row.id(), begins, clock.millis(), row.intervalS()),
            recipe,
            judge,
            departures(row, recipe),
            listeners);
    Collectors.Made makes =
        row.paused() ? Collectors.Made.readers(pace -> null) : collectors.of(row, target);
    judge.begin(row);
    if (makes.sampler().isPresent()) {
      followed.begin(row.id());
    } else {
      followed.forget(row.id());
    }
    running.compute(
        row.id(),
        (id, before) -> {
          List<Watcher> old = before == null ? List.of() : before.watchers();
          old.forEach(another ? Watcher::giveUp : Watcher::end);
          if (before != null) {
            before.sampling().ifPresent(SampleWatcher::end);
            // its last reading may still come
            before.watched().replace();
          }
          List<Watcher> watchers =
              row.paused()
                  ? List.of()
                  : schedule.paces().stream()
                      .filter(Pace::isRead)
                      .map(
                          pace ->
                              watcher(
                                  new Watcher.Job(
                                      id,
                                      row.name(),
                                      pace,
                                      schedule.seconds(pace),
                                      recipe,
                                      makes.readers(),
                                      counted -> followed.reading(id, recipe, counted),
                                      another),
                                  old,
                                  watched))
                      .toList();
          watchers.forEach(Watcher::start);
          if (row.paused()) {
            restAfter(old, id);
          }
          Optional<SampleWatcher> sampling =
              makes
                  .sampler()
                  .map(
                      sampler -> new SampleWatcher(id, row.name(), samplesS, old, sampler, intake));
          sampling.ifPresent(SampleWatcher::start);
          return new Running(row, watched, watchers, sampling);
        });
    listeners.forEach(listener -> listener.state(watched.state()));
  }

  @Override
  public void cannotBegin(InstanceRow row, String words) {
    long now = clock.millis();
    InstanceState state =
        InstanceState.fresh(row.id(), State.STARTING, now, row.intervalS())
            .fell(State.FAILING, now, "cannot begin", "cannot begin: " + words, "");
    Recipe recipe = recipes.of(row);
    Watched watched = new Watched(state, recipe, judge, departures(row, recipe), listeners);
    running.put(row.id(), new Running(row, watched, List.of(), Optional.empty()));
  }

  private Departures departures(InstanceRow row, Recipe recipe) {
    return new Departures(
        recipe, row.intervalS(), (series, at) -> normals.now(row.id(), series, at));
  }

  private Watcher watcher(Watcher.Job job, List<Watcher> before, Watched watched) {
    return new Watcher(job, before, store, intake, judge, counts, clock, watched::listener);
  }

  private void restAfter(List<Watcher> before, int instance) {
    Thread thread =
        new Thread(
            () -> {
              try {
                Watcher.await(before);
                intake.awaitBrought(REST_WITHIN);
                rest(instance);
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
              } catch (RuntimeException e) {
                LOG.warn("event=pause-not-stored instance={} why=\"{}\"", instance, e.getMessage());
              }
            },
            "rest-" + instance);
    thread.setDaemon(true);
    thread.start();
  }

  /** The gap of a paused instance begins where it was last read. */
  private void rest(int instance) {
    for (Pace source : Pace.values()) {
      store
          .readings()
          .last(instance, source.code())
          .filter(l -> store.silences().lasting(instance, source.code()).isEmpty())
          .map(
              l ->
                  Silence.since(
                      l.at(), instance, source.code(), "paused", "paused: a person has paused it"))
          .ifPresent(intake::silent);
    }
  }

  /** What it took to take the last reading. */
  public Taken taken(int instance) {
    Running now = running.get(instance);
    return now == null ? Taken.NONE : now.watched().taken();
  }

  @Override
  public void removed(InstanceRow row) {
    Running ended = running.remove(row.id());
    if (ended != null) {
      ended.watchers().forEach(Watcher::giveUp);
      ended.sampling().ifPresent(SampleWatcher::end);
      ended.watched().replace();
    }
    judge.removed(row);
    followed.forget(row.id());
    listeners.forEach(listener -> listener.removed(row.id()));
  }

  @Override
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

  /** Of how many a reading was kept lately, Jam Jar itself not counted. */
  public int keptLately() {
    long now = clock.millis();
    return (int)
        counted().stream()
            .filter(
                s ->
                    s.lastAt() != null
                        && Math.abs(now - s.lastAt())
                            <= LATELY * 1000L * s.interval() + GRACE_MILLIS)
            .count();
  }

  /** How the latest value of a series came about; empty where it has not been read lately. */
  public Optional<Worked> work(int instance, SeriesKey series) {
    Running now = running.get(instance);
    return now == null
        ? Optional.empty()
        : now.watchers().stream().flatMap(w -> w.work(series).stream()).findFirst();
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
   * How the sessions of an instance are sampled.
   *
   * @param everyS seconds between two samples
   * @param latest empty while none can be taken
   * @param refusal why none can be taken
   * @param unreadLog why the engine's own log can't be read; empty while it is
   */
  public record Sampling(
      int everyS, Optional<Sample> latest, Optional<Refusal> refusal, String unreadLog) {}

  /** Empty where sessions are not sampled. */
  public Optional<Sampling> sampling(int instance) {
    return Optional.ofNullable(running.get(instance))
        .flatMap(Running::sampling)
        .map(s -> new Sampling(s.intervalS(), s.latest(), s.refusal(), s.unreadLog()));
  }

  /** Which series have left their normal, by number. */
  public Map<Integer, Departure> departed(int instance) {
    Running now = running.get(instance);
    return now == null ? Map.of() : now.watched().departed();
  }

  @Override
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
  void endAll() throws InterruptedException {
    List<Watcher> all = running.values().stream().flatMap(r -> r.watchers().stream()).toList();
    all.forEach(Watcher::end);
    running.values().forEach(r -> r.sampling().ifPresent(SampleWatcher::end));
    Watcher.await(all);
    running.clear();
  }
}
