package jamjar.standins.servers;

import jamjar.core.counter.Pace;
import jamjar.core.reading.Increases;
import java.time.Instant;

/** What was read in a time that is over. */
@FunctionalInterface
public interface Readings {
  /** Takes one reading after the other. */
  @FunctionalInterface
  interface Taking {
    void take(Pace source, int intervalS, Increases.Step step);
  }

  /** How often it was read at a moment, in s. */
  @FunctionalInterface
  interface Every {
    int seconds(Instant at);
  }

  /**
   * Reads a stretch, with some readings on either side.
   *
   * @param every a multiple of ten
   */
  void read(Instant from, Instant to, Every every, Taking taking);
}
