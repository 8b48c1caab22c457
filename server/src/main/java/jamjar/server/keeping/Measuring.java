package jamjar.server.keeping;

import jakarta.annotation.PreDestroy;
import jamjar.core.failure.Causes;
import jamjar.store.Store;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Looks for what the store is made of. That takes long and nobody waits for it: it is looked for
 * once at a time, in the background, when somebody asks and what is known is some minutes old.
 */
@Component
class Measuring {
  private static final Logger LOG = LoggerFactory.getLogger(Measuring.class);
  private static final Duration REMEMBERED = Duration.ofMinutes(10);

  private final Store store;
  private final Clock clock;
  private final ExecutorService thread =
      Executors.newSingleThreadExecutor(
          task -> {
            Thread made = new Thread(task, "measuring");
            made.setDaemon(true);
            return made;
          });
  private Found found = new Found(Optional.empty(), false, "");

  /**
   * @param last what was found last
   * @param going whether it is looked for just now
   * @param failed why it could not be found the last time; empty where it could
   */
  record Found(Optional<Measured> last, boolean going, String failed) {}

  Measuring(Store store, Clock clock) {
    this.store = store;
    this.clock = clock;
  }

  /** What is known; with that it is looked for anew where it is old. */
  synchronized Found ask() {
    if (!found.going() && isOld()) {
      found = new Found(found.last(), true, found.failed());
      thread.execute(this::measure);
    }
    return found;
  }

  private boolean isOld() {
    Instant now = clock.instant();
    return found
        .last()
        .filter(m -> now.isBefore(m.at().plus(REMEMBERED)) && !m.at().isAfter(now))
        .isEmpty();
  }

  private void measure() {
    Optional<Measured> before = ask().last();
    try {
      tell(new Found(Optional.of(Measured.of(store, clock.instant())), false, ""));
    } catch (RuntimeException e) {
      String why = Causes.words(e);
      LOG.warn("event=not-measured why=\"{}\"", why);
      tell(new Found(before, false, why));
    }
  }

  private synchronized void tell(Found now) {
    found = now;
  }

  @PreDestroy
  void end() {
    thread.shutdownNow();
  }
}
