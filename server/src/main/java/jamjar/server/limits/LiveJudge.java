package jamjar.server.limits;

import jamjar.core.counter.Pace;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket.Key;
import jamjar.core.limit.InForce;
import jamjar.core.limit.PastJudgings.Told;
import jamjar.core.reading.Shown;
import jamjar.core.watching.Watching;
import jamjar.core.watching.Watching.Moment;
import jamjar.server.instances.JarView;
import jamjar.server.limits.InstanceJudge.Setting;
import jamjar.server.normals.NormalsService;
import jamjar.server.recipes.Recipes;
import jamjar.server.watching.Beat;
import jamjar.server.watching.StoreThere;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.instances.InstanceRow;
import jamjar.store.intake.Intake;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Judges all instances live: when a reading comes, and when time passes without one. */
@Component
public class LiveJudge {
  private static final Logger LOG = LoggerFactory.getLogger(LiveJudge.class);
  private static final Duration BROUGHT_WITHIN = Duration.ofSeconds(10);

  private final Store store;
  private final Recipes recipes;
  private final NormalsService normals;
  private final ShippedLimits limits;
  private final Intake intake;
  private final Beat beat;
  private final StoreThere there;
  private final Clock clock;
  private final Map<Integer, InstanceJudge> judges = new ConcurrentHashMap<>();
  private final Object order = new Object();
  private volatile Instant nextOn = Instant.MIN;

  /** Stores a reading together with what it changed. */
  @FunctionalInterface
  public interface Writing<E extends Exception> {
    void write(Instant arrived, Judged judged) throws E, InterruptedException;
  }

  LiveJudge(
      Store store,
      Recipes recipes,
      NormalsService normals,
      ShippedLimits limits,
      Intake intake,
      Beat beat,
      StoreThere there,
      Clock clock) {
    this.store = store;
    this.recipes = recipes;
    this.normals = normals;
    this.limits = limits;
    this.intake = intake;
    this.beat = beat;
    this.there = there;
    this.clock = clock;
    normals.judgedBy(this::heldAgainstNormal);
  }

  /** The series of an instance that a limit holds against their normal. */
  private Set<Integer> heldAgainstNormal(int instance) {
    return inForce(instance).entrySet().stream()
        .filter(
            one ->
                one.getValue().stream()
                    .anyMatch(limit -> limit.limit().condition() == Condition.OUTSIDE))
        .map(Map.Entry::getKey)
        .collect(Collectors.toSet());
  }

  /** Begins to judge an instance where it was left, or goes on with it as it is now. */
  public void begin(InstanceRow row) {
    InstanceJudge judge;
    boolean first;
    // in the order in which limits and instances were changed
    synchronized (order) {
      judge = judges.get(row.id());
      first = judge == null;
      if (first) {
        judge = judge(row, Setting.of(row, recipes.of(row), Optional.empty(), clock.millis()));
        judges.put(row.id(), judge);
      } else {
        Optional<InstanceRow> before = Optional.of(judge.latest().row());
        judge.becomes(Setting.of(row, recipes.of(row), before, clock.millis()));
      }
    }
    bringIntoLine(judge);
    if (row.paused()) {
      normals.forget(row.id());
    } else if (first) {
      normals.beginSoon(row.id());
    } else {
      // its recipe, its zone or its times may be other ones now
      normals.learnSoon(row.id());
    }
  }

  private InstanceJudge judge(InstanceRow row, Setting setting) {
    return new InstanceJudge(
        setting,
        new StoredPast(store, row.id(), clock, this::awaitBrought),
        (series, at) -> normals.inForce(row.id(), series, at),
        limits.rules(),
        beat.now().span());
  }

  private void awaitBrought() {
    try {
      // who waits holds up others
      intake.awaitBrought(there.away() ? Duration.ZERO : BROUGHT_WITHIN);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted before what was judged was known", e);
    }
  }

  /** Ends the alerts of an instance that is gone. */
  public void removed(InstanceRow row) {
    InstanceJudge judge;
    synchronized (order) {
      judge = judges.remove(row.id());
      if (judge == null) {
        judge = judge(row, Setting.of(row, recipes.of(row), Optional.empty(), clock.millis()));
      }
    }
    judge.lock.lock();
    try {
      judge.becomes(judge.latest().removed());
      Moment now = beat.now();
      store(judge, judge.inLine(now.span(), now.wall()), now);
    } finally {
      judge.lock.unlock();
    }
    normals.forget(row.id());
  }

  /**
   * Judges what a reading closes and stores both together. It has arrived when it is taken up here:
   * what time closed before then is closed.
   *
   * @param at when the reading was taken
   */
  public <E extends Exception> void read(
      int instance, Pace source, Instant at, int[] ids, List<Shown> shown, Writing<E> writing)
      throws E, InterruptedException {
    InstanceJudge judge = judges.get(instance);
    Moment now = beat.now();
    // stamped by a clock that was set back since: kept, and judged by nobody
    boolean ahead = at.toEpochMilli() > now.wall() + Watching.LONGEST_MILLIS;
    // so is one by which it is tried whether readings are kept again: the span ends with it
    if (judge == null || ahead || !now.kept()) {
      writing.write(Instant.ofEpochMilli(now.wall()), Judged.NOTHING);
      return;
    }
    judge.lock.lockInterruptibly();
    boolean stored = false;
    try {
      now = beat.now();
      if (!now.kept()) {
        writing.write(Instant.ofEpochMilli(now.wall()), Judged.NOTHING);
        return;
      }
      writing.write(Instant.ofEpochMilli(now.wall()), judged(judge, now, source, at, ids, shown));
      stored = true;
    } finally {
      if (!stored) {
        judge.forget();
      }
      judge.lock.unlock();
    }
  }

  /**
   * What a reading changes. Where it would have to be known what stands in the store, and that does
   * not answer in time, it is kept without being judged.
   */
  private static Judged judged(
      InstanceJudge judge, Moment now, Pace source, Instant at, int[] ids, List<Shown> shown) {
    try {
      return judge.read(now.span(), source, at.toEpochMilli(), now.wall(), ids, shown);
    } catch (RuntimeException e) {
      if (!StoreAway.passes(e)) {
        throw e;
      }
      LOG.warn("event=not-judged why=\"{}\"", e.getMessage());
      judge.forget();
      return Judged.NOTHING;
    }
  }

  /** What is watched began then, epoch ms: for a while it is not held against its normal. */
  public void started(int instance, long at) {
    InstanceJudge judge = judges.get(instance);
    if (judge != null) {
      judge.started(at);
    }
  }

  /**
   * An instance is asked from now on: only then is its silence its own.
   *
   * @param late how much later than it should be, ms
   */
  public void asks(int instance, long late) {
    InstanceJudge judge = judges.get(instance);
    if (judge != null) {
      judge.asks(beat.now().wall(), late);
    }
  }

  /** An instance has answered, or failed to. */
  public void answered(int instance) {
    InstanceJudge judge = judges.get(instance);
    if (judge != null) {
      judge.answered(beat.now().wall());
    }
  }

  /**
   * An instance could not be read.
   *
   * @param at when it was asked
   * @param refused whether something there answered
   */
  public void unread(int instance, Instant at, boolean refused) {
    judge(instance, (judge, now) -> judge.unread(now.span(), at.toEpochMilli(), refused));
  }

  /** What was judged afterwards and has not ended by then goes on live, unless it does already. */
  void goOn(int instance, Key key, Told told) {
    judge(instance, (judge, now) -> judge.goOn(now.span(), now.wall(), key, told));
  }

  /**
   * Judges what a night's forecast says of what will be reached.
   *
   * @param night when the forecast is of, epoch ms
   * @param days by number of the series in how many days it will be
   */
  public void forecast(int instance, long night, Map<Integer, Double> days) {
    judge(instance, (judge, now) -> judge.forecast(now.span(), now.wall(), night, days));
  }

  /** Judges one and stores what that changed; nothing while nothing is kept. */
  private void judge(int instance, BiFunction<InstanceJudge, Moment, Judged> judging) {
    InstanceJudge judge = judges.get(instance);
    if (judge == null) {
      return;
    }
    judge.lock.lock();
    try {
      Moment now = beat.now();
      if (now.kept()) {
        store(judge, judging.apply(judge, now), now);
      }
    } catch (RuntimeException e) {
      judge.forget();
      throw e;
    } finally {
      judge.lock.unlock();
    }
  }

  /** What is in force on an instance, by number of the series; 0 for the whole instance. */
  public Map<Integer, List<InForce>> inForce(int instance) {
    InstanceJudge judge = judges.get(instance);
    return judge == null ? Map.of() : judge.inForce();
  }

  /** How full the jar of an instance is; empty without limits or values. */
  public Optional<JarView> jar(int instance, int shownBefore) {
    InstanceJudge judge = judges.get(instance);
    if (judge == null) {
      return Optional.empty();
    }
    judge.lock.lock();
    try {
      return Jars.of(judge, shownBefore, series -> normals.now(instance, series, clock.millis()));
    } finally {
      judge.lock.unlock();
    }
  }

  /**
   * Judges everything by the rules as they are now.
   *
   * @param at since when they are so
   */
  public void rulesChanged(Instant at) {
    synchronized (order) {
      var rules = limits.rules();
      nextOn = limits.nextOn();
      judges.values().forEach(judge -> judge.rules(rules, at.toEpochMilli()));
    }
    // one that can't be brought into line now is with its next judging; the rest are
    judges.values().forEach(this::bringIntoLine);
  }

  private void bringIntoLine(InstanceJudge judge) {
    if (judge.lock.tryLock()) {
      try {
        Moment now = beat.now();
        store(judge, judge.inLine(now.span(), now.wall()), now);
      } catch (RuntimeException e) {
        LOG.warn("event=not-in-line why=\"{}\"", e.getMessage());
        judge.forget();
      } finally {
        judge.lock.unlock();
      }
    }
  }

  @Scheduled(fixedRate = 1000)
  void time() {
    Moment now = beat.now();
    if (!now.kept()) {
      return;
    }
    if (nextOn.equals(Instant.MIN)) {
      nextOn = limits.nextOn();
    } else if (!clock.instant().isBefore(nextOn)) {
      rulesChanged(nextOn);
    }
    for (InstanceJudge judge : judges.values()) {
      if (judge.lock.tryLock()) {
        try {
          // locks may take their time: this is the moment that is judged
          Moment moment = beat.now();
          if (moment.kept()) {
            store(judge, judge.time(moment.span(), moment.wall()), moment);
          }
        } catch (RuntimeException e) {
          judge.forget();
          LOG.warn("event=judging-failed why=\"{}\"", e.getMessage());
        } finally {
          judge.lock.unlock();
        }
      }
    }
  }

  private void store(InstanceJudge judge, Judged judged, Moment now) {
    try {
      intake.judged(judged, Instant.ofEpochMilli(now.wall()));
    } catch (RuntimeException e) {
      judge.forget();
      throw e;
    }
  }
}
