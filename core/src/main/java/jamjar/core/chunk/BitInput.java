package jamjar.core.chunk;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/** Reads what {@link BitOutput} wrote. */
final class BitInput {
  private static final VarHandle LONG =
      MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.BIG_ENDIAN);

  /** So many bits lie in eight bytes wherever they begin. */
  private static final int AT_ONCE = 56;

  private final byte[] bytes;
  private final long end;
  private long at;

  /**
   * @param length how many of the bytes, from the first
   */
  BitInput(byte[] bytes, int length) {
    this.bytes = bytes;
    this.end = 8L * length;
  }

  /**
   * @param width 0 to 64
   * @throws CorruptChunk when there are not so many left
   */
  long bits(int width) {
    if (width > end - at) {
      throw new CorruptChunk("it ends too early");
    }
    if (width > AT_ONCE) {
      return few(width - 32) << 32 | few(32);
    }
    return few(width);
  }

  private long few(int width) {
    if (width == 0) {
      return 0;
    }
    int first = (int) (at >>> 3);
    int offset = (int) (at & 7);
    at += width;
    return word(first) << offset >>> 64 - width;
  }

  private long word(int first) {
    if (first + 8 <= bytes.length) {
      return (long) LONG.get(bytes, first);
    }
    long word = 0;
    for (int i = 0; i < 8; i++) {
      word = word << 8 | (first + i < bytes.length ? bytes[first + i] & 0xff : 0);
    }
    return word;
  }

  long sized() {
    return bits(width());
  }

  /** How wide what follows is: 0 to 64. */
  int width() {
    int width = (int) bits(WholeNumbers.WIDTH_BITS);
    if (width > 64) {
      throw new CorruptChunk("a number of " + width + " bits");
    }
    return width;
  }

  /**
   * @throws CorruptChunk when more is left than fills up the last byte
   */
  void requireEnd() {
    if (end - at >= 8) {
      throw new CorruptChunk((end - at) / 8 + " bytes too many");
    }
  }
}
