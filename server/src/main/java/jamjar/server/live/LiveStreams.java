package jamjar.server.live;

import jakarta.annotation.PreDestroy;
import jamjar.core.reading.Shown;
import jamjar.server.instances.InstanceState;
import jamjar.server.watch.WatchEvents;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** All open live streams. A slow client is told to reload rather than buffered for. */
@Component
public class LiveStreams implements WatchEvents {
  private final List<LiveStream> streams = new CopyOnWriteArrayList<>();
  private final ExecutorService senders =
      Executors.newCachedThreadPool(
          task -> {
            Thread thread = new Thread(task, "live-sender");
            thread.setDaemon(true);
            return thread;
          });
  private final Clock clock;

  LiveStreams(Clock clock) {
    this.clock = clock;
  }

  SseEmitter open(Set<Integer> instances, List<InstanceState> states) {
    SseEmitter emitter = new SseEmitter(0L);
    LiveStream stream = new LiveStream(emitter, Set.copyOf(instances), senders, streams::remove);
    emitter.onCompletion(() -> streams.remove(stream));
    emitter.onError(e -> streams.remove(stream));
    streams.add(stream);
    stream.send("beat", "", Map.of("now", clock.millis()));
    states.forEach(state -> stream.send("state", "", state));
    return emitter;
  }

  @Override
  public void read(int instance, Instant at, int[] ids, List<Shown> shown) {
    if (streams.stream().noneMatch(stream -> stream.wants(instance))) {
      return;
    }
    List<Integer> series = new ArrayList<>(ids.length);
    List<Double> values = new ArrayList<>(ids.length);
    List<String> why = new ArrayList<>(ids.length);
    for (int i = 0; i < ids.length; i++) {
      Shown value = shown.get(i);
      boolean there = value.why() == null && Double.isFinite(value.value());
      series.add(ids[i]);
      values.add(there ? (Double) value.value() : null);
      why.add(value.why() == null ? "" : value.why().words());
    }
    LiveReading reading = new LiveReading(instance, at.toEpochMilli(), series, values, why);
    for (LiveStream stream : streams) {
      if (stream.wants(instance)) {
        stream.send("reading", instance + "@" + at.toEpochMilli(), reading);
      }
    }
  }

  @Override
  public void state(InstanceState state) {
    streams.forEach(stream -> stream.send("state", "", state));
  }

  @Override
  public void removed(int instance) {
    streams.forEach(stream -> stream.send("removed", "", Map.of("instance", instance)));
  }

  /**
   * Tells that something is not as it was: fetch it again.
   *
   * @param what alerts, limits or markers
   */
  public void changed(String what) {
    streams.forEach(stream -> stream.send("changed", "", Map.of("what", what)));
  }

  @Scheduled(fixedRate = 2000)
  void beat() {
    streams.forEach(stream -> stream.send("beat", "", Map.of("now", clock.millis())));
  }

  @PreDestroy
  void end() {
    streams.forEach(LiveStream::end);
    senders.shutdownNow();
  }
}
