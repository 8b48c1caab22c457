package jamjar.server.telling;

import jakarta.annotation.PreDestroy;
import jamjar.core.limit.Condition;
import jamjar.core.telling.Happened;
import jamjar.core.telling.Teller;
import jamjar.core.telling.Told;
import jamjar.server.alerts.OnKnown;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.intake.Intake;
import jamjar.store.intake.NotKept;
import jamjar.store.telling.MessageRow;
import jamjar.store.telling.MessageStateRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;

/**
 * Tells. It hears of what is kept in the journal, as it is kept, and needs no database for it: what
 * it decides is kept in the journal first and sent then. How far it has decided is kept too: after
 * a start it takes up what happened before from the database, and goes on where it was.
 */
@Component
class Telling implements OnKnown {
  private static final Logger LOG = LoggerFactory.getLogger(Telling.class);
  private static final int MOST_HEARD = 200_000;
  private static final long KEEP_MILLIS = 60_000;

  /** Who was away for longer tells what is due as of now. */
  private static final long STOOD_STILL = Duration.ofMinutes(10).toMillis();

  /** A clock that was set back by more has it taken up anew, ms. */
  private static final long SET_BACK = 60_000;

  private static final int AT_ONCE = 1_000;

  /** What happened so long before is taken up, and all that is open. */
  private static final Duration TAKEN_UP = Duration.ofDays(2);

  private final Intake intake;
  private final Store store;
  private final Plans plans;
  private final Channels channels;
  private final Composer composer;
  private final Outbox outbox;
  private final Clock clock;
  private final LinkedBlockingQueue<Object> heard = new LinkedBlockingQueue<>(MOST_HEARD);
  private final Thread thread = new Thread(this::run, "telling");

  /** The first message of a matter to a recipient, to which the later ones are answers. */
  private final Map<String, First> threads = new HashMap<>();

  private volatile long now;
  private volatile boolean ended;
  private Teller teller;
  private Plans.Held held;
  private long keptUntil;

  private record First(String key, long at) {}

  Telling(
      Intake intake,
      Store store,
      Plans plans,
      Channels channels,
      Composer composer,
      Outbox outbox,
      Clock clock) {
    this.intake = intake;
    this.store = store;
    this.plans = plans;
    this.channels = channels;
    this.composer = composer;
    this.outbox = outbox;
    this.clock = clock;
    thread.setDaemon(true);
    intake.heardBy(
        new Intake.Hearing() {
          @Override
          public void passed(Judged judged) {
            hear(judged);
          }

          @Override
          public void now(Instant at) {
            now = at.toEpochMilli();
          }
        });
  }

  @EventListener(ApplicationReadyEvent.class)
  void begin() {
    thread.start();
  }

  @PreDestroy
  void end() throws InterruptedException {
    ended = true;
    thread.interrupt();
    thread.join(Duration.ofSeconds(5).toMillis());
  }

  private void hear(Object one) {
    if (!heard.offer(one)) {
      LOG.error("event=not-heard why=\"more happened than can be taken up\"");
    }
  }

  @Override
  public void known(AlertRow alert) {
    Heard.known(alert).ifPresent(this::hear);
  }

  private void run() {
    while (!ended) {
      try {
        if (teller == null) {
          takeUp();
        }
        step();
      } catch (InterruptedException e) {
        return;
      } catch (RuntimeException e) {
        if (!StoreAway.is(e) || teller != null) {
          LOG.error("event=telling-failed why=\"{}\"", e.toString(), e);
        }
        rest();
      }
    }
  }

  private void rest() {
    try {
      TimeUnit.SECONDS.sleep(1);
    } catch (InterruptedException e) {
      ended = true;
    }
  }

  /** What happened before this start, from the database. */
  private void takeUp() throws InterruptedException {
    intake.awaitBrought(Duration.ofSeconds(10));
    plans.refresh();
    channels.refresh();
    Instant at = clock.instant();
    Instant decided = store.telling().decidedUntil().orElse(at);
    Instant from = (decided.isBefore(at) ? decided : at).minus(TAKEN_UP);
    held = plans.held();
    Teller fresh =
        new Teller(held.plan(), (subject, when) -> held.catalogue().is(subject, when), 0);
    PastAlerts past = new PastAlerts(store, held.catalogue());
    past.since(from).forEach(fresh::hear);
    threads.clear();
    toldBefore(past.keys(), from, at).forEach(row -> takeUp(fresh, row));
    // by a clock that was set back since it lies ahead
    fresh.recall(Math.min(decided.toEpochMilli(), at.toEpochMilli()));
    for (MessageStateRow row : store.telling().waiting()) {
      outbox.resume(row, store.telling().picture(row.key()));
    }
    teller = fresh;
    LOG.info("event=telling-begins decided_until={}", decided);
  }

  /** What was told lately, and of all that is open still, however long ago. */
  private Collection<MessageStateRow> toldBefore(String[] keys, Instant from, Instant at) {
    Map<String, MessageStateRow> all = new LinkedHashMap<>();
    for (int i = 0; i < keys.length; i += AT_ONCE) {
      String[] some = Arrays.copyOfRange(keys, i, Math.min(keys.length, i + AT_ONCE));
      store.telling().of(some).forEach(row -> all.put(row.key(), row));
    }
    store
        .telling()
        .between(from, at.plus(TAKEN_UP), Integer.MAX_VALUE)
        .forEach(row -> all.put(row.key(), row));
    return all.values();
  }

  private void takeUp(Teller fresh, MessageStateRow row) {
    fresh.hear(Heard.of(row));
    if (row.thread().isEmpty()) {
      threads.merge(
          thread(row.matter(), row.recipient()),
          new First(row.key(), row.at().toEpochMilli()),
          (a, b) -> a.at() <= b.at() ? a : b);
    }
  }

  private static String thread(String matter, String recipient) {
    return matter + "/" + recipient;
  }

  private void step() throws InterruptedException {
    Object first = heard.poll(500, TimeUnit.MILLISECONDS);
    List<Object> all = new ArrayList<>();
    if (first != null) {
      all.add(first);
    }
    heard.drainTo(all);
    long to = now;
    if (to > 0 && to < teller.decided() - SET_BACK) {
      LOG.warn("event=telling-taken-up-anew why=\"the clock was set back\"");
      teller = null;
      return;
    }
    held = plans.held();
    synchronized (this) {
      teller.plan(held.plan());
      for (Object one : all) {
        if (one instanceof Judged judged) {
          Heard.of(judged, held.catalogue()).forEach(teller::hear);
        } else if (one instanceof Happened happened) {
          teller.hear(happened);
        }
      }
    }
    List<Told> told;
    synchronized (this) {
      told = to - teller.decided() > STOOD_STILL ? teller.goOn(to) : teller.until(to);
    }
    for (Told one : told) {
      try {
        tell(one);
      } catch (RuntimeException e) {
        // those after it are told all the same
        LOG.error("event=not-told key={} why=\"{}\"", one.key(), e.toString(), e);
      }
    }
    if (!told.isEmpty() || teller.decided() - keptUntil >= KEEP_MILLIS) {
      keepDecided();
    }
  }

  private void keepDecided() {
    try {
      intake.decided(Instant.ofEpochMilli(teller.decided()));
      keptUntil = teller.decided();
    } catch (NotKept e) {
      LOG.warn("event=decided-not-kept why=\"{}\"", e.getMessage());
    }
  }

  /** Kept first, sent then: nobody is told of what could still be lost. */
  private void tell(Told told) {
    if (told.ways().isEmpty()) {
      LOG.warn("event=no-way-to-tell recipient=\"{}\"", told.recipient());
      return;
    }
    String thread = thread(told.matter(), told.recipient());
    First before = threads.get(thread);
    MessageRow row = composer.message(told, held, before == null ? "" : before.key());
    while (!ended) {
      try {
        intake.message(row);
        break;
      } catch (NotKept e) {
        LOG.error("event=message-not-kept why=\"{}\"", e.getMessage());
        rest();
      }
    }
    threads.putIfAbsent(thread, new First(row.key(), told.at()));
    threads.values().removeIf(one -> one.at() < told.at() - Duration.ofDays(30).toMillis());
    outbox.send(row);
  }

  /** Why an alert that is open is not told just now; empty where nothing keeps it. */
  synchronized String kept(int instance, int series, Condition condition) {
    return teller == null ? "" : teller.kept(instance, series, condition, clock.millis());
  }

  /** Whether somebody knows of what an alert that is open belongs to. */
  synchronized boolean isLookedAfter(int instance, int series, Condition condition) {
    return teller != null && teller.isLookedAfter(instance, series, condition, clock.millis());
  }

  /** What waits for the report of the night. */
  synchronized List<Told> waiting() {
    return teller == null ? List.of() : teller.waiting();
  }

  /** When what was told last was decided; for those who look whether it goes on. */
  synchronized Optional<Instant> decided() {
    return Optional.ofNullable(teller).map(one -> Instant.ofEpochMilli(one.decided()));
  }
}
