package jamjar.server.watch;

import java.util.concurrent.TimeUnit;

/**
 * When the readings of one instance are due. Each instance has a phase of its own, spread evenly by
 * its number, so that they do not all read at once. Of one that failed three times the time between
 * two tries doubles, up to four intervals.
 */
final class Ticks {
  private static final double GOLDEN = 0.6180339887498949;
  private static final int LONGEST_BACK_OFF = 4;

  private final long interval;
  private long due;
  private long began;
  private long skipped;

  /**
   * @param now the monotonic clock, in ns
   */
  Ticks(int instance, int intervalS, long now) {
    this.interval = TimeUnit.SECONDS.toNanos(intervalS);
    long phase = (long) (instance * GOLDEN % 1 * interval);
    this.due = Math.floorDiv(now - phase, interval) * interval + phase;
  }

  /** Sleeps until the next reading is due. */
  void sleep(int failures) throws InterruptedException {
    long now = System.nanoTime();
    TimeUnit.NANOSECONDS.sleep(next(failures, now) - now);
    began = System.nanoTime();
  }

  /** When the next reading is due, after a clock that reads now. */
  long next(int failures, long now) {
    int step = 1 << Math.min(Math.max(0, failures - 2), 2);
    long wanted = due + interval * Math.min(LONGEST_BACK_OFF, step);
    long missed = wanted > now ? 0 : (now - wanted) / interval + 1;
    skipped = failures > 0 ? 0 : missed;
    due = wanted + missed * interval;
    return due;
  }

  /** How much later than due the last one began, in ns. */
  long late() {
    return Math.max(0, began - due);
  }

  /** How many were left out before the last one, as the one before was still under way. */
  long skipped() {
    return skipped;
  }
}
