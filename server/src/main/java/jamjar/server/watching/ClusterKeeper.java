package jamjar.server.watching;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;

/** Starts the private database cluster again when it has ended by itself. */
@Component
class ClusterKeeper {
  private static final Logger LOG = LoggerFactory.getLogger(ClusterKeeper.class);
  private static final int MOST = 5;
  private static final Duration WITHIN = Duration.ofMinutes(10);

  private final OwnCluster cluster;
  private final StoreThere there;
  private final Clock clock;
  private final Deque<Instant> starts = new ArrayDeque<>();
  private boolean givenUp;

  ClusterKeeper(OwnCluster cluster, StoreThere there, Clock clock) {
    this.cluster = cluster;
    this.there = there;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 2_000)
  void keep() {
    if (!there.away() || cluster.runs()) {
      return;
    }
    Instant now = clock.instant();
    while (!starts.isEmpty() && starts.peek().isBefore(now.minus(WITHIN))) {
      starts.poll();
      givenUp = false;
    }
    if (starts.size() >= MOST) {
      if (!givenUp) {
        LOG.error(
            "event=cluster-given-up why=\"the private database ended more than {} times in ten"
                + " minutes; see its log in the data folder\"",
            MOST);
      }
      givenUp = true;
      return;
    }
    starts.add(now);
    LOG.warn("event=cluster-ended start={} of={}", starts.size(), MOST);
    try {
      cluster.startAgain();
    } catch (RuntimeException e) {
      LOG.warn("event=cluster-not-started why=\"{}\"", e.getMessage());
    }
  }
}
