package jamjar.store.chunks;

import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.ValueReader;
import jamjar.core.chunk.ValueWriter;
import java.time.Instant;
import java.util.Arrays;

/**
 * The values of one series in a span.
 *
 * @param n how many there are; what follows is NaN where there is none
 * @param body {@link jamjar.core.chunk.ValueWriter}
 */
public record ChunkRow(
    int series,
    int source,
    boolean day,
    Instant fromAt,
    int n,
    double least,
    double greatest,
    double total,
    double first,
    double last,
    byte[] body) {

  /** The values with what tells of them without opening them. */
  static ChunkRow of(int series, SpanRow span, double[] values, int length, ValueWriter writer) {
    double[] there = Arrays.stream(values, 0, length).filter(v -> !Double.isNaN(v)).toArray();
    boolean none = there.length == 0;
    return new ChunkRow(
        series,
        span.source(),
        span.day(),
        span.fromAt(),
        there.length,
        Arrays.stream(there).min().orElse(Double.NaN),
        Arrays.stream(there).max().orElse(Double.NaN),
        none ? Double.NaN : Arrays.stream(there).sum(),
        none ? Double.NaN : there[0],
        none ? Double.NaN : there[there.length - 1],
        writer.write(values, length));
  }

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
