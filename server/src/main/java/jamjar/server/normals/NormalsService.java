package jamjar.server.normals;

import jakarta.annotation.PreDestroy;
import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.server.markers.MarkerService;
import jamjar.server.readings.SeriesSamples;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/**
 * What is normal for each series: learned from the 1-minute means of the stored readings of the
 * last five weeks when an instance comes under watch, then hourly and on demand, one instance at a
 * time.
 */
@Service
public class NormalsService {
  private static final Logger LOG = LoggerFactory.getLogger(NormalsService.class);
  private static final Duration HORIZON = Duration.ofDays(35);
  private static final int LONGEST_AT_ONCE_MINUTES = 35 * 1440;

  private final Store store;
  private final SeriesSamples samples;
  private final MarkerService markers;
  private final Clock clock;
  private final Map<Integer, Learned> learned = new ConcurrentHashMap<>();
  private final ExecutorService learner =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread thread = new Thread(task, "learner");
            thread.setDaemon(true);
            return thread;
          });

  /**
   * What was learned of one instance.
   *
   * @param at epoch ms
   */
  public record Learned(long at, ZoneId zone, Map<Integer, Baseline> baselines) {}

  NormalsService(Store store, SeriesSamples samples, MarkerService markers, Clock clock) {
    this.store = store;
    this.samples = samples;
    this.markers = markers;
    this.clock = clock;
  }

  /** What is normal for a series of an instance at a moment, epoch ms. */
  public Normal at(int instance, int series, long at) {
    Learned all = learned.get(instance);
    return all == null
        ? Normal.NONE
        : inSlot(instance, series, Timeline.slotOf(at, all.zone(), Set.of()));
  }

  /** What is normal for a series in a slot of the week. */
  Normal inSlot(int instance, int series, int slot) {
    Learned all = learned.get(instance);
    Baseline baseline = all == null ? null : all.baselines().get(series);
    return baseline == null ? Normal.NONE : baseline.at(slot);
  }

  /** Learns an instance anew in the background. */
  public void learnSoon(int instance) {
    learner.execute(() -> learn(instance));
  }

  /** Learns an instance anew and waits for it. */
  public void learnNow(int instance) throws InterruptedException {
    Future<?> done = learner.submit(() -> learn(instance));
    try {
      done.get();
    } catch (ExecutionException e) {
      throw new IllegalStateException("learning failed", e.getCause());
    }
  }

  public void forget(int instance) {
    learned.remove(instance);
  }

  @Scheduled(fixedDelay = 3_600_000, initialDelay = 3_600_000)
  void hourly() {
    store.instances().all().forEach(row -> learnSoon(row.id()));
  }

  private void learn(int instance) {
    try {
      store.instances().byId(instance).ifPresent(this::learn);
    } catch (RuntimeException e) {
      // the store may be closed already when all ends
      if (!learner.isShutdown()) {
        LOG.error("event=learning-failed instance={}", instance, e);
      }
    }
  }

  private void learn(InstanceRow row) {
    long began = clock.millis();
    long to = Math.floorDiv(began, Timeline.MINUTE) * Timeline.MINUTE;
    long from =
        store
            .readings()
            .firstAt(row.id(), Instant.ofEpochMilli(to).minus(HORIZON))
            .map(at -> Math.floorDiv(at.toEpochMilli(), Timeline.MINUTE) * Timeline.MINUTE)
            .orElse(to);
    int minutes = (int) Math.min(LONGEST_AT_ONCE_MINUTES, (to - from) / Timeline.MINUTE);
    ZoneId zone = ZoneId.of(row.zone());
    List<LeftOut> leftOut = markers.leftOut(row, from, to);
    Timeline timeline = new Timeline(from, minutes, zone, Set.of(), leftOut);
    Map<Integer, Baseline> baselines = new HashMap<>();
    samples
        .minutes(row.id(), from, minutes)
        .forEach((series, values) -> baselines.put(series, Baseline.learn(timeline, values)));
    learned.put(row.id(), new Learned(clock.millis(), zone, baselines));
    LOG.info(
        "event=learned instance={} series={} minutes={} took_ms={}",
        row.id(),
        baselines.size(),
        minutes,
        clock.millis() - began);
  }

  @PreDestroy
  void end() throws InterruptedException {
    learner.shutdownNow();
    learner.awaitTermination(5, TimeUnit.SECONDS);
  }
}
