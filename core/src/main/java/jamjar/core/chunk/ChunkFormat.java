package jamjar.core.chunk;

import java.util.Arrays;
import java.util.zip.CRC32C;

/** What writer and reader of a chunk agree on. */
final class ChunkFormat {
  /** More readings than a day of seconds are in no chunk. */
  static final int MOST = 1 << 17;

  static final int KIND_BITS = 2;

  /** One value all the time. */
  static final int CONSTANT = 0;

  /** One value most of the time, and what is otherwise. */
  static final int SPARSE = 1;

  /** Decimals of one length, as whole numbers. */
  static final int SCALED = 2;

  /** Doubles, each by the bits in which it differs from the one before. */
  static final int DIFFERING_BITS = 3;

  static final int SCALE_BITS = 4;

  /** Powers of ten, each exact. */
  static final double[] POWERS = new double[1 << SCALE_BITS];

  /** Whole numbers up to here are exact in a double. */
  static final double EXACT = 0x1p53;

  static final int PLACE_BITS = 6;

  private static final int SUM_BYTES = 4;

  static {
    double power = 1;
    for (int i = 0; i < POWERS.length; i++) {
      POWERS[i] = power;
      power *= 10;
    }
  }

  private ChunkFormat() {}

  /** The bytes with their sum behind them. */
  static byte[] seal(BitOutput out) {
    byte[] bytes = out.toBytes();
    int sum = sum(bytes, bytes.length);
    byte[] sealed = Arrays.copyOf(bytes, bytes.length + SUM_BYTES);
    for (int i = 0; i < SUM_BYTES; i++) {
      sealed[bytes.length + i] = (byte) (sum >>> 24 - 8 * i);
    }
    return sealed;
  }

  /**
   * What was sealed.
   *
   * @throws CorruptChunk when the bytes are not those that were sealed
   */
  static BitInput open(byte[] sealed) {
    int length = sealed.length - SUM_BYTES;
    if (length < 0) {
      throw new CorruptChunk("it ends too early");
    }
    int told = 0;
    for (int i = 0; i < SUM_BYTES; i++) {
      told = told << 8 | sealed[length + i] & 0xff;
    }
    if (told != sum(sealed, length)) {
      throw new CorruptChunk("its check sum does not fit");
    }
    return new BitInput(sealed, length);
  }

  private static int sum(byte[] bytes, int length) {
    CRC32C sum = new CRC32C();
    sum.update(bytes, 0, length);
    return (int) sum.getValue();
  }

  /** A count that was written by {@link BitOutput#sized}, of at most so many. */
  static int count(BitInput in, int most) {
    long count = in.sized();
    if (count < 0 || count > most) {
      throw new CorruptChunk(Long.toUnsignedString(count) + " where at most " + most + " can be");
    }
    return (int) count;
  }
}
