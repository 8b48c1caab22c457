package jamjar.core.chunk;

/**
 * Makes a chunk of the values of one series: the smallest of a constant, of what is mostly one
 * value, of whole numbers under a power of ten, and of doubles by the bits in which they differ.
 * What comes back is the same to the bit; NaN is "no value" whatever its bits are.
 *
 * <p>Keeps its room from one chunk to the next: one for each thread.
 */
public final class ValueWriter {
  /** Whole numbers of up to so many bits are not tried as doubles as well. */
  private static final int SURELY_SMALLER = 40;

  private final WholeNumbers whole = new WholeNumbers();
  private final BitOutput out = new BitOutput();
  private final BitOutput scaled = new BitOutput();
  private final BitOutput differing = new BitOutput();
  private final BitOutput sparse = new BitOutput();
  private double[] present = new double[0];
  private double[] exceptions = new double[0];
  private long[] numbers = new long[0];
  private long[] places = new long[0];

  /**
   * @param values in the order of their readings
   * @param n how many of them, from the first; at most 131,072
   */
  public byte[] write(double[] values, int n) {
    if (n > ChunkFormat.MOST) {
      throw new IllegalArgumentException(n + " values: a chunk has at most " + ChunkFormat.MOST);
    }
    room(n);
    out.clear();
    out.sized(n);
    int there = writeMissing(values, n);
    if (there > 0) {
      writePresent(there);
    }
    return ChunkFormat.seal(out);
  }

  private void room(int n) {
    if (present.length < n) {
      present = new double[n];
      exceptions = new double[n];
      numbers = new long[n];
      places = new long[n + 1];
    }
  }

  /** Runs of values and of none, by turns; keeps those that are there. */
  private int writeMissing(double[] values, int n) {
    int there = 0;
    int runs = 0;
    int began = 0;
    boolean missing = false;
    for (int i = 0; i < n; i++) {
      boolean none = Double.isNaN(values[i]);
      if (none != missing) {
        places[runs++] = i - began;
        began = i;
        missing = none;
      }
      if (!none) {
        present[there++] = values[i];
      }
    }
    out.bits(there < n ? 1 : 0, 1);
    if (there < n) {
      // the last run is what is left
      out.sized(runs);
      whole.write(out, places, runs);
    }
    return there;
  }

  private void writePresent(int n) {
    long first = Double.doubleToRawLongBits(present[0]);
    int same = 1;
    while (same < n && Double.doubleToRawLongBits(present[same]) == first) {
      same++;
    }
    if (same == n) {
      out.bits(ChunkFormat.CONSTANT, ChunkFormat.KIND_BITS);
      writeOne(out, present[0]);
      return;
    }
    sparse.clear();
    boolean mostlyOne = writeSparse(n);
    BitOutput best = writeVarying(present, n);
    if (mostlyOne && sparse.bitLength() < best.bitLength()) {
      best = sparse;
    }
    best.writeTo(out);
  }

  /** One value in more than half of the places. */
  private boolean writeSparse(int n) {
    long common = 0;
    int lead = 0;
    for (int i = 0; i < n; i++) {
      long bits = Double.doubleToRawLongBits(present[i]);
      if (lead == 0) {
        common = bits;
      }
      lead += bits == common ? 1 : -1;
    }
    int k = 0;
    int before = 0;
    for (int i = 0; i < n; i++) {
      if (Double.doubleToRawLongBits(present[i]) != common) {
        if (2 * k >= n) {
          return false;
        }
        exceptions[k] = present[i];
        places[k++] = i - before;
        before = i + 1;
      }
    }
    sparse.bits(ChunkFormat.SPARSE, ChunkFormat.KIND_BITS);
    writeOne(sparse, Double.longBitsToDouble(common));
    sparse.sized(k);
    whole.write(sparse, places, k);
    BitOutput best = writeVarying(exceptions, k);
    best.writeTo(sparse);
    return true;
  }

  /** The smaller of whole numbers and doubles. */
  private BitOutput writeVarying(double[] values, int n) {
    scaled.clear();
    boolean isWhole = writeScaled(values, n);
    if (isWhole && scaled.bitLength() <= (long) SURELY_SMALLER * n) {
      return scaled;
    }
    differing.clear();
    writeDiffering(values, n);
    return isWhole && scaled.bitLength() < differing.bitLength() ? scaled : differing;
  }

  /** False where they are no decimals of one length. */
  private boolean writeScaled(double[] values, int n) {
    int scale = scale(values, n);
    if (scale < 0) {
      return false;
    }
    long base = numbers[0];
    long divisor = 0;
    for (int i = 0; i < n; i++) {
      numbers[i] -= base;
      if (divisor != 1) {
        divisor = commonDivisor(divisor, Math.abs(numbers[i]));
      }
    }
    if (divisor > 1) {
      for (int i = 0; i < n; i++) {
        numbers[i] /= divisor;
      }
    }
    scaled.bits(ChunkFormat.SCALED, ChunkFormat.KIND_BITS);
    scaled.bits(scale, ChunkFormat.SCALE_BITS);
    scaled.sized(WholeNumbers.zigzag(base));
    scaled.sized(divisor);
    whole.write(scaled, numbers, n);
    return true;
  }

  private static long commonDivisor(long a, long b) {
    long greater = a;
    long less = b;
    while (less != 0) {
      long rest = greater % less;
      greater = less;
      less = rest;
    }
    return greater;
  }

  /**
   * The least power of ten under which all are whole numbers that give the same doubles again;
   * keeps these numbers. −1 for none.
   */
  private int scale(double[] values, int n) {
    int scale = 0;
    int i = 0;
    while (i < n) {
      if (isWhole(values[i], ChunkFormat.POWERS[scale])) {
        numbers[i] = (long) Math.rint(values[i] * ChunkFormat.POWERS[scale]);
        i++;
      } else if (++scale == ChunkFormat.POWERS.length) {
        return -1;
      } else {
        // what this one wants may be too large for those before
        i = 0;
      }
    }
    return scale;
  }

  private static boolean isWhole(double value, double power) {
    double number = Math.rint(value * power);
    return Math.abs(number) <= ChunkFormat.EXACT
        && Double.doubleToRawLongBits((long) number / power) == Double.doubleToRawLongBits(value);
  }

  private void writeDiffering(double[] values, int n) {
    differing.bits(ChunkFormat.DIFFERING_BITS, ChunkFormat.KIND_BITS);
    long before = Double.doubleToRawLongBits(values[0]);
    differing.bits(before, 64);
    int leading = 64;
    int width = 0;
    for (int i = 1; i < n; i++) {
      long bits = Double.doubleToRawLongBits(values[i]);
      long other = bits ^ before;
      before = bits;
      if (other == 0) {
        differing.bits(0, 1);
        continue;
      }
      int zeros = Long.numberOfLeadingZeros(other);
      int needed = 64 - zeros - Long.numberOfTrailingZeros(other);
      boolean fits = zeros >= leading && Long.numberOfTrailingZeros(other) >= 64 - leading - width;
      // a place of its own costs twelve bits more
      if (fits && width <= needed + 2 * ChunkFormat.PLACE_BITS) {
        differing.bits(0b10, 2);
      } else {
        leading = zeros;
        width = needed;
        differing.bits(0b11, 2);
        differing.bits(leading, ChunkFormat.PLACE_BITS);
        differing.bits(width - 1, ChunkFormat.PLACE_BITS);
      }
      differing.bits(other >>> 64 - leading - width, width);
    }
  }

  /** Mostly a small whole number. */
  private static void writeOne(BitOutput to, double value) {
    boolean isWhole = isWhole(value, 1);
    to.bits(isWhole ? 1 : 0, 1);
    if (isWhole) {
      to.sized(WholeNumbers.zigzag((long) value));
    } else {
      to.bits(Double.doubleToRawLongBits(value), 64);
    }
  }
}
