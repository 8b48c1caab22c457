package jamjar.core.chunk;

import java.util.Arrays;

/**
 * Whole numbers in as few bits as their differences need: in blocks, each with its least number and
 * the width of what is above it; of the numbers or of their differences, in blocks of whichever
 * length takes least.
 */
final class WholeNumbers {
  /** What a width from 0 to 64 is written in. */
  static final int WIDTH_BITS = 7;

  /** Blocks are of 8, 16, … 1,024 numbers. */
  private static final int SHORTEST = 8;

  private static final int LENGTHS = 8;
  private static final int LENGTH_BITS = 3;

  private long[] differences = new long[1024];
  private long[] least = new long[256];
  private long[] greatest = new long[256];
  private int cheapest;

  /**
   * @param n how many of the numbers, from the first; told to who reads them in another way
   */
  void write(BitOutput out, long[] numbers, int n) {
    if (n == 0) {
      return;
    }
    if (differences.length < n) {
      differences = new long[Math.max(n, 2 * differences.length)];
      least = new long[differences.length / SHORTEST + 1];
      greatest = new long[differences.length / SHORTEST + 1];
    }
    for (int i = 1; i < n; i++) {
      // what overflows comes back by overflowing again
      differences[i - 1] = numbers[i] - numbers[i - 1];
    }
    long plain = cost(numbers, n);
    int plainLength = cheapest;
    long first = WIDTH_BITS + width(zigzag(numbers[0]));
    if (plain <= first + cost(differences, n - 1)) {
      out.bits(0, 1);
      writeBlocks(out, numbers, n, plainLength);
    } else {
      out.bits(1, 1);
      out.sized(zigzag(numbers[0]));
      writeBlocks(out, differences, n - 1, cheapest);
    }
  }

  /** What they take in bits, in blocks of the length that is cheapest. */
  private long cost(long[] numbers, int n) {
    int blocks = 0;
    for (int from = 0; from < n; from += SHORTEST) {
      int to = Math.min(n, from + SHORTEST);
      long low = numbers[from];
      long high = low;
      for (int i = from + 1; i < to; i++) {
        low = Math.min(low, numbers[i]);
        high = Math.max(high, numbers[i]);
      }
      least[blocks] = low;
      greatest[blocks++] = high;
    }
    long best = Long.MAX_VALUE;
    for (int length = 0; length < LENGTHS; length++) {
      long cost = costOf(blocks, n, SHORTEST << length);
      if (cost <= best) {
        best = cost;
        cheapest = length;
      }
      // two and two of them make the blocks of twice the length
      for (int b = 0; b < blocks; b += 2) {
        int other = Math.min(b + 1, blocks - 1);
        least[b / 2] = Math.min(least[b], least[other]);
        greatest[b / 2] = Math.max(greatest[b], greatest[other]);
      }
      blocks = (blocks + 1) / 2;
    }
    return best;
  }

  private long costOf(int blocks, int n, int length) {
    long cost = 0;
    long before = 0;
    for (int b = 0; b < blocks; b++) {
      int in = Math.min(length, n - b * length);
      cost +=
          2 * WIDTH_BITS
              + width(zigzag(least[b] - before))
              + (long) in * width(greatest[b] - least[b]);
      before = least[b];
    }
    return cost;
  }

  private static void writeBlocks(BitOutput out, long[] numbers, int n, int index) {
    out.bits(index, LENGTH_BITS);
    long before = 0;
    for (int from = 0; from < n; from += SHORTEST << index) {
      int to = Math.min(n, from + (SHORTEST << index));
      long low = numbers[from];
      long high = low;
      for (int i = from + 1; i < to; i++) {
        low = Math.min(low, numbers[i]);
        high = Math.max(high, numbers[i]);
      }
      int width = width(high - low);
      out.sized(zigzag(low - before));
      out.bits(width, WIDTH_BITS);
      for (int i = from; i < to; i++) {
        out.bits(numbers[i] - low, width);
      }
      before = low;
    }
  }

  /**
   * @param into filled from its first place
   * @param n how many were written
   */
  static void read(BitInput in, long[] into, int n) {
    if (n == 0) {
      return;
    }
    if (in.bits(1) == 0) {
      readBlocks(in, into, 0, n);
      return;
    }
    into[0] = unzigzag(in.sized());
    readBlocks(in, into, 1, n);
    for (int i = 1; i < n; i++) {
      into[i] += into[i - 1];
    }
  }

  private static void readBlocks(BitInput in, long[] into, int begin, int n) {
    int length = SHORTEST << in.bits(LENGTH_BITS);
    long before = 0;
    for (int from = begin; from < n; from += length) {
      int to = Math.min(n, from + length);
      long low = before + unzigzag(in.sized());
      int width = in.width();
      if (width == 0) {
        Arrays.fill(into, from, to, low);
      } else {
        for (int i = from; i < to; i++) {
          into[i] = low + in.bits(width);
        }
      }
      before = low;
    }
  }

  /** As an unsigned number. */
  private static int width(long number) {
    return 64 - Long.numberOfLeadingZeros(number);
  }

  /** Small numbers of either sign as small numbers without one. */
  static long zigzag(long number) {
    return number << 1 ^ number >> 63;
  }

  static long unzigzag(long number) {
    return number >>> 1 ^ -(number & 1);
  }
}
