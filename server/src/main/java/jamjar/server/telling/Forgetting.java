package jamjar.server.telling;

import jamjar.store.Store;
import jamjar.store.StoreAway;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Messages are kept for thirteen months, their pictures for one. */
@Component
class Forgetting {
  private static final Logger LOG = LoggerFactory.getLogger(Forgetting.class);
  private static final Duration PICTURES = Duration.ofDays(31);
  private static final Duration MESSAGES = Duration.ofDays(400);

  private final Store store;
  private final Clock clock;

  Forgetting(Store store, Clock clock) {
    this.store = store;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 3_600_000, initialDelay = 600_000)
  void forget() {
    Instant now = clock.instant();
    try {
      store.telling().forgetPictures(now.minus(PICTURES));
      store.telling().forget(now.minus(MESSAGES));
    } catch (RuntimeException e) {
      if (!StoreAway.is(e)) {
        throw e;
      }
      LOG.debug("event=not-forgotten why=\"{}\"", e.getMessage());
    }
  }
}
