package jamjar.server.instances;

import jamjar.server.changes.Changes;
import jamjar.server.changes.Changes.What;
import jamjar.server.security.KeyRing;
import jamjar.server.security.Locked;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;

/** Changes the key of the stored passwords while they are in use. */
@Service
public class KeyChange {
  private static final Logger LOG = LoggerFactory.getLogger(KeyChange.class);

  /** What was begun with the key before is stored by then. */
  private static final Duration UNDER_WAY = Duration.ofMinutes(10);

  private final KeyRing keys;
  private final List<Locked> stored;
  private final Store store;
  private final Changes changes;
  private final Clock clock;
  private Instant changedAt = Instant.MIN;

  KeyChange(KeyRing keys, List<Locked> stored, Store store, Changes changes, Clock clock) {
    this.keys = keys;
    this.stored = stored;
    this.store = store;
    this.changes = changes;
    this.clock = clock;
  }

  /** How many were locked anew. */
  public record Renewed(int passwords) {}

  /**
   * Another key from now on, with which all is locked anew. Where that can't be done now it is done
   * later, and the key before opens until then.
   */
  public synchronized Renewed change() {
    // nothing is changed while the database is away; and of the keys before no more than one is
    // kept
    // where it outlasts the process
    renewAll();
    keys.change();
    changedAt = clock.instant();
    return store.inOne(
        () -> {
          Renewed renewed = new Renewed(renewAll());
          changes.add(What.KEY, "passwords", null, renewed);
          return renewed;
        });
  }

  private int renewAll() {
    return stored.stream().mapToInt(Locked::renewAll).sum();
  }

  /** What was stored meanwhile by the key before is locked anew; then that key goes. */
  @Scheduled(fixedDelay = 60_000, initialDelay = 60_000)
  synchronized void finish() {
    if (!keys.isChanging()) {
      return;
    }
    try {
      renewAll();
      if (clock.instant().isAfter(changedAt.plus(UNDER_WAY))) {
        keys.forgetBefore();
      }
    } catch (RuntimeException e) {
      if (!StoreAway.is(e)) {
        throw e;
      }
      LOG.warn("event=key-not-changed why=\"the database does not answer; tried again\"");
    }
  }
}
