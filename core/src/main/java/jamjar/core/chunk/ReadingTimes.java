package jamjar.core.chunk;

import java.util.List;

/**
 * When the readings of one source in a span were taken: once for all of its series. All arrays have
 * the same length, in order of time.
 *
 * @param at when each was taken, epoch µs
 * @param elapsed ms each covers backwards
 * @param arrived when it came here, epoch µs
 * @param seq place in the order of the source's answers
 * @param marks 1 where it was stamped by a clock that was set back since and counts nowhere, else 0
 */
public record ReadingTimes(long[] at, long[] elapsed, long[] arrived, long[] seq, long[] marks) {
  private static final long MILLI = 1000;

  public int size() {
    return at.length;
  }

  /** An empty one for so many readings. */
  public static ReadingTimes of(int n) {
    return new ReadingTimes(new long[n], new long[n], new long[n], new long[n], new long[n]);
  }

  /** Those of several spans, one after the other. */
  public static ReadingTimes together(List<ReadingTimes> parts) {
    ReadingTimes all = of(parts.stream().mapToInt(ReadingTimes::size).sum());
    int from = 0;
    for (ReadingTimes part : parts) {
      int n = part.size();
      System.arraycopy(part.at, 0, all.at, from, n);
      System.arraycopy(part.elapsed, 0, all.elapsed, from, n);
      System.arraycopy(part.arrived, 0, all.arrived, from, n);
      System.arraycopy(part.seq, 0, all.seq, from, n);
      System.arraycopy(part.marks, 0, all.marks, from, n);
      from += n;
    }
    return all;
  }

  /** Packed, to the bit. */
  public byte[] write() {
    int n = size();
    if (n > ChunkFormat.MOST) {
      throw new IllegalArgumentException(n + " readings: a span has at most " + ChunkFormat.MOST);
    }
    BitOutput out = new BitOutput();
    WholeNumbers whole = new WholeNumbers();
    out.sized(n);
    whole.write(out, at, n);
    long[] rest = new long[n];
    for (int i = 0; i < n; i++) {
      rest[i] = elapsed[i] - usual(at, i);
    }
    whole.write(out, rest, n);
    for (int i = 0; i < n; i++) {
      rest[i] = arrived[i] - at[i];
    }
    whole.write(out, rest, n);
    whole.write(out, seq, n);
    whole.write(out, marks, n);
    return ChunkFormat.seal(out);
  }

  /**
   * @throws CorruptChunk when the bytes are not those of one
   */
  public static ReadingTimes read(byte[] bytes) {
    BitInput in = ChunkFormat.open(bytes);
    ReadingTimes times = of(ChunkFormat.count(in, ChunkFormat.MOST));
    int n = times.size();
    WholeNumbers.read(in, times.at, n);
    WholeNumbers.read(in, times.elapsed, n);
    WholeNumbers.read(in, times.arrived, n);
    WholeNumbers.read(in, times.seq, n);
    WholeNumbers.read(in, times.marks, n);
    in.requireEnd();
    for (int i = 0; i < n; i++) {
      times.elapsed[i] += usual(times.at, i);
      times.arrived[i] += times.at[i];
    }
    return times;
  }

  /** A reading mostly covers the time since the one before. */
  private static long usual(long[] at, int i) {
    return i == 0 ? 0 : (at[i] - at[i - 1]) / MILLI;
  }
}
