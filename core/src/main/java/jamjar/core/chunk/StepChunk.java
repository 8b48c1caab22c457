package jamjar.core.chunk;

import jamjar.core.chart.Steps;
import java.nio.ByteBuffer;

/** Steps as bytes: a chunk per array, each after its length. */
public final class StepChunk {
  private static final int ARRAYS = 5;

  private StepChunk() {}

  public static byte[] write(Steps steps, ValueWriter writer) {
    double[][] arrays = {
      steps.covered(), steps.amount(), steps.beside(), steps.least(), steps.greatest()
    };
    byte[][] chunks = new byte[ARRAYS][];
    int length = 0;
    for (int a = 0; a < ARRAYS; a++) {
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
   * @param from start of the first step, epoch ms
   * @param width of a step, ms
   * @throws CorruptChunk when the bytes are not what was written
   */
  public static Steps read(byte[] bytes, long from, long width, ValueReader reader) {
    ByteBuffer in = ByteBuffer.wrap(bytes);
    double[][] arrays = new double[ARRAYS][];
    for (int a = 0; a < ARRAYS; a++) {
      if (in.remaining() < Integer.BYTES) {
        throw new CorruptChunk("it ends too early");
      }
      int length = in.getInt();
      if (length < 0 || length > in.remaining()) {
        throw new CorruptChunk("a part of " + length + " bytes where " + in.remaining() + " are");
      }
      byte[] chunk = new byte[length];
      in.get(chunk);
      arrays[a] = reader.read(chunk);
      if (arrays[a].length != arrays[0].length) {
        throw new CorruptChunk("parts of unlike lengths");
      }
    }
    if (in.hasRemaining()) {
      throw new CorruptChunk(in.remaining() + " bytes too many");
    }
    return new Steps(from, width, arrays[0], arrays[1], arrays[2], arrays[3], arrays[4]);
  }
}
