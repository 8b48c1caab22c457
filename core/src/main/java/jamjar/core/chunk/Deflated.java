package jamjar.core.chunk;

import java.util.Arrays;
import java.util.List;
import java.util.zip.DataFormatException;
import java.util.zip.Deflater;
import java.util.zip.Inflater;

/** Columns one after the other, deflated (RFC 1951); before them a byte for the form, and sizes. */
final class Deflated {
  private Deflated() {}

  static byte[] write(byte form, List<VarintOutput> columns) {
    VarintOutput plain = new VarintOutput();
    columns.forEach(column -> plain.whole(column.size));
    columns.forEach(column -> plain.add(column.bytes, column.size));
    Deflater deflater = new Deflater(Deflater.BEST_COMPRESSION, true);
    try {
      deflater.setInput(plain.bytes, 0, plain.size);
      deflater.finish();
      VarintOutput out = new VarintOutput();
      out.whole(form);
      out.whole(plain.size);
      byte[] room = new byte[8192];
      while (!deflater.finished()) {
        out.add(room, deflater.deflate(room));
      }
      return Arrays.copyOf(out.bytes, out.size);
    } finally {
      deflater.end();
    }
  }

  /**
   * @param what it should be, for who is told that it is not
   * @param mostBytes so many may come out
   * @throws CorruptChunk when it is of another form
   * @throws IndexOutOfBoundsException when it is not whole
   */
  static VarintInput[] columns(byte form, String what, byte[] bytes, int count, int mostBytes)
      throws DataFormatException {
    if (bytes.length == 0 || bytes[0] != form) {
      throw new CorruptChunk("these are no " + what);
    }
    byte[] plain = inflated(bytes, mostBytes);
    VarintInput sizes = new VarintInput(plain, 0, plain.length);
    int[] length = new int[count];
    Arrays.setAll(length, i -> sizes.count());
    VarintInput[] columns = new VarintInput[count];
    int from = sizes.at;
    for (int i = 0; i < count; i++) {
      columns[i] = new VarintInput(plain, from, Math.addExact(from, length[i]));
      from += length[i];
    }
    return columns;
  }

  private static byte[] inflated(byte[] bytes, int mostBytes) throws DataFormatException {
    VarintInput head = new VarintInput(bytes, 1, bytes.length);
    int length = head.upTo(mostBytes);
    byte[] plain = new byte[length];
    Inflater inflater = new Inflater(true);
    try {
      inflater.setInput(bytes, head.at, bytes.length - head.at);
      int got = 0;
      while (got < length) {
        int more = inflater.inflate(plain, got, length - got);
        if (more == 0) {
          throw new IndexOutOfBoundsException(got + " of " + length + " bytes");
        }
        got += more;
      }
      return plain;
    } finally {
      inflater.end();
    }
  }
}
