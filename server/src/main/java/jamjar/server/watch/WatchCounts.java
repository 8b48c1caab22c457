package jamjar.server.watch;

import java.util.concurrent.atomic.LongAdder;
import org.springframework.stereotype.Component;

/** How the watching itself goes: counts since the start, and the worst lateness. */
@Component
public class WatchCounts {
  private final LongAdder readings = new LongAdder();
  private final LongAdder dropped = new LongAdder();
  private final LongAdder skipped = new LongAdder();
  private long worstNanos;

  /**
   * A reading begins.
   *
   * @param lateNanos how long after its time
   */
  synchronized void began(long lateNanos) {
    worstNanos = Math.max(worstNanos, lateNanos);
  }

  void stored() {
    readings.increment();
  }

  void dropped() {
    dropped.increment();
  }

  void skipped(long times) {
    skipped.add(times);
  }

  /** The worst lateness since this was asked last, in seconds. */
  synchronized double worstLate() {
    double seconds = worstNanos / 1e9;
    worstNanos = 0;
    return seconds;
  }

  long readings() {
    return readings.sum();
  }

  long droppedReadings() {
    return dropped.sum();
  }

  long skippedReadings() {
    return skipped.sum();
  }
}
