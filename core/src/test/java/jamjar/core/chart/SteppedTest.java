package jamjar.core.chart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.Recipes;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** Of a window whole days in steps, the rest as read: as if all had been read. */
class SteppedTest {
  private static final long MINUTE = 60_000;
  private static final long DAY = 1440 * MINUTE;
  private static final long INTERVAL = 10_000;
  private static final long END = 2 * DAY + DAY / 2;

  private final SplittableRandom random = new SplittableRandom(9);

  @Test
  void a_level_is_as_it_was_read() {
    Samples samples = readings(10_000);
    same(Recipes.USED, Shape.LEVEL, samples, stepped(Shape.LEVEL, MINUTE, samples, 0));
  }

  @Test
  void a_total_is_as_it_was_read_and_its_sum_to_the_count() {
    Samples samples = readings(10_000);
    Stepped stepped = stepped(Shape.TOTAL, MINUTE, samples, 0);
    same(Recipes.COMMITS, Shape.TOTAL, samples, stepped);
    Stepped read = Stepped.of(samples);
    assertThat(sum(stepped, 0, END)).isEqualTo(sum(read, 0, END));
    // a cut through a minute is one of its time
    assertThat(sum(stepped, 90_000, END - 12_345))
        .isCloseTo(sum(read, 90_000, END - 12_345), within(1e-4 * sum(read, 0, END)));
  }

  @Test
  void a_quotient_is_its_parts_added_up() {
    Samples samples = readings(10_000);
    same(Recipes.RATIO, Shape.TOTAL, samples, stepped(Shape.TOTAL, MINUTE, samples, 1));
  }

  @Test
  void steps_of_a_quarter_of_an_hour_do_for_a_window_of_days() {
    Samples samples = readings(10_000);
    same(Recipes.USED, Shape.LEVEL, samples, stepped(Shape.LEVEL, 15 * MINUTE, samples, 0));
  }

  @Test
  void a_part_of_a_packed_day_is_that_part_of_all_of_it() {
    Samples samples = readings(10_000);
    Stepped stepped = stepped(Shape.LEVEL, MINUTE, samples, 0);
    int all = (int) (END / MINUTE);
    double[] whole = means(stepped, 0, MINUTE, all);
    for (int round = 0; round < 200; round++) {
      int first = random.nextInt(all - 1);
      int count = 1 + random.nextInt(all - first);
      assertThat(means(stepped, first * MINUTE, MINUTE, count))
          .isEqualTo(Arrays.copyOfRange(whole, first, first + count));
      // steps that are cut lie between their parts; what was read finer need not
      int few = 1 + random.nextInt(40);
      first = Math.min(first, (int) (2 * DAY / MINUTE) - few - 1);
      long from = first * MINUTE + random.nextLong(MINUTE);
      double[] cut = means(stepped, from, MINUTE, few);
      for (int i = 0; i < few; i++) {
        double one = whole[first + i];
        double next = whole[first + i + 1];
        // of a thin one something is known that is not told
        if (!Double.isNaN(one) && !Double.isNaN(next)) {
          assertThat(cut[i]).isBetween(Math.min(one, next) - 1e-9, Math.max(one, next) + 1e-9);
        }
      }
    }
  }

  private static double[] means(Stepped stepped, long from, long width, int count) {
    return Charting.steps(Recipes.USED, Shape.LEVEL, stepped, from, width, count);
  }

  private double sum(Stepped stepped, long from, long to) {
    return Charting.summary(Recipes.COMMITS, Shape.TOTAL, stepped, from, to).sum();
  }

  /** In points that are whole steps each. */
  private static void same(
      CounterDefinition counter, Shape shape, Samples samples, Stepped stepped) {
    int n = (int) (END / (30 * MINUTE));
    Points read = Charting.points(counter, shape, samples, 0, END, n);
    Points made = Charting.points(counter, shape, stepped, 0, END, n);
    assertThat(made.at()).isEqualTo(read.at());
    for (int i = 0; i < n; i++) {
      // at the edges of a step a count may be a whole one more or less
      close(made.mean()[i], read.mean()[i], shape == Shape.LEVEL ? 1e-6 : 1e-4);
      if (stepped.parts().size() == 1) {
        close(made.min()[i], read.min()[i], 1 / 4_096.0);
        close(made.max()[i], read.max()[i], 1 / 4_096.0);
        // outward, but for what a division loses
        assertThat(made.min()[i] > read.min()[i] + 1e-9).isFalse();
        assertThat(made.max()[i] < read.max()[i] - 1e-9).isFalse();
      }
    }
  }

  private static void close(double made, double read, double share) {
    if (Double.isNaN(read)) {
      assertThat(made).isNaN();
    } else {
      assertThat(made).isCloseTo(read, within(Math.abs(read) * share));
    }
  }

  /** The first and the second day in steps, what follows as read. */
  private static Stepped stepped(Shape shape, long width, Samples samples, int below) {
    List<List<Steps>> parts = new ArrayList<>();
    for (int part = 0; part <= below; part++) {
      Samples one =
          new Samples(
              samples.at(),
              samples.elapsed(),
              samples.interval(),
              part == 0 ? samples.value() : samples.below().get(part - 1),
              List.of());
      int count = (int) (DAY / width);
      parts.add(
          List.of(
              Stepping.of(shape, one, 0, width, count),
              Stepping.of(shape, one, DAY, width, count)));
    }
    return new Stepped(parts, List.of(new Stepped.Stretch(2 * DAY, END, samples)));
  }

  /** With gaps, and hours of nothing. */
  private Samples readings(int most) {
    int n = (int) (END / INTERVAL);
    List<long[]> times = new ArrayList<>();
    long at = 0;
    for (int i = 0; i < n; i++) {
      long elapsed = random.nextInt(2_000) == 0 ? 40_000 : INTERVAL + random.nextInt(-5, 6);
      elapsed += random.nextInt(5_000) == 0 ? 2 * 60 * MINUTE : 0;
      at += elapsed;
      if (at < END) {
        times.add(new long[] {at, elapsed});
      }
    }
    double[] value = random.doubles(times.size()).map(v -> Math.rint(v * (most + 1))).toArray();
    double[] below =
        random.doubles(times.size()).map(v -> 100 + Math.rint(v * (most + 1))).toArray();
    return new Samples(
        times.stream().mapToLong(t -> t[0]).toArray(),
        times.stream().mapToLong(t -> t[1]).toArray(),
        times.stream().mapToLong(t -> INTERVAL).toArray(),
        value,
        List.of(below));
  }
}
