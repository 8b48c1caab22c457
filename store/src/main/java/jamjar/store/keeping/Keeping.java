package jamjar.store.keeping;

import java.time.Duration;

/**
 * A class of instances by how long at least what was read of them is kept.
 *
 * @param keep its number
 * @param readingsDays as it was read
 * @param minutesDays in steps of a minute; null for ever
 */
public record Keeping(int keep, String name, int readingsDays, Integer minutesDays) {
  /** Of whom nothing else is said. */
  public static final int USUAL = 0;

  /** So long after a change nothing goes by it yet. */
  public static final Duration UNTIL_IT_GOES = Duration.ofMinutes(10);
}
