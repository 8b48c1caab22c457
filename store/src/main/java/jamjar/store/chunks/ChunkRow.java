package jamjar.store.chunks;

import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.ValueReader;
import jamjar.core.chunk.ValueWriter;
import java.time.Instant;

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
    int n = 0;
    double least = Double.NaN;
    double greatest = Double.NaN;
    double total = Double.NaN;
    double first = Double.NaN;
    double last = Double.NaN;
    for (int i = 0; i < length; i++) {
      double value = values[i];
      if (!Double.isNaN(value)) {
        boolean one = n++ == 0;
        first = one ? value : first;
        last = value;
        total = one ? value : total + value;
        least = one || value < least ? value : least;
        greatest = one || value > greatest ? value : greatest;
      }
    }
    return new ChunkRow(
        series,
        span.source(),
        span.day(),
        span.fromAt(),
        n,
        least,
        greatest,
        total,
        first,
        last,
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
