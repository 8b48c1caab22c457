package jamjar.core.chunk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.stream.DoubleStream;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class ChunkTest {
  private static final int DAY = 8640;

  private final ValueWriter writer = new ValueWriter();
  private final ValueReader reader = new ValueReader();

  @Test
  void a_day_of_one_value_takes_a_few_bytes() {
    // 7 + 14 bits of count, 1 of none missing, 2 of kind, 1 + 7 + 8 of the value, 32 of the sum
    assertThat(bytes(DoubleStream.generate(() -> 100).limit(DAY).toArray())).isEqualTo(9);
  }

  @Test
  void what_is_mostly_zero_takes_its_exceptions() {
    double[] values = new double[DAY];
    for (int i = 19; i < DAY; i += 20) {
      values[i] = 3;
    }
    // 432 equal gaps of equal exceptions take hardly more than one
    assertThat(bytes(values)).isLessThan(40);
  }

  @Test
  void what_climbs_by_steps_of_a_kilobyte_takes_the_bits_of_its_steps() {
    double[] values = new double[DAY];
    for (int i = 1; i < DAY; i++) {
      values[i] = values[i - 1] + 1024.0 * (i % 16);
    }
    // four bits each and a little for the blocks
    assertThat(bytes(values)).isBetween(DAY / 2, DAY / 2 + DAY / 50);
  }

  @Test
  void thousandths_are_whole_numbers() {
    double[] values = IntStream.range(0, DAY).mapToDouble(i -> i * 7919 % 4096 / 1000.0).toArray();
    assertThat(bytes(values)).isLessThan(DAY * 12 / 8 + DAY / 50);
  }

  @Test
  void what_doubles_can_be_comes_back_to_the_bit() {
    double[] odd = {
      0.0,
      -0.0,
      Double.MIN_VALUE,
      Double.MAX_VALUE,
      Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      0.1,
      1e300,
      0x1p53,
      0x1p53 + 2,
      -0x1p63,
      Math.PI,
      Double.NaN,
      1 / 3.0
    };
    there(odd);
    for (double value : odd) {
      there(new double[] {value});
      there(new double[] {1, value, 1, 1, 1, value});
      there(new double[] {Double.NaN, value, Double.NaN, Double.NaN, value});
    }
    there(new double[0]);
  }

  @Test
  void nothing_has_no_value_whatever_its_bits_are() {
    byte[] chunk = writer.write(new double[] {Double.longBitsToDouble(0x7ff8000000000123L)}, 1);
    assertThat(reader.read(chunk)).containsExactly(Double.NaN);
  }

  @Test
  void what_was_cut_changed_or_made_up_is_told() {
    byte[] chunk = writer.write(new double[] {1, 2, 4, 8.5, Double.NaN}, 5);
    assertThatThrownBy(() -> reader.read(new byte[3]))
        .isInstanceOf(CorruptChunk.class)
        .hasMessage("it ends too early");
    for (int cut = 4; cut < chunk.length; cut++) {
      byte[] less = Arrays.copyOf(chunk, cut);
      assertThatThrownBy(() -> reader.read(less)).isInstanceOf(CorruptChunk.class);
    }
    for (int bit = 0; bit < 8 * chunk.length; bit++) {
      byte[] other = chunk.clone();
      other[bit / 8] ^= (byte) (1 << bit % 8);
      assertThatThrownBy(() -> reader.read(other))
          .isInstanceOf(CorruptChunk.class)
          .hasMessage("its check sum does not fit");
    }
  }

  @Test
  void the_times_of_a_span_come_back_as_they_were() {
    int n = 720;
    ReadingTimes times = ReadingTimes.of(n);
    for (int i = 0; i < n; i++) {
      times.at()[i] = 1_795_000_000_000_000L + 10_000_000L * i + i * 7919 % 4000;
      times.elapsed()[i] = 10_000 + i % 3;
      times.arrived()[i] = times.at()[i] + 3_000 + i * 104729 % 9000;
      times.seq()[i] = 17 + i;
    }
    times.marks()[600] = 1;
    byte[] packed = times.write();
    ReadingTimes back = ReadingTimes.read(packed);
    assertThat(back.at()).isEqualTo(times.at());
    assertThat(back.elapsed()).isEqualTo(times.elapsed());
    assertThat(back.arrived()).isEqualTo(times.arrived());
    assertThat(back.seq()).isEqualTo(times.seq());
    assertThat(back.marks()).isEqualTo(times.marks());
    assertThat(packed.length).isLessThan(5 * n);
  }

  private int bytes(double[] values) {
    there(values);
    return writer.write(values, values.length).length;
  }

  private void there(double[] values) {
    double[] back = reader.read(writer.write(values, values.length));
    assertThat(bits(back)).isEqualTo(bits(values));
  }

  private static long[] bits(double[] values) {
    return Arrays.stream(values).mapToLong(Double::doubleToLongBits).toArray();
  }
}
