package jamjar.server.live;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Map;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** One open stream. What its client does not take in time is dropped, and it is told to reload. */
final class LiveStream {
  private static final int MOST_WAITING = 500;

  private final SseEmitter emitter;
  private final Set<Integer> instances;
  private final Executor senders;
  private final Consumer<LiveStream> gone;
  private final Queue<Event> waiting = new ArrayDeque<>();
  private boolean sending;

  private record Event(String name, String id, Object data) {}

  LiveStream(
      SseEmitter emitter, Set<Integer> instances, Executor senders, Consumer<LiveStream> gone) {
    this.emitter = emitter;
    this.instances = instances;
    this.senders = senders;
    this.gone = gone;
  }

  boolean wants(int instance) {
    return instances.contains(instance);
  }

  /** Hands over an event; never blocks. */
  synchronized void send(String name, String id, Object data) {
    if (waiting.size() >= MOST_WAITING) {
      waiting.clear();
      waiting.add(new Event("reload", "", Map.of()));
    }
    waiting.add(new Event(name, id, data));
    if (!sending) {
      sending = true;
      senders.execute(this::drain);
    }
  }

  void end() {
    try {
      emitter.complete();
    } catch (IllegalStateException e) {
      // its client is gone already
    }
  }

  private void drain() {
    while (true) {
      Event event;
      synchronized (this) {
        event = waiting.poll();
        if (event == null) {
          sending = false;
          return;
        }
      }
      try {
        SseEmitter.SseEventBuilder builder = SseEmitter.event().name(event.name());
        if (!event.id().isEmpty()) {
          builder.id(event.id());
        }
        emitter.send(builder.data(event.data()));
      } catch (IOException | IllegalStateException e) {
        gone.accept(this);
        return;
      }
    }
  }
}
