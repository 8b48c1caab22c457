package jamjar.core.chunk;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;

/** Bits one after the other, the highest of a number first; its room is used again and again. */
final class BitOutput {
  private static final VarHandle LONG =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

  private byte[] bytes = new byte[4096];
  private int size;

  /** What does not fill eight bytes yet, from the highest bit. */
  private long pending;

  private int waiting;

  void clear() {
    size = 0;
    pending = 0;
    waiting = 0;
  }

  /**
   * @param width how many of the low bits, 0 to 64
   */
  void bits(long value, int width) {
    if (width == 0) {
      return;
    }
    long wanted = value << 64 - width >>> 64 - width;
    int over = width - (64 - waiting);
    if (over < 0) {
      pending |= wanted << -over;
      waiting += width;
      return;
    }
    if (size + 8 > bytes.length) {
      bytes = Arrays.copyOf(bytes, bytes.length * 2);
    }
    LONG.set(bytes, size, pending | wanted >>> over);
    size += 8;
    pending = over == 0 ? 0 : wanted << 64 - over;
    waiting = over;
  }

  /** A number without a sign in as many bits as it has, after how many these are. */
  void sized(long value) {
    int width = 64 - Long.numberOfLeadingZeros(value);
    bits(width, WholeNumbers.WIDTH_BITS);
    bits(value, width);
  }

  /** A copy of what was written, the last byte filled up with zeros. */
  byte[] toBytes() {
    int last = (waiting + 7) / 8;
    byte[] copy = Arrays.copyOf(bytes, size + last);
    for (int i = 0; i < last; i++) {
      copy[size + i] = (byte) (pending >>> 56 - 8 * i);
    }
    return copy;
  }

  /** Writes all of it into another, to the bit. */
  void writeTo(BitOutput other) {
    for (int i = 0; i < size; i += 8) {
      other.bits((long) LONG.get(bytes, i), 64);
    }
    other.bits(pending >>> 64 - waiting, waiting);
  }

  long bitLength() {
    return 8L * size + waiting;
  }
}
