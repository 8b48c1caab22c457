package jamjar.core.chunk;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Numbers of seven bits a byte, the lowest first. */
final class VarintOutput {
  byte[] bytes = new byte[64];
  int size;

  private void room(int more) {
    if (size + more > bytes.length) {
      bytes = Arrays.copyOf(bytes, Math.max(2 * bytes.length, size + more));
    }
  }

  void whole(long value) {
    room(10);
    long left = value;
    while ((left & ~0x7fL) != 0) {
      bytes[size++] = (byte) (left & 0x7f | 0x80);
      left >>>= 7;
    }
    bytes[size++] = (byte) left;
  }

  void signed(long value) {
    whole(value << 1 ^ value >> 63);
  }

  void text(String text) {
    byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
    whole(utf8.length);
    add(utf8, utf8.length);
  }

  void add(byte[] more, int length) {
    room(length);
    System.arraycopy(more, 0, bytes, size, length);
    size += length;
  }
}
