package jamjar.server.watching;

import jakarta.annotation.PreDestroy;
import jamjar.core.watching.Gap;
import jamjar.core.watching.Watching;
import jamjar.core.watching.Watching.Moment;
import jamjar.server.live.LiveStreams;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Knows whether Jam Jar watches just now: writes so into its database twice a second, in a thread
 * of its own, and notices by it when the database does not answer, the process stood still or the
 * clock was set. What it noticed is kept as gaps, and told on Jam Jar's own instance.
 */
@Component
public class Beat {
  private static final Logger LOG = LoggerFactory.getLogger(Beat.class);
  private static final long EVERY_MILLIS = 500;
  private static final long TRY_AGAIN_NANOS = 3_000_000_000L;

  private final Store store;
  private final LiveStreams live;
  private final Clock clock;
  private final Watching watching;
  private final Thread thread = new Thread(this::run, "beat");
  private final AtomicLong tried = new AtomicLong();
  private volatile boolean ended;
  private volatile boolean refused;
  private volatile boolean unanswered;

  Beat(Store store, LiveStreams live, Clock clock) {
    this.store = store;
    this.live = live;
    this.clock = clock;
    this.watching =
        new Watching(
            clock.millis(),
            System.nanoTime(),
            store.watching().lastKnown().map(Instant::toEpochMilli));
    thread.setDaemon(true);
    thread.start();
  }

  /** This moment, with the span of watching that it lies in. */
  public Moment now() {
    // read together: nothing but a step of the wall clock moves them apart
    return watching.at(clock.millis(), System.nanoTime());
  }

  /** Whether the database does not take what is read. */
  public boolean away() {
    now();
    return watching.away();
  }

  /**
   * Whether the database does not even answer. One that takes no readings, as its disk is full, may
   * still be asked.
   */
  public boolean unanswered() {
    return unanswered && away();
  }

  /** A reading was kept, begun at these times of both clocks: as good as a beat. */
  public void kept(long wall, long nanos) {
    refused = false;
    watching.kept(wall, nanos, System.nanoTime());
  }

  /** The database did not take a reading, though it may answer: its disk may be full. */
  public void refused() {
    refused = true;
    watching.refused();
  }

  /** Whether a reading may be tried: now and then one is, where the database refused them. */
  public boolean mayTry() {
    if (!away()) {
      return true;
    }
    long now = System.nanoTime();
    long last = tried.get();
    return refused && now - last > TRY_AGAIN_NANOS && tried.compareAndSet(last, now);
  }

  private void run() {
    while (!ended) {
      try {
        beat();
        Thread.sleep(EVERY_MILLIS);
      } catch (InterruptedException e) {
        return;
      } catch (RuntimeException e) {
        LOG.warn("event=beat-failed why=\"{}\"", e.toString());
      }
    }
  }

  private void beat() {
    Moment moment = now();
    long nanos = System.nanoTime();
    try {
      store.beat(Instant.ofEpochMilli(moment.wall()));
      if (!refused) {
        watching.kept(moment.wall(), nanos, System.nanoTime());
      }
      if (unanswered) {
        unanswered = false;
        LOG.info("event=store-answers-again");
      }
      keepGaps();
    } catch (RuntimeException e) {
      if (!unanswered) {
        unanswered = true;
        LOG.warn("event=store-does-not-answer why=\"{}\"", rootMessage(e));
      }
      // whoever asked something would wait for it
      store.breakOff();
    }
  }

  private static String rootMessage(Throwable failure) {
    Throwable root = failure;
    for (int depth = 0; root.getCause() != null && depth < 20; depth++) {
      root = root.getCause();
    }
    return root.getMessage();
  }

  private void keepGaps() {
    List<Gap> gaps = watching.untold();
    if (gaps.isEmpty()) {
      return;
    }
    try {
      store.inOne(() -> gaps.forEach(this::keep));
    } catch (RuntimeException e) {
      watching.stillUntold(gaps);
      throw e;
    }
    live.changed("markers");
  }

  private void keep(Gap gap) {
    store.watching().add(gap);
    Instant from = Instant.ofEpochMilli(gap.from());
    Instant to = Instant.ofEpochMilli(gap.to());
    int twice = gap.overlaps() ? store.clockSetBack(to, from) : 0;
    LOG.warn(
        "event=not-watched from={} to={} lasted_ms={} overlapped={} why=\"{}\"",
        from,
        to,
        gap.lasted(),
        twice,
        gap.words());
    if (gap.why() == Gap.Why.NOT_RUNNING) {
      return;
    }
    store.instances().all().stream()
        .filter(row -> row.kind().equals(InstanceRow.OWN))
        .findFirst()
        .ifPresent(own -> store.markers().add(marker(own.id(), gap)));
  }

  private MarkerRow marker(int own, Gap gap) {
    Instant to = Instant.ofEpochMilli(gap.to());
    Instant from = gap.overlaps() ? to : Instant.ofEpochMilli(gap.from());
    return new MarkerRow(
        0,
        "change",
        gap.words(),
        "Nothing is judged from this time: watching began anew after it.",
        from,
        to,
        "instance",
        Integer.toString(own),
        clock.instant(),
        "Jam Jar");
  }

  @PreDestroy
  void end() throws InterruptedException {
    ended = true;
    thread.interrupt();
    thread.join(Duration.ofSeconds(5).toMillis());
  }
}
