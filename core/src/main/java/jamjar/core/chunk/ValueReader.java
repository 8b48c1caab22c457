package jamjar.core.chunk;

import java.util.Arrays;

/**
 * Reads what {@link ValueWriter} wrote.
 *
 * <p>Keeps its room from one chunk to the next: one for each thread.
 */
public final class ValueReader {
  private long[] numbers = new long[0];
  private long[] runs = new long[0];
  private double[] present = new double[0];

  /**
   * @return the values in the order of their readings; NaN where there is none
   * @throws CorruptChunk when the bytes are no chunk
   */
  public double[] read(byte[] chunk) {
    BitInput in = ChunkFormat.open(chunk);
    int n = ChunkFormat.count(in, ChunkFormat.MOST);
    double[] into = new double[n];
    if (numbers.length < n) {
      numbers = new long[n];
      runs = new long[n];
      present = new double[n];
    }
    if (in.bits(1) == 1) {
      int count = ChunkFormat.count(in, n);
      WholeNumbers.read(in, runs, count);
      int there = present(count, n);
      if (there > 0) {
        readPresent(in, present, there, true);
      }
      spread(count, n, into);
    } else if (n > 0) {
      readPresent(in, into, n, true);
    }
    in.requireEnd();
    return into;
  }

  /** How many values the runs leave. */
  private int present(int count, int n) {
    long left = n;
    long there = 0;
    for (int i = 0; i <= count; i++) {
      long run = i < count ? runs[i] : left;
      if (run < 0 || run > left) {
        throw new CorruptChunk("a run of " + run + " where " + left + " are left");
      }
      left -= run;
      there += i % 2 == 0 ? run : 0;
    }
    return (int) there;
  }

  private void spread(int count, int n, double[] into) {
    int at = 0;
    int from = 0;
    for (int i = 0; i <= count; i++) {
      int run = i < count ? (int) runs[i] : n - at;
      if (i % 2 == 0) {
        System.arraycopy(present, from, into, at, run);
        from += run;
      } else {
        Arrays.fill(into, at, at + run, Double.NaN);
      }
      at += run;
    }
  }

  /**
   * @param outermost what lies within another is not mostly one value again
   */
  private void readPresent(BitInput in, double[] into, int n, boolean outermost) {
    switch ((int) in.bits(ChunkFormat.KIND_BITS)) {
      case ChunkFormat.CONSTANT -> Arrays.fill(into, 0, n, readOne(in));
      case ChunkFormat.SCALED -> readScaled(in, into, n);
      case ChunkFormat.DIFFERING_BITS -> readDiffering(in, into, n);
      default -> {
        if (!outermost) {
          throw new CorruptChunk("exceptions within exceptions");
        }
        readSparse(in, into, n);
      }
    }
  }

  private void readSparse(BitInput in, double[] into, int n) {
    double common = readOne(in);
    int k = ChunkFormat.count(in, n);
    long[] gaps = new long[k];
    WholeNumbers.read(in, gaps, k);
    double[] exceptions = new double[k];
    if (k > 0) {
      readPresent(in, exceptions, k, false);
    }
    Arrays.fill(into, 0, n, common);
    long at = -1;
    for (int i = 0; i < k; i++) {
      if (gaps[i] < 0 || gaps[i] >= n - at - 1) {
        throw new CorruptChunk("an exception beyond the last value");
      }
      at += gaps[i] + 1;
      into[(int) at] = exceptions[i];
    }
  }

  private void readScaled(BitInput in, double[] into, int n) {
    double power = ChunkFormat.POWERS[(int) in.bits(ChunkFormat.SCALE_BITS)];
    long base = WholeNumbers.unzigzag(in.sized());
    long divisor = in.sized();
    WholeNumbers.read(in, numbers, n);
    for (int i = 0; i < n; i++) {
      into[i] = (base + numbers[i] * divisor) / power;
    }
  }

  private static void readDiffering(BitInput in, double[] into, int n) {
    long bits = in.bits(64);
    into[0] = Double.longBitsToDouble(bits);
    int leading = 64;
    int width = 0;
    for (int i = 1; i < n; i++) {
      if (in.bits(1) == 1) {
        if (in.bits(1) == 1) {
          leading = (int) in.bits(ChunkFormat.PLACE_BITS);
          width = (int) in.bits(ChunkFormat.PLACE_BITS) + 1;
          if (leading + width > 64) {
            throw new CorruptChunk("bits beyond the last");
          }
        }
        bits ^= in.bits(width) << 64 - leading - width;
      }
      into[i] = Double.longBitsToDouble(bits);
    }
  }

  private static double readOne(BitInput in) {
    return in.bits(1) == 1
        ? WholeNumbers.unzigzag(in.sized())
        : Double.longBitsToDouble(in.bits(64));
  }
}
