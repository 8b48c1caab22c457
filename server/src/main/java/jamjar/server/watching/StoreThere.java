package jamjar.server.watching;

import jakarta.annotation.PreDestroy;
import jamjar.core.failure.Causes;
import jamjar.store.Store;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Knows whether the database answers: asks it twice a second, in a thread of its own. Who waits for
 * an answer that does not come is told so.
 */
@Component
public class StoreThere {
  private static final Logger LOG = LoggerFactory.getLogger(StoreThere.class);
  private static final long EVERY_MILLIS = 500;

  private final Store store;
  private final Thread thread = new Thread(this::run, "store-there");
  private volatile boolean ended;
  private volatile boolean away;

  StoreThere(Store store) {
    this.store = store;
    thread.setDaemon(true);
    thread.start();
  }

  /** Whether it did not answer when it was asked last. */
  public boolean away() {
    return away;
  }

  private void run() {
    while (!ended) {
      try {
        ask();
        Thread.sleep(EVERY_MILLIS);
      } catch (InterruptedException e) {
        return;
      }
    }
  }

  private void ask() {
    try {
      store.ask();
      if (away) {
        away = false;
        LOG.info("event=store-answers-again");
      }
    } catch (RuntimeException e) {
      if (!away) {
        away = true;
        LOG.warn("event=store-does-not-answer why=\"{}\"", Causes.words(e));
      }
      // whoever asked something would wait for it
      store.breakOff();
    }
  }

  @PreDestroy
  void end() throws InterruptedException {
    ended = true;
    thread.interrupt();
    thread.join(Duration.ofSeconds(5).toMillis());
  }
}
