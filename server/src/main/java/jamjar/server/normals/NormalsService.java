package jamjar.server.normals;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jakarta.annotation.PreDestroy;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.server.markers.MarkerService;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.instances.InstanceRow;
import jamjar.store.normals.FrozenRow;
import jamjar.store.normals.Learned;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.IntFunction;
import java.util.function.LongFunction;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/**
 * What is normal for each series: learned from the 1-minute means of the stored readings of the
 * last five weeks when an instance comes under watch first, then each night the day of the week
 * that is over (all of it hourly in its first days, and after a marker was set) and on demand, one
 * instance at a time; and kept. On the heap lies what is normal about now; the rest is read when it
 * is asked for.
 */
@Service
public class NormalsService {
  private static final Logger LOG = LoggerFactory.getLogger(NormalsService.class);

  /** The name of the fact whose change is another normal. */
  public static final String ROLE = Roles.FACT;

  private static final long QUARTER_HOUR = 15 * Timeline.MINUTE;

  /** After so many minutes a day more changes little by the hour. */
  private static final int YOUNG_MINUTES = 8 * 1440;

  /** By then the day that is over is packed, after midnight UTC. */
  private static final Duration NIGHTLY = Duration.ofMinutes(150);

  /** Days of baselines that persons looked at last, of one series each: about 6 kB. */
  private static final int DAYS = 2_800;

  /** Longer away, all of it is learned anew. */
  private static final Duration MOST_DAYS = Duration.ofDays(3);

  private final Store store;
  private final Learning learning;
  private final MarkerService markers;
  private final Clock clock;

  /** Of each instance under watch; empty until something is taken up. */
  private final Map<Integer, Optional<AboutNow>> aboutNow = new ConcurrentHashMap<>();

  private final Cache<Integer, Optional<BaselineHistory>> histories =
      Caffeine.newBuilder()
          .maximumWeight(DAYS)
          .weigher((Integer series, Optional<BaselineHistory> one) -> weight(one))
          .build();
  private final Cache<Integer, Boolean> becameAnother =
      Caffeine.newBuilder().expireAfterWrite(Duration.ofMinutes(5)).build();
  private final AtomicBoolean goingOn = new AtomicBoolean();
  private final ExecutorService learner =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread thread = new Thread(task, "learner");
            thread.setDaemon(true);
            return thread;
          });

  NormalsService(Store store, Learning learning, MarkerService markers, Clock clock) {
    this.store = store;
    this.learning = learning;
    this.markers = markers;
    this.clock = clock;
  }

  /**
   * What is normal for a series of an instance at a moment about now, epoch ms; waits for no
   * database.
   */
  public Normal now(int instance, int series, long at) {
    return near(instance).map(near -> near.at(series, at)).orElse(Normal.NONE);
  }

  /** As above, for a limit: what was learned just now is in force from the next minute on. */
  public Normal inForce(int instance, int series, long at) {
    return near(instance).map(near -> near.inForce(series, at)).orElse(Normal.NONE);
  }

  /**
   * By what it is told which series of an instance a limit holds against their normal: of those it
   * stays known what was in force before.
   */
  public void judgedBy(IntFunction<Set<Integer>> series) {
    learning.judgedBy(series);
  }

  private static int weight(Optional<BaselineHistory> one) {
    return one.map(BaselineHistory::days).orElse(1);
  }

  /** What was normal for a series through time. */
  Optional<BaselineHistory> history(int series) {
    return histories.get(series, id -> store.normals().history(id, Instant.EPOCH));
  }

  /**
   * What is normal for a series at any moment, epoch ms: what was in force then, and before that
   * the oldest that is kept.
   */
  public LongFunction<Normal> at(int instance, int series) {
    // one that is not watched is not held against what is normal
    return near(instance)
        .flatMap(near -> history(series).map(one -> in(one, near)))
        .orElse(at -> Normal.NONE);
  }

  /**
   * From when on that is in force which is told of a moment, epoch ms, where that is later than the
   * moment: it was learned only afterwards.
   */
  public OptionalLong learnedAfter(int instance, int series, long at) {
    return near(instance).stream()
        .flatMap(near -> history(series).stream().map(one -> one.since(at, near.slot(at))))
        .mapToLong(Long::longValue)
        .filter(since -> since > at)
        .findFirst();
  }

  /**
   * What is normal for many series of an instance at one moment, epoch ms: read together, as there
   * may be thousands, and none of them kept. Without those of which nothing is learned.
   */
  public Map<Integer, Normal> at(int instance, int[] series, long at) {
    Map<Integer, Normal> found = new HashMap<>();
    near(instance)
        .ifPresent(
            near -> {
              int slot = near.slot(at);
              store
                  .normals()
                  .ask(
                      series,
                      new int[] {Timeline.weekday(slot)},
                      Instant.ofEpochMilli(at),
                      (history, id) -> found.put(id, history.at(at, slot)));
            });
    return found;
  }

  /** Takes what is normal for one series after the other. */
  @FunctionalInterface
  public interface Taking {
    void take(int series, LongFunction<Normal> normal);
  }

  /**
   * Hands over what is normal for series of an instance in a stretch of time, epoch ms: without
   * those of which nothing is learned. Reads the database where that is not about now.
   */
  public void within(int instance, int[] series, long from, long to, Taking taking) {
    Optional<AboutNow> near = near(instance);
    if (near.isEmpty()) {
      return;
    }
    if (near.get().covers(from, to)) {
      for (int id : series) {
        if (near.get().at(id, from).known()) {
          taking.take(id, at -> near.get().at(id, at));
        }
      }
      return;
    }
    Slots slots = Slots.of(near.get(), from, to);
    store
        .normals()
        .ask(
            series,
            slots.weekdays(),
            Instant.ofEpochMilli(from),
            (history, id) -> taking.take(id, at -> history.at(at, slots.at(at))));
  }

  private static LongFunction<Normal> in(BaselineHistory history, AboutNow near) {
    return at -> history.at(at, near.slot(at));
  }

  /**
   * The slots of a stretch of time, found once for all series.
   *
   * @param near the calendar of the instance
   * @param first its first quarter of an hour, counted from the epoch
   * @param slots of each quarter of an hour
   */
  private record Slots(AboutNow near, long first, int[] slots) {
    static Slots of(AboutNow near, long from, long to) {
      long first = Math.floorDiv(from, QUARTER_HOUR);
      return new Slots(
          near,
          first,
          LongStream.rangeClosed(first, Math.floorDiv(to, QUARTER_HOUR))
              .mapToInt(quarter -> near.slot(quarter * QUARTER_HOUR))
              .toArray());
    }

    int at(long at) {
      long place = Math.floorDiv(at, QUARTER_HOUR) - first;
      return place >= 0 && place < slots.length ? slots[(int) place] : near.slot(at);
    }

    int[] weekdays() {
      return IntStream.of(slots).map(Timeline::weekday).distinct().toArray();
    }
  }

  private Optional<AboutNow> near(int instance) {
    return aboutNow.getOrDefault(instance, Optional.empty());
  }

  /** An instance comes under watch: what was learned last night holds, else it is learned now. */
  public void beginSoon(int instance) {
    aboutNow.putIfAbsent(instance, Optional.empty());
    learner.execute(() -> told(instance, this::begin));
  }

  /**
   * An instance has another role now: until it is learned nothing is normal of it, be that as long
   * as the database is away. One that says so again and again is learned once a minute at most.
   */
  public void becomesAnother(int instance) {
    aboutNow.computeIfPresent(instance, (id, near) -> Optional.empty());
    if (becameAnother.asMap().putIfAbsent(instance, true) == null) {
      learner.execute(() -> told(instance, this::begin));
    }
  }

  /** Learns an instance anew in the background. */
  public void learnSoon(int instance) {
    aboutNow.putIfAbsent(instance, Optional.empty());
    learner.execute(() -> told(instance, this::learn));
  }

  /** Learns an instance anew and waits for it. */
  public void learnNow(int instance) throws InterruptedException {
    waited(() -> told(instance, this::learn));
  }

  private void waited(Runnable learning) throws InterruptedException {
    Future<?> done = learner.submit(learning);
    try {
      done.get();
    } catch (ExecutionException e) {
      throw e.getCause() instanceof RuntimeException cause
          ? cause
          : new IllegalStateException("learning failed", e.getCause());
    }
  }

  public void forget(int instance) {
    aboutNow.remove(instance);
  }

  @Scheduled(fixedDelay = 3_600_000, initialDelay = 3_600_000)
  void hourly() {
    aboutNow.keySet().forEach(id -> learner.execute(() -> told(id, this::begin)));
    // charts of what is gone show what was normal as long as something could be learned of it
    int forgotten = store.normals().forget(clock.instant().minus(Learning.HORIZON));
    if (forgotten > 0) {
      LOG.info("event=normals-forgotten series={}", forgotten);
    }
    store.normals().thin(clock.instant());
  }

  /** Time passes, and with it what lies on the heap; and what could not be taken up is owed. */
  @Scheduled(fixedDelay = 60_000, initialDelay = 60_000)
  void goOn() {
    aboutNow.values().forEach(near -> near.ifPresent(one -> one.forgetBefore(clock.millis())));
    if (aboutNow.values().stream().anyMatch(this::isDue) && goingOn.compareAndSet(false, true)) {
      learner.execute(this::takeNext);
    }
  }

  private boolean isDue(Optional<AboutNow> near) {
    return near.isEmpty() || near.get().ends(clock.millis());
  }

  private void takeNext() {
    goingOn.set(false);
    aboutNow.forEach(
        (instance, near) -> {
          if (near.isEmpty()) {
            told(instance, this::begin);
          } else if (isDue(near)) {
            told(instance, row -> take(row, near.get().zone()));
          }
        });
  }

  private interface Doing {
    void with(InstanceRow row);
  }

  private void told(int instance, Doing doing) {
    try {
      store.instances().byId(instance).ifPresentOrElse(doing::with, () -> forget(instance));
    } catch (RuntimeException e) {
      if (StoreAway.passes(e)) {
        LOG.warn(
            "event=not-learned instance={} why=\"the database does not answer in time\"", instance);
      } else if (!learner.isShutdown()) {
        // the store may be closed already when all ends
        LOG.error("event=learning-failed instance={}", instance, e);
      }
    }
  }

  private void begin(InstanceRow row) {
    Optional<Learned> before = store.normals().learned(row.id());
    if (before.isEmpty() || changedRole(row, before.get())) {
      learn(row);
    } else if (stillHolds(before.get(), row)) {
      take(row, ZoneId.of(row.zone()));
    } else if (daysAreEnough(before.get(), row)) {
      learnDays(row, before.get());
    } else {
      learn(row);
    }
  }

  private boolean changedRole(InstanceRow row, Learned before) {
    return Roles.changedSince(store.facts().of(row.id(), ROLE), before.at());
  }

  /** Whether nothing is otherwise but that days went by. */
  private boolean daysAreEnough(Learned learned, InstanceRow row) {
    return learned.zone().equals(row.zone())
        && learned.minutes() >= YOUNG_MINUTES
        && !learned.at().isAfter(clock.instant())
        && learned.at().isAfter(clock.instant().minus(MOST_DAYS))
        && !markers.changedSince(learned.at(), row);
  }

  private boolean stillHolds(Learned learned, InstanceRow row) {
    Instant now = clock.instant();
    if (learned.at().isAfter(now)) {
      // by a clock that was set back since
      return false;
    }
    Instant night = now.minus(NIGHTLY).truncatedTo(ChronoUnit.DAYS).plus(NIGHTLY);
    Instant since = learned.minutes() < YOUNG_MINUTES ? now.minus(1, ChronoUnit.HOURS) : night;
    return learned.zone().equals(row.zone()) && learned.at().isAfter(since);
  }

  private void learn(InstanceRow row) {
    AboutNow near = learning.all(row);
    near.series().forEach(histories::invalidate);
    publish(row, near);
  }

  /** Only the days of the week that are over since. */
  private void learnDays(InstanceRow row, Learned before) {
    Learning.Days learned = learning.days(row, before);
    learned.series().forEach(series -> histories.invalidate(series.id()));
    publish(row, taken(row, ZoneId.of(row.zone())).from(learned.since()));
  }

  /** Learns an instance from a time that somebody chose, keeps that by a name, and waits for it. */
  void freeze(InstanceRow row, FrozenRow frozen) throws InterruptedException {
    // one learning at a time
    waited(() -> learning.freeze(row, frozen));
  }

  /** A stretch of time of an instance, with what teaches nothing in it. */
  public Timeline timeline(InstanceRow row, long from, int minutes) {
    return learning.timeline(row, from, minutes);
  }

  /** The days that are judged as Sundays, in the zone of the instance. */
  public Set<LocalDate> holidays(InstanceRow row) {
    return markers.holidays(row);
  }

  /** Takes up what was learned before, as far as it is about now. */
  private void take(InstanceRow row, ZoneId zone) {
    publish(row, taken(row, zone));
  }

  private AboutNow taken(InstanceRow row, ZoneId zone) {
    AboutNow near = new AboutNow(zone, markers.holidays(row), clock.millis());
    int[] series = store.series().alive(row.id()).stream().mapToInt(one -> one.id()).toArray();
    store.normals().read(series, near.weekdays(), (baseline, id) -> near.add(id, baseline));
    return near;
  }

  /** Unless it is not watched any more. */
  private void publish(InstanceRow row, AboutNow near) {
    aboutNow.computeIfPresent(
        row.id(), (id, before) -> Optional.of(near.after(before, clock.millis())));
  }

  @PreDestroy
  void end() throws InterruptedException {
    learner.shutdownNow();
    learner.awaitTermination(5, TimeUnit.SECONDS);
  }
}
