package jamjar.core.baseline;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.function.LongFunction;
import org.junit.jupiter.api.Test;

class MovedTest {
  /** The middle is 10, a spread is 1 on both sides. */
  private static final LongFunction<Normal> USUAL =
      at -> new Normal(8.355, 9.3, 10, 10.7, 11.645, 500, Basis.SLOT);

  private static final long FROM = 600_000;

  private static Optional<Moved> of(double... values) {
    return Moved.of(FROM, values, USUAL, 0.1, 0, 10_000);
  }

  @Test
  void what_is_held_for_five_minutes_is_told_and_since_when_it_had_left() {
    Moved moved = of(10, 10, 15, 16, 17, 18, 19, 18, 10).orElseThrow();
    // the farthest five on end: 16 to 18, 15 before them is nearer
    assertThat(moved.distance()).isCloseTo(6, within(1e-6));
    assertThat(moved.since()).isEqualTo(FROM + 2 * 60_000);
    assertThat(moved.at()).isEqualTo(FROM + 3 * 60_000);
    assertThat(moved.value()).isCloseTo((16 + 17 + 18 + 19 + 18) / 5.0, within(1e-9));
    assertThat(moved.minutes()).isEqualTo(6);
    assertThat(moved.normal().p95()).isEqualTo(11.645);
  }

  @Test
  void what_is_outside_for_four_minutes_or_less_far_or_on_both_sides_is_not() {
    assertThat(of(10, 30, 30, 30, 30, 10)).isEmpty();
    assertThat(of(13.9, 13.9, 13.9, 13.9, 13.9, 13.9)).isEmpty();
    assertThat(of(20, 0, 20, 0, 20, 0, 20, 0)).isEmpty();
    assertThat(of()).isEmpty();
    assertThat(Moved.of(FROM, new double[] {1, 1, 1, 1, 1}, at -> Normal.NONE, 1, 0, 10_000))
        .isEmpty();
  }

  @Test
  void below_its_normal_it_is_negative_and_gaps_are_passed_over() {
    Moved moved = of(5, Double.NaN, 4, 4, Double.NaN, Double.NaN, 4, 4).orElseThrow();
    assertThat(moved.distance()).isCloseTo(-5, within(1e-6));
    assertThat(moved.since()).isEqualTo(FROM);
  }

  @Test
  void of_a_slow_series_one_reading_covers_them() {
    double[] values = new double[15];
    Arrays.fill(values, Double.NaN);
    values[5] = 16;
    values[10] = 10;
    Moved moved = Moved.of(FROM, values, USUAL, 0.1, 0, 300_000).orElseThrow();
    assertThat(moved.distance()).isCloseTo(6, within(1e-6));
    assertThat(moved.since()).isEqualTo(FROM + 5 * 60_000);
  }

  @Test
  void of_what_scatters_as_it_was_learned_nobody_moves() {
    SplittableRandom random = new SplittableRandom(5);
    int moved = 0;
    for (int series = 0; series < 2_000; series++) {
      double[] values = random.doubles(60).map(u -> 10 + gauss(random)).toArray();
      moved += of(values).isPresent() ? 1 : 0;
    }
    assertThat(moved).isZero();
  }

  private static double gauss(SplittableRandom random) {
    return Math.sqrt(-2 * Math.log(1 - random.nextDouble()))
        * Math.cos(2 * Math.PI * random.nextDouble());
  }
}
