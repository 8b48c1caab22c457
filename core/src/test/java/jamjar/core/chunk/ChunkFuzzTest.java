package jamjar.core.chunk;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/**
 * Inputs at random and against the grain. As many as {@code -Dchunk.inputs} tells, from the seed
 * {@code -Dfuzz.seed}.
 */
class ChunkFuzzTest {
  private static final int INPUTS = Integer.getInteger("chunk.inputs", 30_000);
  private static final long SEED = Long.getLong("fuzz.seed", 3);
  private static final int LONGEST = 300;

  private final SplittableRandom random = new SplittableRandom(SEED);
  private final ValueWriter writer = new ValueWriter();
  private final ValueReader reader = new ValueReader();

  @Test
  void whatever_is_written_comes_back_to_the_bit() {
    double[] values = new double[LONGEST];
    for (int input = 0; input < INPUTS; input++) {
      int n = random.nextInt(LONGEST + 1);
      fill(values, n);
      byte[] chunk = writer.write(values, n);
      // takes 0.0 and -0.0 for two, and any NaN for any other
      if (!Arrays.equals(reader.read(chunk), Arrays.copyOf(values, n))) {
        throw new AssertionError(
            "input " + input + ": " + Arrays.toString(Arrays.copyOf(values, n)));
      }
    }
  }

  /** Their sum is right, so that what reads them must be on its guard by itself. */
  @Test
  void made_up_bytes_are_read_or_refused_in_words() {
    int refused = 0;
    BitOutput out = new BitOutput();
    for (int input = 0; input < INPUTS; input++) {
      byte[] chunk = input % 2 == 0 ? made(out) : changed();
      try {
        if (input % 3 == 0) {
          ReadingTimes.read(chunk);
        } else {
          reader.read(chunk);
        }
      } catch (CorruptChunk e) {
        refused++;
      }
    }
    assertThat(refused).isPositive();
  }

  private byte[] made(BitOutput out) {
    out.clear();
    out.sized(random.nextInt(LONGEST));
    for (int i = random.nextInt(60); i > 0; i--) {
      if (random.nextInt(3) == 0) {
        out.sized(random.nextLong() >>> random.nextInt(64));
      } else {
        out.bits(random.nextLong(), random.nextInt(12));
      }
    }
    return ChunkFormat.seal(out);
  }

  private byte[] changed() {
    double[] values = new double[LONGEST];
    int n = 1 + random.nextInt(LONGEST);
    fill(values, n);
    byte[] chunk = writer.write(values, n);
    BitOutput out = new BitOutput();
    int body = chunk.length - 4;
    int cut = random.nextInt(4) == 0 ? random.nextInt(body) : body;
    int where = random.nextInt(body);
    for (int i = 0; i < cut; i++) {
      out.bits(i == where ? random.nextInt(256) : chunk[i], 8);
    }
    return ChunkFormat.seal(out);
  }

  /** Stretches of unlike kinds. */
  private void fill(double[] values, int n) {
    int i = 0;
    while (i < n) {
      int kind = random.nextInt(9);
      int end = Math.min(n, i + 1 + random.nextInt(random.nextBoolean() ? 8 : LONGEST));
      double base = random.nextInt(1000);
      double power = Math.pow(10, random.nextInt(12));
      for (; i < end; i++) {
        values[i] =
            switch (kind) {
              case 0 -> base;
              case 1 -> random.nextInt(10) == 0 ? base : 0;
              case 2 -> base + random.nextInt(20);
              case 3 -> Math.rint(random.nextDouble() * 1e6) / power;
              case 4 -> Double.longBitsToDouble(random.nextLong());
              case 5 -> random.nextDouble();
              case 6 -> random.nextInt(3) == 0 ? Double.NaN : base;
              case 7 -> base * 8192 * (i + random.nextInt(5));
              default -> random.nextBoolean() ? -0.0 : random.nextLong();
            };
      }
    }
  }
}
