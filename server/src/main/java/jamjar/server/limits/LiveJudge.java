package jamjar.server.limits;

import jamjar.core.limit.InForce;
import jamjar.core.reading.Shown;
import jamjar.server.live.LiveStreams;
import jamjar.server.normals.NormalsService;
import jamjar.server.recipes.Recipes;
import jamjar.server.watch.Source;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Judges all instances live: when a reading comes, and when time passes without one. */
@Component
public class LiveJudge {
  private static final Logger LOG = LoggerFactory.getLogger(LiveJudge.class);

  private final Store store;
  private final Recipes recipes;
  private final NormalsService normals;
  private final ShippedLimits limits;
  private final LiveStreams live;
  private final Clock clock;
  private final Map<Integer, InstanceJudge> judges = new ConcurrentHashMap<>();
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
      LiveStreams live,
      Clock clock) {
    this.store = store;
    this.recipes = recipes;
    this.normals = normals;
    this.limits = limits;
    this.live = live;
    this.clock = clock;
  }

  /** Begins to judge an instance, where it was left. */
  public void begin(InstanceRow row) {
    judges.put(
        row.id(),
        new InstanceJudge(
            row,
            store,
            recipes.of(row),
            (series, at) -> normals.at(row.id(), series, at),
            limits.rules(),
            clock.millis()));
    normals.learnSoon(row.id());
  }

  /** Leaves an instance where it is. */
  public void end(int instance) {
    judges.remove(instance);
    normals.forget(instance);
  }

  /** Ends the alerts of an instance that is gone. */
  public void retire(int instance) {
    InstanceJudge judge = judges.remove(instance);
    if (judge != null) {
      store(judge, judge.retire(clock.millis()));
    }
    normals.forget(instance);
  }

  /**
   * Judges what a reading closes and stores both together. It has arrived when it is taken up here:
   * what time closed before then is closed.
   *
   * @param at when the reading was taken
   */
  public <E extends Exception> void read(
      int instance, Source source, Instant at, int[] ids, List<Shown> shown, Writing<E> writing)
      throws E, InterruptedException {
    InstanceJudge judge = judges.get(instance);
    if (judge == null) {
      writing.write(clock.instant(), Judged.NOTHING);
      return;
    }
    judge.lock.lockInterruptibly();
    boolean stored = false;
    try {
      Instant arrived = clock.instant();
      Judged judged = judge.read(source, at.toEpochMilli(), arrived.toEpochMilli(), ids, shown);
      writing.write(arrived, judged);
      stored = true;
      tell(judged);
    } finally {
      if (!stored) {
        judge.forget();
      }
      judge.lock.unlock();
    }
  }

  /** What is in force on an instance, by number of the series; 0 for the whole instance. */
  public Map<Integer, List<InForce>> inForce(int instance) {
    InstanceJudge judge = judges.get(instance);
    if (judge == null) {
      return Map.of();
    }
    judge.lock.lock();
    try {
      return judge.inForce();
    } finally {
      judge.lock.unlock();
    }
  }

  /** How full the jar of an instance is; empty without limits or values. */
  public Optional<JarView> jar(int instance, int shownBefore) {
    InstanceJudge judge = judges.get(instance);
    if (judge == null) {
      return Optional.empty();
    }
    judge.lock.lock();
    try {
      return JarView.of(judge, shownBefore, series -> normals.at(instance, series, clock.millis()));
    } finally {
      judge.lock.unlock();
    }
  }

  /** Judges everything by the rules as they are now. */
  public void rulesChanged() {
    var rules = limits.rules();
    nextOn = limits.nextOn();
    for (InstanceJudge judge : judges.values()) {
      judge.lock.lock();
      try {
        store(judge, judge.changeRules(rules, clock.millis()));
      } finally {
        judge.lock.unlock();
      }
    }
  }

  @Scheduled(fixedRate = 1000)
  void time() {
    if (nextOn.equals(Instant.MIN)) {
      nextOn = limits.nextOn();
    } else if (!clock.instant().isBefore(nextOn)) {
      rulesChanged();
    }
    long now = clock.millis();
    for (InstanceJudge judge : judges.values()) {
      if (judge.lock.tryLock()) {
        try {
          store(judge, judge.time(now));
        } catch (RuntimeException e) {
          judge.forget();
          LOG.warn("event=judging-failed why=\"{}\"", e.getMessage());
        } finally {
          judge.lock.unlock();
        }
      }
    }
  }

  private void store(InstanceJudge judge, Judged judged) {
    try {
      store.judged().write(judged);
      tell(judged);
    } catch (RuntimeException e) {
      judge.forget();
      throw e;
    }
  }

  private void tell(Judged judged) {
    boolean passed = judged.changes().stream().anyMatch(c -> !c.transitions().isEmpty());
    if (passed) {
      live.changed("alerts");
    }
  }
}
