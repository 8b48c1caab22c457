package jamjar.store.mapping;

import java.nio.ByteBuffer;

/**
 * An array of {@code float8} as PostgreSQL sends it in binary: number of dimensions, whether there
 * are NULLs, type of the elements; per dimension its length and first index; per element its length
 * in bytes (−1 for NULL) and the bytes, each number of 4 bytes with the highest first.
 */
final class SentDoubles {
  private static final int HEADER = 12;
  private static final int DIMENSION = 8;
  private static final int NULL = -1;

  private SentDoubles() {}

  /** Whether it was sent in binary; in text it begins with a brace. */
  static boolean is(byte[] sent) {
    return sent.length >= HEADER && sent[0] == 0;
  }

  /** NULL elements come back as NaN. */
  static double[] of(byte[] sent) {
    ByteBuffer in = ByteBuffer.wrap(sent);
    if (in.getInt() == 0) {
      return new double[0];
    }
    double[] values = new double[in.getInt(HEADER)];
    in.position(HEADER + DIMENSION);
    for (int i = 0; i < values.length; i++) {
      values[i] = in.getInt() == NULL ? Double.NaN : in.getDouble();
    }
    return values;
  }
}
