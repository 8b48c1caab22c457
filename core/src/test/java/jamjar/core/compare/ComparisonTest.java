package jamjar.core.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.compare.Comparison.Verdict;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class ComparisonTest {
  private static final double NONE = Double.NaN;

  @Test
  void the_shift_is_the_middle_of_the_means_of_any_two_differences() {
    // differences 1, 2, 10: means of two of them 1, 1.5, 5.5, 2, 6, 10
    assertThat(Comparison.shift(new double[] {0, 0, 0}, new double[] {1, 2, 10}).orElseThrow())
        .isEqualTo(3.75);
    assertThat(Comparison.shift(new double[] {5}, new double[] {3}).orElseThrow()).isEqualTo(-2);
    assertThat(Comparison.shift(new double[] {}, new double[] {})).isEmpty();
  }

  @Test
  void how_far_two_lie_apart_counts_each_with_each() {
    assertThat(Comparison.apart(new double[] {1, 2, 3}, new double[] {4, 5})).isEqualTo(1);
    assertThat(Comparison.apart(new double[] {4, 5}, new double[] {1, 2, 3})).isEqualTo(-1);
    // 2 against 1, 2, 3: one higher, one lower; 3 against them: two higher, none lower
    assertThat(Comparison.apart(new double[] {1, 2, 3}, new double[] {2, 3}))
        .isEqualTo(2.0 / 6, within(1e-12));
  }

  @Test
  void equals_a_reference_of_all_pairs() {
    SplittableRandom random = new SplittableRandom(3);
    for (int turn = 0; turn < 50; turn++) {
      double[] before = random.doubles(1 + random.nextInt(30)).map(Math::rint).toArray();
      double[] after = random.doubles(1 + random.nextInt(30)).map(v -> Math.rint(3 * v)).toArray();
      int sum = 0;
      for (double a : before) {
        for (double b : after) {
          sum += b > a ? 1 : b < a ? -1 : 0;
        }
      }
      assertThat(Comparison.apart(before, after))
          .isCloseTo((double) sum / (before.length * after.length), within(1e-12));
    }
  }

  /** A day by the quarter-hour, higher by so much, with a little scatter. */
  private static double[] day(double level, long seed) {
    SplittableRandom random = new SplittableRandom(seed);
    double[] day = new double[96];
    for (int i = 0; i < day.length; i++) {
      day[i] = level + 20 * Math.sin(i / 15.0) + random.nextDouble();
    }
    return day;
  }

  private static List<double[]> weeks(double... levels) {
    List<double[]> weeks = new ArrayList<>();
    for (double level : levels) {
      weeks.add(day(level, (long) level));
    }
    return weeks;
  }

  @Test
  void a_change_beyond_what_it_changes_anyway_is_told_from_one_within() {
    List<double[]> restless = weeks(100, 106, 98);
    List<double[]> steady = weeks(100, 100.5, 100);
    Comparison within = Comparison.of(day(100, 1), day(105, 2), restless, 1);
    assertThat(within.shift()).isCloseTo(5, within(0.2));
    assertThat(within.usual()).isCloseTo(8, within(0.3));
    assertThat(within.verdict()).isEqualTo(Verdict.SAME);
    // the waves of the day are larger: aligned, it is seen all the same
    Comparison beyond = Comparison.of(day(100, 1), day(130, 2), steady, 1);
    assertThat(beyond.verdict()).isEqualTo(Verdict.FAR_BEYOND);
    assertThat(beyond.before()).isCloseTo(100.5 + waves(), within(0.2));
    assertThat(beyond.after()).isCloseTo(130.5 + waves(), within(0.2));
    assertThat(Comparison.of(day(100, 1), day(124, 2), restless, 1).verdict())
        .isEqualTo(Verdict.BEYOND);
    assertThat(Comparison.of(day(100, 1), day(100.4, 2), steady, 1).verdict())
        .isEqualTo(Verdict.SAME);
  }

  private static double waves() {
    double sum = 0;
    for (int i = 0; i < 96; i++) {
      sum += 20 * Math.sin(i / 15.0);
    }
    return sum / 96;
  }

  @Test
  void a_short_burst_in_either_moves_nothing() {
    double[] after = day(100, 2);
    Arrays.fill(after, 10, 30, 900);
    Comparison told = Comparison.of(day(100, 1), after, weeks(100, 100), 1);
    assertThat(Math.abs(told.shift())).isLessThan(1);
    assertThat(told.verdict()).isEqualTo(Verdict.SAME);
  }

  @Test
  void without_values_on_both_sides_nothing_is_said() {
    double[] gone = new double[96];
    Arrays.fill(gone, NONE);
    Comparison told = Comparison.of(gone, day(100, 1), List.of(), 1);
    assertThat(told.verdict()).isEqualTo(Verdict.NOT_COMPARABLE);
    assertThat(told.shift()).isNaN();
    assertThat(told.after()).isPositive();
    // no week before: what matters decides
    assertThat(Comparison.of(day(10, 1), day(50, 2), List.of(), 1).usual()).isNaN();
    assertThat(Comparison.of(day(10, 1), day(50, 2), List.of(), 1).verdict())
        .isEqualTo(Verdict.FAR_BEYOND);
  }
}
