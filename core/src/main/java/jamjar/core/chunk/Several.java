package jamjar.core.chunk;

import java.nio.ByteBuffer;

/** Several arrays of numbers as bytes: a chunk of each, after its length. */
final class Several {
  private Several() {}

  static byte[] write(double[][] arrays, ValueWriter writer) {
    byte[][] chunks = new byte[arrays.length][];
    int length = 0;
    for (int a = 0; a < arrays.length; a++) {
      chunks[a] = writer.write(arrays[a], arrays[a].length);
      length += Integer.BYTES + chunks[a].length;
    }
    ByteBuffer out = ByteBuffer.allocate(length);
    for (byte[] chunk : chunks) {
      out.putInt(chunk.length).put(chunk);
    }
    return out.array();
  }

  /**
   * @param count how many arrays were written
   * @throws CorruptChunk when the bytes are not what was written
   */
  static double[][] read(byte[] bytes, int count, ValueReader reader) {
    return read(bytes, count, count, reader);
  }

  /**
   * As above, the first ones of them: the others are not opened.
   *
   * @param wanted how many
   */
  static double[][] read(byte[] bytes, int count, int wanted, ValueReader reader) {
    ByteBuffer in = ByteBuffer.wrap(bytes);
    double[][] arrays = new double[wanted][];
    for (int a = 0; a < count; a++) {
      if (in.remaining() < Integer.BYTES) {
        throw new CorruptChunk("it ends too early");
      }
      int length = in.getInt();
      if (length < 0 || length > in.remaining()) {
        throw new CorruptChunk("a part of " + length + " bytes where " + in.remaining() + " are");
      }
      if (a < wanted) {
        byte[] chunk = new byte[length];
        in.get(chunk);
        arrays[a] = reader.read(chunk);
      } else {
        in.position(in.position() + length);
      }
    }
    if (in.hasRemaining()) {
      throw new CorruptChunk(in.remaining() + " bytes too many");
    }
    return arrays;
  }
}
