package jamjar.store.steps;

import jamjar.core.chart.Steps;
import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.StepChunk;
import jamjar.core.chunk.ValueReader;
import java.time.Instant;

/**
 * A day of a series in steps, or a month.
 *
 * @param minutes the width of a step
 * @param fromAt its begin, UTC
 * @param body {@link StepChunk}
 */
public record StepRow(int series, int source, int minutes, Instant fromAt, byte[] body) {
  private static final long MINUTE = 60_000;

  /**
   * The steps, opened.
   *
   * @throws IllegalStateException when they are not what was written
   */
  public Steps steps(ValueReader reader) {
    return opened(StepChunk::read, reader);
  }

  /** As above, without the least and the greatest of each. */
  public Steps means(ValueReader reader) {
    return opened(StepChunk::readMeans, reader);
  }

  private interface Opening {
    Steps read(byte[] bytes, long from, long width, ValueReader reader);
  }

  private Steps opened(Opening opening, ValueReader reader) {
    try {
      return opening.read(body, fromAt.toEpochMilli(), minutes * MINUTE, reader);
    } catch (CorruptChunk e) {
      throw new IllegalStateException(
          "The steps of series " + series + " from " + fromAt + " can't be read: " + e.getMessage(),
          e);
    }
  }
}
