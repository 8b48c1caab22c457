package jamjar.core.chart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.Recipes;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import java.util.Arrays;
import java.util.List;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

class ChartingTest {

  @Test
  void a_total_is_shown_per_second() {
    Points points =
        Charting.points(
            Recipes.COMMITS, Shape.TOTAL, samples(10_000, 0, 300, 50, 70), 0, 30_000, 10);
    assertThat(points.at()).containsExactly(0, 10_000, 20_000, 30_000);
    assertThat(points.mean()).containsExactly(0, 30, 5, 7);
  }

  @Test
  void nothing_is_drawn_across_a_silence_of_more_than_two_and_a_half_intervals() {
    Samples samples =
        new Samples(
            new long[] {0, 10_000, 36_000},
            new long[] {10_000, 10_000, 26_000},
            new long[] {10_000, 10_000, 10_000},
            new double[] {1, 2, 3},
            List.of());
    Points points = Charting.points(Recipes.USED, Shape.LEVEL, samples, 0, 40_000, 100);
    assertThat(points.at()).containsExactly(0, 10_000, 23_000, 36_000);
    assertThat(points.mean()).containsExactly(1, 2, Double.NaN, 3);
  }

  @Test
  void an_increase_over_more_than_two_and_a_half_intervals_is_no_point_of_a_chart() {
    Samples samples =
        new Samples(
            new long[] {0, 60_000},
            new long[] {10_000, 60_000},
            new long[] {10_000, 10_000},
            new double[] {10, 6000},
            List.of());
    Points points = Charting.points(Recipes.COMMITS, Shape.TOTAL, samples, 0, 60_000, 100);
    assertThat(points.mean()).containsExactly(1, Double.NaN, Double.NaN);
  }

  @Test
  void a_window_in_one_has_the_mean_of_what_is_covered_and_the_sum_over_gaps_too() {
    Samples samples =
        new Samples(
            new long[] {10_000, 20_000, 80_000},
            new long[] {10_000, 10_000, 60_000},
            new long[] {10_000, 10_000, 10_000},
            new double[] {100, 50, 600},
            List.of());
    // half of the first; the third covers too long a time for the mean, but 40 of its 60 s count
    Summary summary =
        Charting.summary(Recipes.COMMITS, Shape.TOTAL, Stepped.of(samples), 5_000, 60_000);
    assertThat(summary.mean()).isCloseTo((50 + 50) / 15.0, within(1e-9));
    assertThat(summary.max()).isEqualTo(10);
    assertThat(summary.sum()).isCloseTo(50 + 50 + 400, within(1e-9));
    Summary none =
        Charting.summary(Recipes.COMMITS, Shape.TOTAL, Stepped.of(samples), 90_000, 95_000);
    assertThat(none.mean()).isNaN();
    assertThat(none.sum()).isNaN();
    Samples level = samples(10_000, 4, 8);
    Summary mean = Charting.summary(Recipes.USED, Shape.LEVEL, Stepped.of(level), 0, 20_000);
    assertThat(mean).isEqualTo(new Summary(6, 8, Double.NaN));
  }

  @Test
  void the_figures_of_a_window_are_by_time() {
    double[] values = new double[20];
    Arrays.fill(values, 4);
    values[7] = 8;
    Samples level = samples(10_000, values);
    // 380 of 400 steps at 4, 20 at 8: 95 % lie half way between the last of these and the first
    Figures all = Charting.figures(Recipes.USED, Shape.LEVEL, Stepped.of(level), 0, 200_000);
    assertThat(all.p95()).isCloseTo(6, within(1e-9));
    assertThat(all).isEqualTo(new Figures(4, 4.2, all.p95(), 8, Double.NaN));
    Figures none = Charting.figures(Recipes.USED, Shape.LEVEL, Stepped.of(level), 900_000, 990_000);
    assertThat(none.least()).isNaN();
    assertThat(none.p95()).isNaN();
  }

  @Test
  void a_quotient_is_the_sum_above_over_the_sum_below_and_too_few_give_nothing() {
    Samples samples =
        new Samples(
            new long[] {0, 10_000},
            new long[] {10_000, 10_000},
            new long[] {10_000, 10_000},
            new double[] {90, 9},
            List.of(new double[] {90, 9}, new double[] {30, 10}));
    Points points = Charting.points(Recipes.RATIO, Shape.TOTAL, samples, 0, 10_000, 100);
    // 90 of 120; 9 of 19 is under the least of 20
    assertThat(points.mean()[0]).isEqualTo(75, within(1e-12));
    assertThat(points.mean()[1]).isNaN();
  }

  @Test
  void the_quotient_of_two_levels_is_area_over_area() {
    // held for 10 s, then for 15 s: (10·10 + 40·15) / (100·10 + 50·15) = 700 / 1750
    Samples samples =
        new Samples(
            new long[] {0, 10_000},
            new long[] {10_000, 10_000},
            new long[] {10_000, 10_000},
            new double[] {10, 40},
            List.of(new double[] {100, 50}));
    Points points = Charting.points(Recipes.SHARE, Shape.LEVEL, samples, 0, 25_000, 1);
    assertThat(points.mean()[0]).isEqualTo(40, within(1e-9));
  }

  @Test
  void a_spike_of_one_reading_stays_visible_as_the_maximum_of_its_step() {
    double[] values = new double[1000];
    values[500] = 90;
    Points points =
        Charting.points(Recipes.USED, Shape.LEVEL, samples(10_000, values), 0, 10_000_000, 10);
    assertThat(points.max()).contains(90);
    assertThat(points.at()).hasSize(10);
    assertThat(points.mean()[5]).isEqualTo(0.9, within(1e-9));
    assertThat(points.min()[5]).isZero();
  }

  @Test
  void an_increase_across_an_edge_is_split_by_seconds() {
    // 100 in the 10 s before 15 s: 5 s of them in each half of 0 … 20 s
    Samples samples =
        new Samples(
            new long[] {5_000, 15_000, 16_000},
            new long[] {5_000, 10_000, 1_000},
            new long[] {10_000, 10_000, 10_000},
            new double[] {0, 100, 0},
            List.of());
    Points points = Charting.points(Recipes.COMMITS, Shape.TOTAL, samples, 0, 20_000, 2);
    assertThat(points.mean()[0]).isEqualTo(5, within(1e-9));
    // 50 over the 6 s that were read
    assertThat(points.mean()[1]).isEqualTo(50 / 6.0, within(1e-9));
  }

  @Test
  void a_level_holds_at_most_one_and_a_half_intervals() {
    Samples samples =
        new Samples(
            new long[] {0, 1_000, 2_000},
            new long[] {1_000, 1_000, 1_000},
            new long[] {1_000, 1_000, 1_000},
            new double[] {6, 6, 6},
            List.of());
    Points points = Charting.points(Recipes.USED, Shape.LEVEL, samples, 0, 8_000, 2);
    assertThat(points.mean()[0]).isEqualTo(6);
    assertThat(points.mean()[1]).isNaN();
  }

  @Test
  void too_few_is_told_of_a_judged_step_and_not_of_a_reading() {
    // 4 hits of 5 each second: under the least of 20 in a second, 50 in ten
    long[] at = LongStream.rangeClosed(1, 20).map(i -> 1000 * i).toArray();
    long[] second = new long[20];
    double[] hits = new double[20];
    double[] reads = new double[20];
    Arrays.fill(second, 1000);
    Arrays.fill(hits, 4);
    Arrays.fill(reads, 1);
    Samples samples = new Samples(at, second, second, hits, List.of(hits, reads));
    Points points = Charting.points(Recipes.RATIO, Shape.TOTAL, samples, 0, 20_000, 500);
    assertThat(points.mean()).containsExactly(80, 80);
    assertThat(points.max()).containsExactly(80, 80);
    double[] one = {1};
    double[] none = {0};
    Samples few =
        new Samples(
            new long[] {5_000}, new long[] {1000}, new long[] {1000}, one, List.of(one, none));
    assertThat(Charting.points(Recipes.RATIO, Shape.TOTAL, few, 0, 10_000, 500).mean()[0]).isNaN();
  }

  private static Samples samples(long interval, double... values) {
    return new Samples(
        LongStream.range(0, values.length).map(i -> i * interval).toArray(),
        LongStream.range(0, values.length).map(i -> interval).toArray(),
        LongStream.range(0, values.length).map(i -> interval).toArray(),
        values,
        List.of());
  }

  @Test
  void at_a_moment_a_level_is_what_was_read_last_and_a_total_what_covers_it() {
    Samples samples = samples(10_000, 0, 10, 20, 30);
    assertThat(at(Recipes.USED, Shape.LEVEL, samples, -1)).isNaN();
    assertThat(at(Recipes.USED, Shape.LEVEL, samples, 9_999)).isEqualTo(0);
    assertThat(at(Recipes.USED, Shape.LEVEL, samples, 10_000)).isEqualTo(10);
    // the last one holds for one and a half intervals
    assertThat(at(Recipes.USED, Shape.LEVEL, samples, 44_999)).isEqualTo(30);
    assertThat(at(Recipes.USED, Shape.LEVEL, samples, 45_000)).isNaN();
    assertThat(at(Recipes.COMMITS, Shape.TOTAL, samples, 10_000)).isEqualTo(1);
    assertThat(at(Recipes.COMMITS, Shape.TOTAL, samples, 10_001)).isEqualTo(2);
    assertThat(at(Recipes.COMMITS, Shape.TOTAL, samples, 30_001)).isNaN();
  }

  private static double at(CounterDefinition counter, Shape shape, Samples samples, long moment) {
    return Charting.at(counter, shape, Stepped.of(samples), moment);
  }
}
