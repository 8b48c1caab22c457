package jamjar.core.heap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.heap.Leak.Verdict;
import java.util.SplittableRandom;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class LeakTest {
  private static final double MAX = 100;

  @Test
  void how_likely_an_order_is_is_counted_by_its_inversions() {
    // of the 6 orders of three: one with all three pairs climbing, three with at least one more
    assertThat(Leak.chance(3, 3)).isCloseTo(1 / 6.0, within(1e-12));
    assertThat(Leak.chance(3, 1)).isCloseTo(3 / 6.0, within(1e-12));
    assertThat(Leak.chance(4, 6)).isCloseTo(1 / 24.0, within(1e-12));
    assertThat(Leak.chance(4, 4)).isCloseTo(4 / 24.0, within(1e-12));
    assertThat(Leak.chance(5, -10)).isCloseTo(1, within(1e-12));
  }

  @Test
  void what_climbs_day_by_day_is_told_with_the_hours_to_the_wall() {
    // 2 a day from 60: 40 left after the last
    double[] floors = {52, 54, 56, 58, 60};
    Leak leak = Leak.of(floors, MAX);
    assertThat(leak.verdict()).isEqualTo(Verdict.CLIMBS);
    assertThat(leak.perDay()).isEqualTo(2);
    assertThat(leak.hoursLeast()).isCloseTo(480, within(1e-9));
    assertThat(leak.hoursMost()).isCloseTo(480, within(1e-9));
    assertThat(Leak.of(new double[] {52, 54, 56}, MAX).verdict()).isEqualTo(Verdict.CLIMBS);
    assertThat(Leak.of(new double[] {52, 54}, MAX).verdict()).isEqualTo(Verdict.TOO_FEW_DAYS);
    // a day without a reading keeps its place
    Leak gap = Leak.of(new double[] {52, Double.NaN, 56, 58, 60}, MAX);
    assertThat(gap.perDay()).isEqualTo(2);
    assertThat(gap.days()).isEqualTo(4);
  }

  @Test
  void a_cache_that_has_filled_a_step_and_a_wave_are_none() {
    assertThat(Leak.of(new double[] {30, 40, 50, 55, 55.2, 55.1}, MAX).verdict())
        .isEqualTo(Verdict.NONE);
    assertThat(Leak.of(new double[] {40, 40, 40, 60, 60, 60}, MAX).verdict())
        .isEqualTo(Verdict.NONE);
    assertThat(Leak.of(new double[] {40, 44, 41, 45, 42, 43, 44}, MAX).verdict())
        .isEqualTo(Verdict.NONE);
    // it climbs, but reaches nothing
    assertThat(Leak.of(new double[] {40, 40.1, 40.2, 40.3, 40.4}, MAX).verdict())
        .isEqualTo(Verdict.NONE);
  }

  @Test
  void the_range_holds_the_truth_of_a_leak_that_scatters() {
    SplittableRandom random = new SplittableRandom(9);
    int told = 0;
    int held = 0;
    for (int turn = 0; turn < 200; turn++) {
      double[] floors =
          IntStream.range(0, 8)
              .mapToDouble(i -> 40 + 2 * i + (random.nextDouble() - 0.5))
              .toArray();
      Leak leak = Leak.of(floors, MAX);
      if (leak.verdict() == Verdict.CLIMBS) {
        told++;
        double truth = 24 * (MAX - 54) / 2;
        held += leak.hoursLeast() <= 1.05 * truth && leak.hoursMost() >= 0.95 * truth ? 1 : 0;
      }
    }
    assertThat(told).isGreaterThan(190);
    assertThat(held).isGreaterThan(9 * told / 10);
  }
}
