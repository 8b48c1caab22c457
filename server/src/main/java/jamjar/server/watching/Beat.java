package jamjar.server.watching;

import jakarta.annotation.PreDestroy;
import jamjar.core.watching.Gap;
import jamjar.core.watching.Watching;
import jamjar.core.watching.Watching.Moment;
import jamjar.store.Store;
import jamjar.store.instances.InstanceRow;
import jamjar.store.intake.Intake;
import jamjar.store.intake.NotKept;
import jamjar.store.markers.MarkerRow;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Knows whether Jam Jar watches just now: writes so into the journal twice a second, in a thread of
 * its own, and notices by it when the journal can't be written, the process stood still or the
 * clock was set. What it noticed is kept as gaps, and told on Jam Jar's own instance.
 */
@Component
public class Beat {
  private static final Logger LOG = LoggerFactory.getLogger(Beat.class);
  private static final long EVERY_MILLIS = 500;

  private final Store store;
  private final Intake intake;
  private final Clock clock;
  private final Watching watching;
  private final Thread thread = new Thread(this::run, "beat");
  private volatile boolean ended;
  private volatile boolean failing;
  private int own;

  Beat(Store store, Intake intake, Clock clock) {
    this.store = store;
    this.intake = intake;
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

  /** Whether what is read can't be kept. */
  public boolean away() {
    now();
    return watching.away();
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
      intake.beat(Instant.ofEpochMilli(moment.wall()));
      watching.kept(moment.wall(), nanos, System.nanoTime());
      failing = false;
      keepGaps();
    } catch (NotKept e) {
      watching.refused();
      if (!failing) {
        failing = true;
        LOG.error("event=not-kept why=\"{}\"", e.getMessage());
      }
    }
  }

  private void keepGaps() {
    List<Gap> gaps = watching.untold();
    for (int i = 0; i < gaps.size(); i++) {
      try {
        keep(gaps.get(i));
      } catch (NotKept e) {
        watching.stillUntold(gaps.subList(i, gaps.size()));
        throw e;
      }
    }
  }

  private void keep(Gap gap) {
    LOG.warn(
        "event=not-watched from={} to={} lasted_ms={} why=\"{}\"",
        Instant.ofEpochMilli(gap.from()),
        Instant.ofEpochMilli(gap.to()),
        gap.lasted(),
        gap.words());
    intake.notWatched(
        gap,
        gap.why() == Gap.Why.NOT_RUNNING
            ? Optional.empty()
            : own().map(instance -> marker(instance, gap)));
  }

  /** The number of Jam Jar's own instance, which never changes. */
  private Optional<Integer> own() {
    if (own == 0) {
      try {
        store.instances().all().stream()
            .filter(row -> row.kind().equals(InstanceRow.OWN))
            .forEach(row -> own = row.id());
      } catch (RuntimeException e) {
        LOG.debug("event=not-marked why=\"{}\"", e.toString());
      }
    }
    return own == 0 ? Optional.empty() : Optional.of(own);
  }

  private MarkerRow marker(int instance, Gap gap) {
    Instant to = Instant.ofEpochMilli(gap.to());
    Instant from = gap.overlaps() ? to : Instant.ofEpochMilli(gap.from());
    return MarkerRow.once(
        0,
        "change",
        gap.words(),
        "Nothing is judged from this time: watching began anew after it.",
        from,
        to,
        "instance",
        Integer.toString(instance),
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
