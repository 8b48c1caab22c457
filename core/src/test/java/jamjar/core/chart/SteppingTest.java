package jamjar.core.chart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.chunk.CorruptChunk;
import jamjar.core.chunk.StepChunk;
import jamjar.core.chunk.ValueReader;
import jamjar.core.chunk.ValueWriter;
import jamjar.core.counter.Shape;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class SteppingTest {
  private static final long MINUTE = 60_000;

  @Test
  void a_level_counts_by_how_long_it_holds_within_the_step() {
    // 55 s to 65 s: 5 s of the first minute hold 10, 5 s of the second; then 20, to 75 + 5 s
    Samples samples = samples(10_000, new long[] {55_000, 65_000}, 10, 20);
    Steps steps = Stepping.of(Shape.LEVEL, samples, 0, MINUTE, 2);
    assertThat(steps.covered()).containsExactly(5_000, 20_000);
    assertThat(steps.amount()[0]).isEqualTo(10);
    // (5 · 10 + 15 · 20) / 20
    assertThat(steps.amount()[1]).isEqualTo(17.5);
    assertThat(steps.least()).containsExactly(10, 10);
    assertThat(steps.greatest()).containsExactly(10, 20);
  }

  @Test
  void an_increase_is_split_into_whole_counts_with_the_remainder_in_the_later_step() {
    // 7 over 10 s, of which 5 lie before the edge: 3 and 4
    Samples samples = samples(10_000, new long[] {65_000}, 7);
    Steps steps = Stepping.of(Shape.TOTAL, samples, 0, MINUTE, 2);
    assertThat(steps.amount()).containsExactly(3, 4);
    assertThat(steps.covered()).containsExactly(5_000, 5_000);
    assertThat(steps.least()[0]).isLessThanOrEqualTo(0.7).isCloseTo(0.7, within(0.7 / 4_096));
    assertThat(steps.greatest()[0]).isGreaterThanOrEqualTo(0.7).isCloseTo(0.7, within(0.7 / 4_096));
  }

  @Test
  void an_increase_over_a_gap_enters_sums_only() {
    Samples samples =
        new Samples(
            new long[] {90_000},
            new long[] {60_000},
            new long[] {10_000},
            new double[] {61},
            List.of());
    Steps steps = Stepping.of(Shape.TOTAL, samples, 0, MINUTE, 2);
    assertThat(steps.amount()).containsOnly(Double.NaN);
    assertThat(steps.covered()).containsOnly(0);
    assertThat(steps.beside()).containsExactly(30, 31);
    assertThat(steps.greatest()).containsOnly(Double.NaN);
  }

  @Test
  void no_value_covers_nothing() {
    Samples samples = samples(10_000, new long[] {10_000, 20_000}, Double.NaN, 3);
    Steps steps = Stepping.of(Shape.LEVEL, samples, 0, MINUTE, 1);
    assertThat(steps.covered()).containsExactly(15_000);
    assertThat(steps.amount()).containsExactly(3);
  }

  @Test
  void whatever_the_edges_are_nothing_of_a_total_is_lost_or_made() {
    SplittableRandom random = new SplittableRandom(3);
    for (int round = 0; round < 300; round++) {
      int n = 200;
      long[] at = new long[n];
      long[] elapsed = new long[n];
      long[] interval = new long[n];
      double[] value = new double[n];
      long now = 1_000_000;
      double sum = 0;
      for (int i = 0; i < n; i++) {
        elapsed[i] = random.nextInt(1, random.nextInt(10) == 0 ? 200_000 : 20_000);
        now += elapsed[i];
        at[i] = now;
        interval[i] = 10_000;
        value[i] = random.nextInt(5) == 0 ? 0 : random.nextLong(1L << random.nextInt(1, 40));
        sum += value[i];
      }
      Samples samples = new Samples(at, elapsed, interval, value, List.of());
      long width = random.nextInt(1, 400_000);
      long from = 1_000_000 / width * width;
      int count = (int) ((now - from) / width + 1);
      Steps steps = Stepping.of(Shape.TOTAL, samples, from, width, count);
      double found =
          Arrays.stream(steps.amount()).filter(v -> !Double.isNaN(v)).sum()
              + Arrays.stream(steps.beside()).sum();
      assertThat(found).isEqualTo(sum);
      double readings = Arrays.stream(steps.covered()).sum();
      double covering = Arrays.stream(elapsed).filter(e -> e <= 25_000).mapToDouble(e -> e).sum();
      assertThat(readings).isEqualTo(covering);
    }
  }

  @Test
  void extremes_are_rounded_outward_and_hardly() {
    SplittableRandom random = new SplittableRandom(4);
    for (int i = 0; i < 10_000; i++) {
      double value = (random.nextDouble() - 0.5) * Math.pow(10, random.nextInt(-9, 15));
      assertThat(Stepping.down(value)).isLessThanOrEqualTo(value);
      assertThat(Stepping.up(value)).isGreaterThanOrEqualTo(value);
      double width = Math.abs(value) / 4_096;
      assertThat(Stepping.up(value) - Stepping.down(value)).isLessThanOrEqualTo(width);
    }
    for (double exact : new double[] {0, -0.0, 1, 0.5, 4_095, -8_191, 1024}) {
      assertThat(Stepping.down(exact)).isEqualTo(exact);
      assertThat(Stepping.up(exact)).isEqualTo(exact);
    }
    assertThat(Stepping.up(8_193)).isEqualTo(8_194);
    assertThat(Stepping.down(8_193)).isEqualTo(8_192);
    assertThat(Stepping.up(Double.NaN)).isNaN();
  }

  @Test
  void steps_come_back_from_their_bytes_and_what_was_changed_is_told() {
    Samples samples = samples(10_000, new long[] {55_000, 65_000, 75_000}, 10, 20.25, 1 / 3.0);
    Steps steps = Stepping.of(Shape.LEVEL, samples, 0, MINUTE, 5);
    byte[] bytes = StepChunk.write(steps, new ValueWriter());
    Steps back = StepChunk.read(bytes, 0, MINUTE, new ValueReader());
    assertThat(back.covered()).isEqualTo(steps.covered());
    assertThat(back.amount()).isEqualTo(steps.amount());
    assertThat(back.beside()).isEqualTo(steps.beside());
    assertThat(back.least()).isEqualTo(steps.least());
    assertThat(back.greatest()).isEqualTo(steps.greatest());
    Steps means = StepChunk.readMeans(bytes, 0, MINUTE, new ValueReader());
    assertThat(means.covered()).isEqualTo(steps.covered());
    assertThat(means.amount()).isEqualTo(steps.amount());
    assertThat(means.beside()).isEqualTo(steps.beside());
    assertThat(means.least()).hasSize(5).containsOnly(Double.NaN);
    assertThat(means.greatest()).hasSize(5).containsOnly(Double.NaN);
    for (int i = 0; i < bytes.length; i++) {
      byte[] changed = bytes.clone();
      changed[i] ^= 4;
      assertThatThrownBy(() -> StepChunk.read(changed, 0, MINUTE, new ValueReader()))
          .isInstanceOf(CorruptChunk.class);
      byte[] cut = Arrays.copyOf(bytes, i);
      assertThatThrownBy(() -> StepChunk.read(cut, 0, MINUTE, new ValueReader()))
          .isInstanceOf(CorruptChunk.class);
      assertThatThrownBy(() -> StepChunk.readMeans(cut, 0, MINUTE, new ValueReader()))
          .isInstanceOf(CorruptChunk.class);
    }
  }

  private static Samples samples(long interval, long[] at, double... values) {
    long[] every = new long[at.length];
    Arrays.fill(every, interval);
    return new Samples(at, every.clone(), every, values, List.of());
  }
}
