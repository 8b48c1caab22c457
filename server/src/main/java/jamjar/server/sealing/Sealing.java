package jamjar.server.sealing;

import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import jamjar.server.settings.Disk;
import jamjar.server.watching.StoreThere;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.intake.Intake;
import jamjar.store.keeping.Keeping;
import jamjar.store.readings.Sealer;
import jamjar.store.readings.StoreSize;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import javax.management.JMException;
import javax.management.MBeanServer;
import javax.management.ObjectName;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Packs what is stored and old enough, in the background, and tells how large the store is. */
@Component
class Sealing implements StoreMXBean {
  private static final Logger LOG = LoggerFactory.getLogger(Sealing.class);
  private static final long EVERY_SECONDS = 60;
  private static final long UNKNOWN = -1;
  private static final Duration SAMPLES_KEPT = Duration.ofDays(35);
  private static final Duration STATEMENTS_KEPT = Duration.ofDays(42);
  private static final Duration STATEMENT_HOURS_KEPT = Duration.ofDays(400);
  private static final Duration AGED_EVERY = Duration.ofHours(1);

  private final MBeanServer server = ManagementFactory.getPlatformMBeanServer();
  // a process may hold more than one server, as those of tests do
  private final String name = "jamjar:type=Store,server=" + System.identityHashCode(this);
  private final Store store;
  private final Intake intake;
  private final StoreThere there;
  private final Clock clock;
  private final Disk disk;
  private final ScheduledExecutorService thread =
      Executors.newSingleThreadScheduledExecutor(
          task -> {
            Thread made = new Thread(task, "sealer");
            made.setDaemon(true);
            return made;
          });
  private volatile Optional<StoreSize> size = Optional.empty();
  private volatile long spans;
  private long agedNanos = System.nanoTime() - AGED_EVERY.toNanos();

  Sealing(Store store, Intake intake, Disk disk, StoreThere there, Clock clock) {
    this.store = store;
    this.intake = intake;
    this.there = there;
    this.clock = clock;
    this.disk = disk;
  }

  @PostConstruct
  void begin() throws JMException {
    server.registerMBean(this, new ObjectName(name));
    thread.scheduleWithFixedDelay(this::run, 2, EVERY_SECONDS, TimeUnit.SECONDS);
  }

  private void run() {
    if (there.away()) {
      return;
    }
    try {
      long began = System.nanoTime();
      // what is kept but not brought in yet did not come late
      Duration behind = Duration.ofMillis((long) (1000 * intake.behindSeconds()));
      Sealer.Done done = store.readings().sealer().run(clock.instant().minus(behind));
      spans += done.spans();
      // who has just changed for how long may think better of it
      int dropped =
          store
              .readings()
              .retention()
              .run(
                  clock.instant(),
                  store.keeping().settled(clock.instant().minus(Keeping.UNTIL_IT_GOES)));
      if (dropped > 0) {
        LOG.info("event=aged-out tables={}", dropped);
      }
      Instant until = clock.instant().minus(behind);
      int hours =
          store.samples().seal(until) + store.statements().seal(until) + store.logs().seal(until);
      // all of them are looked through: not each minute
      boolean due = System.nanoTime() - agedNanos > AGED_EVERY.toNanos();
      int aged = due ? aged(clock.instant()) : 0;
      agedNanos = due ? System.nanoTime() : agedNanos;
      if (hours + aged > 0) {
        LOG.info("event=hours-packed hours={} aged_out={}", hours, aged);
      }
      size = Optional.of(store.readings().size());
      if (done.any()) {
        LOG.info(
            "event=packed spans={} days={} again={} dropped={} failed={} took_ms={}",
            done.spans(),
            done.days(),
            done.again(),
            done.dropped(),
            done.failed(),
            TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - began));
      }
    } catch (RuntimeException e) {
      if (StoreAway.is(e) || thread.isShutdown()) {
        LOG.debug("event=not-packed why=\"{}\"", e.toString());
      } else {
        // the rows stay, and are sealed next time
        LOG.warn("event=not-packed", e);
      }
    }
  }

  private int aged(Instant now) {
    return store.samples().age(now.minus(SAMPLES_KEPT))
        + store.logs().age(now.minus(SAMPLES_KEPT))
        + store.dumps().age(now.minus(SAMPLES_KEPT))
        + store.statements().age(now.minus(STATEMENTS_KEPT), now.minus(STATEMENT_HOURS_KEPT));
  }

  @Override
  public long getSizeBytes() {
    return size.map(StoreSize::bytes).orElse(UNKNOWN);
  }

  @Override
  public long getRowBytes() {
    return size.map(StoreSize::rowBytes).orElse(UNKNOWN);
  }

  @Override
  public long getFreeBytes() {
    return disk.free().orElse(UNKNOWN);
  }

  @Override
  public double getUnsealedSeconds() {
    return size.flatMap(StoreSize::sealedUntil)
        .map(until -> Duration.between(until, clock.instant()).toMillis() / 1000.0)
        .orElse((double) UNKNOWN);
  }

  @Override
  public long getSetAside() {
    return size.map(StoreSize::setAside).orElse(UNKNOWN);
  }

  @Override
  public long getSealedSpans() {
    return spans;
  }

  @PreDestroy
  void end() throws JMException, InterruptedException {
    server.unregisterMBean(new ObjectName(name));
    thread.shutdownNow();
    thread.awaitTermination(5, TimeUnit.SECONDS);
  }
}
