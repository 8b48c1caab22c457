package jamjar.server.live;

import jamjar.server.live.Greeting.Told;
import jamjar.server.security.Sight;
import java.io.IOException;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.Executor;
import java.util.function.Consumer;
import java.util.function.Supplier;
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
  private final Supplier<Optional<Sight>> looks;
  private volatile Sight sight;
  private volatile Set<Integer> instances;

  /**
   * @param looks what who opened it may be told of; nothing where they may not any more
   */
  LiveStream(
      SseEmitter emitter,
      Set<Integer> instances,
      Supplier<Optional<Sight>> looks,
      Executor senders,
      Consumer<LiveStream> gone) {
    this.emitter = emitter;
    this.looks = looks;
    this.sight = looks.get().orElse(Sight.NOTHING);
    this.instances = Set.copyOf(instances);
    this.senders = senders;
    this.gone = gone;
  }

  /** Nobody else can name it. */
  String id() {
    return id;
  }

  /** Ends where nobody may be told any more; of what is seen anew all is to be fetched. */
  void lookAgain() {
    Optional<Sight> now = looks.get();
    if (now.isEmpty()) {
      end();
      return;
    }
    boolean other =
        !now.get().scope().equals(sight.scope()) || !now.get().numbers().equals(sight.numbers());
    sight = now.get();
    if (other) {
      send(new Told("reload", 0, "", "", Map.of()));
    }
  }

  void want(Set<Integer> others) {
    instances = Set.copyOf(others);
  }

  boolean wants(int instance) {
    return instances.contains(instance) && sight.holds(instance);
  }

  /** Hands over an event, if it may be told; never blocks. */
  synchronized void send(Told event) {
    if (event.instance() != 0 && !sight.holds(event.instance())) {
      return;
    }
    if (event.instead().isEmpty()) {
      if (lasting >= MOST_WAITING) {
        // what takes each other's place is at most one for each instance: it may stay
        waiting.values().removeIf(told -> told.instead().isEmpty());
        lasting = 0;
        put(new Told("reload", 0, "", "", Map.of()));
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
