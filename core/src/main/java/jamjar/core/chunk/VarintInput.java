package jamjar.core.chunk;

import java.nio.charset.StandardCharsets;

/** Reads what {@link VarintOutput} wrote, within bounds. */
final class VarintInput {
  private final byte[] bytes;
  int at;
  private final int end;

  VarintInput(byte[] bytes, int from, int end) {
    this.bytes = bytes;
    this.at = from;
    this.end = end;
    if (end > bytes.length || from > end) {
      throw new IndexOutOfBoundsException("a column ends at " + end);
    }
  }

  long whole() {
    long value = 0;
    for (int shift = 0; ; shift += 7) {
      if (at >= end || shift > 63) {
        throw new IndexOutOfBoundsException("a number ends at " + at);
      }
      byte next = bytes[at++];
      value |= (next & 0x7fL) << shift;
      if (next >= 0) {
        return value;
      }
    }
  }

  /** How many follow, each of a byte at least. */
  int count() {
    return upTo(bytes.length);
  }

  int upTo(int most) {
    long count = whole();
    if (count < 0 || count > most) {
      throw new IndexOutOfBoundsException(count + " of them");
    }
    return (int) count;
  }

  int index(int size) {
    long index = whole();
    if (index < 0 || index >= size) {
      throw new IndexOutOfBoundsException("number " + index + " of " + size);
    }
    return (int) index;
  }

  long signed() {
    long value = whole();
    return value >>> 1 ^ -(value & 1);
  }

  String text() {
    int length = count();
    if (length > end - at) {
      throw new IndexOutOfBoundsException("a text ends at " + at);
    }
    String text = new String(bytes, at, length, StandardCharsets.UTF_8);
    at += length;
    return text;
  }
}
