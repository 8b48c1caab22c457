package jamjar.server.preflight;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.annotation.PreDestroy;
import jamjar.core.baseline.Departing.Departure;
import jamjar.core.reading.Shown;
import jamjar.server.instances.CheckView;
import jamjar.server.instances.InstanceState;
import jamjar.server.watch.WatchEvents;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * What the checks of each instance found last. One that goes silent is checked by itself, so that
 * the reason stands there before anybody asks.
 */
@Component
public class LastChecks implements WatchEvents {
  private static final Logger LOG = LoggerFactory.getLogger(LastChecks.class);
  private static final int WAITING = 200;

  private final Store store;
  private final Preflight preflight;
  private final Clock clock;
  private final Map<Integer, Checked> last = new ConcurrentHashMap<>();
  private final Map<Integer, String> versions = new ConcurrentHashMap<>();
  private final Set<Integer> silent = ConcurrentHashMap.newKeySet();
  // when many fall silent at once the last of them are not tried: the reason is one and the same
  private final ThreadPoolExecutor tries =
      new ThreadPoolExecutor(
          2,
          2,
          10,
          TimeUnit.SECONDS,
          new ArrayBlockingQueue<>(WAITING),
          task -> {
            Thread thread = new Thread(task, "preflight");
            thread.setDaemon(true);
            return thread;
          },
          new ThreadPoolExecutor.DiscardPolicy());

  /**
   * @param at when it was tried, epoch ms; null when never
   * @param by why it was tried: asked, silence, or version for one that is another version now
   */
  public record Checked(
      @Schema(
              types = {"integer", "null"},
              format = "int64")
          Long at,
      String by,
      List<CheckView> checks) {
    static final Checked NEVER = new Checked(null, "", List.of());
  }

  LastChecks(Store store, Preflight preflight, Clock clock) {
    this.store = store;
    this.preflight = preflight;
    this.clock = clock;
  }

  /** What was found last. */
  public Checked of(int instance) {
    return last.getOrDefault(instance, Checked.NEVER);
  }

  /** Tries an instance now, as it is stored. */
  List<CheckView> check(InstanceRow row) {
    List<CheckView> checks = preflight.of(row);
    last.put(row.id(), new Checked(clock.millis(), "asked", checks));
    return checks;
  }

  @Override
  public void state(InstanceState state) {
    int instance = state.instance();
    if (!state.state().cutOff()) {
      silent.remove(instance);
    } else if (silent.add(instance)) {
      tries.execute(() -> attempt(instance, "silence"));
    }
  }

  private void attempt(int instance, String by) {
    try {
      Optional<InstanceRow> row = store.instances().byId(instance);
      if (row.isPresent()) {
        List<CheckView> checks = preflight.of(row.get());
        last.put(instance, new Checked(clock.millis(), by, checks));
      }
    } catch (RuntimeException e) {
      LOG.warn("event=not-checked instance={} why=\"{}\"", instance, e.getMessage());
    }
  }

  /** Another version may tell its counters otherwise: what it lacks stands there from then on. */
  @Override
  public void facts(int instance, Instant at, Map<String, String> facts) {
    String version = facts.getOrDefault("version", "");
    String before = versions.put(instance, version);
    if (before != null && !before.equals(version)) {
      tries.execute(() -> attempt(instance, "version"));
    }
  }

  @Override
  public void read(
      int instance, Instant at, int[] ids, List<Shown> shown, Map<Integer, Departure> departed) {
    // only silence is of interest
  }

  @Override
  public void removed(int instance) {
    last.remove(instance);
    versions.remove(instance);
    silent.remove(instance);
  }

  @PreDestroy
  void end() {
    tries.shutdownNow();
  }
}
