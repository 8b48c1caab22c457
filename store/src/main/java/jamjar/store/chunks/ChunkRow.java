package jamjar.store.chunks;

import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.ValueReader;
import java.time.Instant;

/**
 * The values of one series in a span.
 *
 * @param body {@link jamjar.core.chunk.ValueWriter}
 */
public record ChunkRow(int series, int source, boolean day, Instant fromAt, byte[] body) {

  /**
   * The values, opened.
   *
   * @throws IllegalStateException when they are not what was written
   */
  public double[] values(ValueReader reader) {
    try {
      return reader.read(body);
    } catch (CorruptChunk e) {
      throw new IllegalStateException(
          "The chunk of series " + series + " from " + fromAt + " can't be read: " + e.getMessage(),
          e);
    }
  }
}
