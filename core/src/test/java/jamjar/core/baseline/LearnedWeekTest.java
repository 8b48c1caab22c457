package jamjar.core.baseline;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class LearnedWeekTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final int WEEK = 7 * 1440;

  @Test
  void says_of_each_week_what_counted_and_what_was_left_out_and_why() {
    LocalDate monday = LocalDate.of(2026, 5, 4);
    long start = monday.atStartOfDay(OSLO).toInstant().toEpochMilli();
    double[] values = IntStream.range(0, 4 * WEEK).mapToDouble(i -> 5 + i % 3).toArray();
    // a gap of an hour on the first Monday, a bad quarter-hour at 03:00 on the third
    Arrays.fill(values, 120, 180, Double.NaN);
    Arrays.fill(values, 2 * WEEK + 180, 2 * WEEK + 195, 80);
    long works = start + (WEEK + 1440) * Timeline.MINUTE;
    Timeline timeline =
        new Timeline(
            start,
            values.length,
            OSLO,
            Set.of(),
            List.of(
                new Timeline.LeftOut(works, works + 30 * Timeline.MINUTE, "maintenance: cables")));
    assertThat(LearnedWeek.of(timeline, values, 1))
        .containsExactly(
            new LearnedWeek((int) monday.toEpochDay(), WEEK, WEEK - 60, List.of()),
            new LearnedWeek(
                (int) monday.plusDays(7).toEpochDay(),
                WEEK,
                WEEK - 30,
                List.of(new LearnedWeek.LeftOut("maintenance: cables", 96, 97, 30))),
            new LearnedWeek(
                (int) monday.plusDays(14).toEpochDay(),
                WEEK,
                WEEK - 15,
                List.of(new LearnedWeek.LeftOut(LearnedWeek.FAR, 12, 12, 15))),
            new LearnedWeek((int) monday.plusDays(21).toEpochDay(), WEEK, WEEK, List.of()));
  }

  @Test
  void outside_is_told_by_the_minute_and_the_longest_stay_is_found() {
    Normal normal = new Normal(10, 11, 12, 13, 14, 100, Basis.SLOT);
    double[] values = {12, 15, 12, 9, 8, Double.NaN, 20, 20, 20, 14};
    assertThat(Outside.of(600_000, values, at -> normal))
        .isEqualTo(new Outside(9, 6, 600_000 + 6 * 60_000, 600_000 + 9 * 60_000));
    assertThat(Outside.of(0, values, at -> Normal.NONE)).isEqualTo(new Outside(0, 0, 0, 0));
  }

  @Test
  void drift_is_the_middle_of_how_far_the_middles_have_moved() {
    double[] then = IntStream.range(0, 3 * WEEK).mapToDouble(i -> 100 + i % 11).toArray();
    double[] now = Arrays.stream(then).map(v -> v + 3).toArray();
    Timeline timeline = new Timeline(0, then.length, ZoneOffset.UTC, Set.of(), List.of());
    Baseline before = Baseline.learn(timeline, then, 1);
    Baseline after = Baseline.learn(timeline, now, 1);
    // the spread above is about (110 − 105) / 1.645 = 3.04
    assertThat(Drift.of(before, after, 0.1, 0)).isCloseTo(3 / 3.04, within(0.15));
    assertThat(Drift.of(after, before, 0.1, 0)).isNegative();
    assertThat(Drift.of(before, before, 0.1, 0)).isZero();
  }
}
