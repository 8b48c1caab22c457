package jamjar.server.telling;

import jakarta.annotation.PreDestroy;
import jamjar.server.telling.PlanBody.HeartbeatBody;
import jamjar.server.watch.Watch;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Tells at an interval that Jam Jar is there: who misses it knows that nobody watches. */
@Component
class Heartbeats {
  private static final Logger LOG = LoggerFactory.getLogger(Heartbeats.class);

  private final Plans plans;
  private final Outbox outbox;
  private final Sending sending;
  private final Links links;
  private final Watch watch;
  private final Telling telling;
  private final Clock clock;
  private final Map<HeartbeatBody, Last> lasts = new ConcurrentHashMap<>();
  private final ExecutorService beating =
      Executors.newCachedThreadPool(
          task -> {
            Thread thread = new Thread(task, "heartbeat");
            thread.setDaemon(true);
            return thread;
          });

  /** The last one, and what came of it. */
  record Last(Instant at, Optional<Outcome> outcome) {}

  Heartbeats(
      Plans plans,
      Outbox outbox,
      Sending sending,
      Links links,
      Watch watch,
      Telling telling,
      Clock clock) {
    this.plans = plans;
    this.outbox = outbox;
    this.sending = sending;
    this.links = links;
    this.watch = watch;
    this.telling = telling;
    this.clock = clock;
  }

  Optional<Last> last(HeartbeatBody one) {
    return Optional.ofNullable(lasts.get(one));
  }

  @Scheduled(fixedRate = 5000)
  void beat() {
    Instant now = clock.instant();
    List<HeartbeatBody> all = plans.held().body().heartbeats();
    lasts.keySet().retainAll(all);
    for (HeartbeatBody one : all) {
      Last last = lasts.get(one);
      boolean underWay = last != null && last.outcome().isEmpty();
      if (!underWay
          && (last == null || !now.isBefore(last.at().plusSeconds(60L * one.everyMinutes())))) {
        lasts.put(one, new Last(now, Optional.empty()));
        beating.execute(() -> send(one, now));
      }
    }
  }

  private void send(HeartbeatBody one, Instant now) {
    String words =
        "Jam Jar is there: "
            + watch.keptLately()
            + " of "
            + watch.counted().size()
            + " instances read, "
            + outbox.waiting()
            + " messages waiting";
    boolean goesOn = telling.decided().map(at -> at.isAfter(now.minusSeconds(120))).orElse(false);
    String body = words + "." + (goesOn ? "" : "\n\nTelling itself stands still: look at the log.");
    Letter letter =
        new Letter(
            "heartbeat-" + now.toEpochMilli() + "/" + one.channel(),
            "heartbeat",
            "none",
            "heartbeat",
            "",
            one.address(),
            List.of(),
            words,
            body,
            "",
            links.base(),
            null,
            now.toEpochMilli());
    Outcome outcome = sending.attempt(one.channel(), letter);
    if (outcome.state() != Outcome.State.SENT) {
      LOG.warn(
          "event=heartbeat-not-sent channel=\"{}\" why=\"{}\"", one.channel(), outcome.answer());
    }
    lasts.replace(one, new Last(now, Optional.of(outcome)));
  }

  @PreDestroy
  void end() {
    beating.shutdownNow();
  }
}
