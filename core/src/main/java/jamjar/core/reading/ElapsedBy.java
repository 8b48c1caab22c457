package jamjar.core.reading;

import java.time.Duration;

/** The clock by which it was measured how long a reading covers. */
public enum ElapsedBy {
  /** The source's own. */
  SOURCE("its own clock"),
  /** The one here that never goes back. */
  MONOTONIC("the clock here that never goes back"),
  /** The one here: all that is left after a restart of what reads, where the source tells none. */
  HERE("the clock here");

  private final String words;

  ElapsedBy(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }

  /** What measures the time from one reading to the next. */
  static ElapsedBy of(LastTotals last, RawReading raw) {
    if (last.sourceMicros() != RawReading.NO_CLOCK && raw.sourceMicros() != RawReading.NO_CLOCK) {
      return SOURCE;
    }
    return last.monotonicNanos() == LastTotals.NO_MONOTONIC ? HERE : MONOTONIC;
  }

  /** µs from one reading to the next; never below 0. */
  long micros(LastTotals last, RawReading raw) {
    long passed =
        switch (this) {
          case SOURCE -> raw.sourceMicros() - last.sourceMicros();
          case MONOTONIC -> (raw.monotonicNanos() - last.monotonicNanos()) / 1000;
          case HERE -> Duration.between(last.at(), raw.at()).toNanos() / 1000;
        };
    return Math.max(0, passed);
  }
}
