package jamjar.server.live;

import jakarta.annotation.PreDestroy;
import jamjar.server.live.Greeting.Told;
import jamjar.server.problems.Problem;
import jamjar.server.security.Sight;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Supplier;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** All open live streams. A slow client is told to reload rather than buffered for. */
@Component
public class LiveStreams {
  /** Each holds a thread while it is told something. */
  static final int MOST = 100;

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

  /**
   * @param looks what who opens it may be told of; nothing where they may not any more
   */
  SseEmitter open(Set<Integer> instances, Supplier<Optional<Sight>> looks, List<Told> first) {
    SseEmitter emitter = new SseEmitter(0L);
    LiveStream stream = new LiveStream(emitter, instances, looks, senders, streams::remove);
    emitter.onCompletion(() -> streams.remove(stream));
    emitter.onError(e -> streams.remove(stream));
    synchronized (streams) {
      if (streams.size() >= MOST) {
        throw Problem.busy(
            "There are " + MOST + " live streams already, the most there can be: close some tabs.");
      }
      streams.add(stream);
    }
    stream.send(new Told("stream", 0, "", "", Map.of("id", stream.id())));
    stream.send(beatNow());
    first.forEach(stream::send);
    return emitter;
  }

  /** What an open stream is to tell from now on. */
  void want(String id, Set<Integer> instances) {
    streams.stream()
        .filter(stream -> stream.id().equals(id))
        .findAny()
        .orElseThrow(() -> Problem.unknown("This live stream is not open any more: open another."))
        .want(instances);
  }

  /** Whether anybody wants to be told of an instance. */
  public boolean wanted(int instance) {
    return streams.stream().anyMatch(stream -> stream.wants(instance));
  }

  /** Tells those who want to be told of its instance. */
  public void tellWho(Told event) {
    for (LiveStream stream : streams) {
      if (stream.wants(event.instance())) {
        stream.send(event);
      }
    }
  }

  /** Tells all who may know of it. */
  public void tell(Told event) {
    streams.forEach(stream -> stream.send(event));
  }

  /**
   * Tells that something is not as it was: fetch it again.
   *
   * @param what alerts, limits or markers
   */
  public void changed(String what) {
    tell(new Told("changed", 0, "", "changed/" + what, Map.of("what", what)));
  }

  @Scheduled(fixedRate = 2000)
  void beat() {
    tell(beatNow());
  }

  /** Who was signed out is told nothing more, and who has another scope of other instances. */
  @Scheduled(fixedRate = 5000)
  void lookAgain() {
    streams.forEach(LiveStream::lookAgain);
  }

  private Told beatNow() {
    return new Told("beat", 0, "", "beat", Map.of("now", clock.millis()));
  }

  @PreDestroy
  void end() {
    streams.forEach(LiveStream::end);
    senders.shutdownNow();
  }
}
