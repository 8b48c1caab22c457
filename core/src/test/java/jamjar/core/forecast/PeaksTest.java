package jamjar.core.forecast;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.baseline.Timeline.LeftOut;
import jamjar.core.forecast.Peaks.Verdict;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
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

  @Test
  void a_purge_on_a_day_that_is_left_out_is_seen_all_the_same() {
    double[] peaks =
        IntStream.range(0, 40).mapToDouble(i -> i < 20 ? 80 + 3 * i : 20 + (i - 20)).toArray();
    peaks[19] = Double.NaN;
    assertThat(Peaks.of(peaks, 60).first()).isEqualTo(20);
  }

  @Test
  void what_takes_longer_than_anybody_plans_is_never() {
    double[] peaks = IntStream.range(0, 20).mapToDouble(i -> 50 + i * 1e-12).toArray();
    assertThat(Peaks.of(peaks, 100).latest()).isInfinite();
  }

  @Test
  void the_peak_of_a_day_is_that_of_its_zone_and_of_what_belongs_to_it() {
    ZoneId oslo = ZoneId.of("Europe/Oslo");
    LocalDate first = LocalDate.of(2026, 10, 24);
    long from = first.atStartOfDay(oslo).toInstant().toEpochMilli();
    // the 25th has 25 hours
    double[] values = IntStream.range(0, 24 + 25 + 24).mapToDouble(i -> i).toArray();
    values[3] = Double.NaN;
    List<LeftOut> out =
        List.of(new LeftOut(from + 70 * 3_600_000L, from + 73 * 3_600_000L, "maintenance"));
    assertThat(Peaks.ofDays(from, 3_600_000, values, first, 4, oslo, out))
        .containsExactly(23, 48, 69, Double.NaN);
  }
}
