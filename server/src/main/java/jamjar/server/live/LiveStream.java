package jamjar.server.live;

import jamjar.server.live.Greeting.Told;
import java.io.IOException;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.Executor;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * One open stream. Of events that take each other's place only the latest waits; of the others what
 * its client does not take in time is dropped, and it is told to reload.
 */
final class LiveStream {
  private static final int MOST_WAITING = 500;

  private final String id = UUID.randomUUID().toString();
  private final SseEmitter emitter;
  private final Executor senders;
  private final Consumer<LiveStream> gone;
  private final Map<String, Told> waiting = new LinkedHashMap<>();
  private int lasting;
  private long order;
  private boolean sending;
  private final BooleanSupplier stays;
  private volatile Set<Integer> instances;

  /**
   * @param stays whether who opened it may still see what it tells
   */
  LiveStream(
      SseEmitter emitter,
      Set<Integer> instances,
      BooleanSupplier stays,
      Executor senders,
      Consumer<LiveStream> gone) {
    this.emitter = emitter;
    this.stays = stays;
    this.instances = Set.copyOf(instances);
    this.senders = senders;
    this.gone = gone;
  }

  /** Nobody else can name it. */
  String id() {
    return id;
  }

  boolean stays() {
    return stays.getAsBoolean();
  }

  void want(Set<Integer> others) {
    instances = Set.copyOf(others);
  }

  boolean wants(int instance) {
    return instances.contains(instance);
  }

  /** Hands over an event; never blocks. */
  synchronized void send(Told event) {
    if (event.instead().isEmpty()) {
      if (lasting >= MOST_WAITING) {
        // what takes each other's place is at most one for each instance: it may stay
        waiting.values().removeIf(told -> told.instead().isEmpty());
        lasting = 0;
        put(new Told("reload", "", "", Map.of()));
      }
      put(event);
    } else {
      waiting.put(event.instead(), event);
    }
    if (!sending) {
      sending = true;
      senders.execute(this::drain);
    }
  }

  private void put(Told event) {
    waiting.put("#" + order++, event);
    lasting++;
  }

  void end() {
    try {
      emitter.complete();
    } catch (IllegalStateException e) {
      // its client is gone already
    }
  }

  private synchronized Told next() {
    Iterator<Told> first = waiting.values().iterator();
    if (!first.hasNext()) {
      sending = false;
      return null;
    }
    Told event = first.next();
    first.remove();
    lasting -= event.instead().isEmpty() ? 1 : 0;
    return event;
  }

  private void drain() {
    for (Told event = next(); event != null; event = next()) {
      try {
        SseEmitter.SseEventBuilder builder = SseEmitter.event().name(event.name());
        if (!event.id().isEmpty()) {
          builder.id(event.id());
        }
        emitter.send(builder.data(event.data()));
      } catch (IOException | RuntimeException e) {
        // whatever keeps it from being told, its client opens the next one
        gone.accept(this);
        return;
      }
    }
  }
}
