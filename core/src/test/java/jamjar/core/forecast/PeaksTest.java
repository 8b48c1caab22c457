package jamjar.core.forecast;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.forecast.Peaks.Verdict;
import java.util.Arrays;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class PeaksTest {

  @Test
  void a_straight_climb_meets_the_capacity_on_its_day() {
    // 50, 51 … 77: at 100 after 23 more days
    double[] peaks = IntStream.range(0, 28).mapToDouble(i -> 50 + i).toArray();
    Peaks told = Peaks.of(peaks, 100);
    assertThat(told.verdict()).isEqualTo(Verdict.REACHES);
    assertThat(told.days()).isEqualTo(28);
    assertThat(told.perDay()).isEqualTo(1);
    assertThat(told.now()).isEqualTo(77);
    assertThat(told.middle()).isEqualTo(23);
    assertThat(told.soonest()).isEqualTo(23);
    assertThat(told.latest()).isEqualTo(23);
  }

  @Test
  void by_hand_with_four_kinds_of_days() {
    // y = 10 + 2 i, every fourth day 4 more: the middle slope stays 2, and the line lies on the
    // rest
    double[] peaks =
        IntStream.range(0, 16).mapToDouble(i -> 100 + 2 * i + (i % 4 == 3 ? 4 : 0)).toArray();
    Peaks told = Peaks.of(peaks, 160);
    assertThat(told.perDay()).isEqualTo(2);
    // the last day is one of the higher ones: the line itself stands at 130
    assertThat(told.now()).isEqualTo(130);
    assertThat(told.middle()).isEqualTo(15);
    // a day in ten lies 4 above: soonest from 134 on, by a slope that is no flatter
    assertThat(told.soonest()).isLessThanOrEqualTo(13);
    assertThat(told.latest()).isGreaterThanOrEqualTo(15);
  }

  @Test
  void what_stays_or_falls_is_not_in_sight_and_what_is_above_has_reached_it() {
    double[] flat = new double[42];
    Arrays.fill(flat, 60);
    assertThat(Peaks.of(flat, 100).verdict()).isEqualTo(Verdict.NOT_IN_SIGHT);
    assertThat(Peaks.of(flat, 100).middle()).isInfinite();
    assertThat(Peaks.of(flat, 50).verdict()).isEqualTo(Verdict.REACHED);
    double[] slow = IntStream.range(0, 42).mapToDouble(i -> 60 + i / 10.0).toArray();
    // 36 more at a tenth a day: a year
    assertThat(Peaks.of(slow, 100).verdict()).isEqualTo(Verdict.NOT_IN_SIGHT);
    assertThat(Peaks.of(slow, 100).middle()).isEqualTo(359, within(1e-6));
  }

  @Test
  void one_wild_day_bends_nothing_and_too_few_days_say_nothing() {
    double[] peaks = IntStream.range(0, 28).mapToDouble(i -> 50 + i).toArray();
    peaks[13] = 5_000;
    peaks[20] = Double.NaN;
    assertThat(Peaks.of(peaks, 100).middle()).isEqualTo(23, within(0.5));
    assertThat(Peaks.of(Arrays.copyOf(peaks, 13), 100).verdict()).isEqualTo(Verdict.TOO_FEW_DAYS);
  }

  @Test
  void after_a_purge_it_begins_again() {
    // climbs by 3 a day to 140, is purged to 20, and climbs by 1
    double[] peaks =
        IntStream.range(0, 40).mapToDouble(i -> i < 20 ? 80 + 3 * i : 20 + (i - 20)).toArray();
    Peaks told = Peaks.of(peaks, 60);
    assertThat(told.first()).isEqualTo(20);
    assertThat(told.perDay()).isEqualTo(1);
    assertThat(told.middle()).isEqualTo(21);
  }

  @Test
  void the_range_holds_the_truth_for_most_seeds() {
    int held = 0;
    for (int seed = 0; seed < 200; seed++) {
      Random random = new Random(seed);
      double[] peaks =
          IntStream.range(0, 35)
              .mapToDouble(i -> 50 + 0.8 * i + 3 * random.nextGaussian())
              .toArray();
      Peaks told = Peaks.of(peaks, 100);
      // 50 + 0.8 × 34 = 77.2: at 100 after 28.5 days
      held += told.soonest() <= 28.5 && told.latest() >= 28.5 ? 1 : 0;
    }
    assertThat(held).isGreaterThan(185);
  }
}
