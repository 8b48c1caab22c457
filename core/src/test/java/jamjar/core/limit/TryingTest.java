package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.Recipes;
import jamjar.core.chart.Samples;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.PastJudgings.Alert;
import jamjar.core.limit.Trying.Caught;
import jamjar.core.limit.Trying.Noise;
import jamjar.core.limit.Trying.Past;
import jamjar.core.limit.Trying.Point;
import jamjar.core.limit.Trying.Span;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/**
 * Two weeks at a minute: 3, but for an hour each day, in which it is 10 × the number of the day.
 */
class TryingTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final long FROM = Instant.parse("2026-11-01T00:00:00Z").toEpochMilli();
  private static final long MINUTE = 60_000;
  private static final long DAY = 1_440 * MINUTE;
  private static final int DAYS = 14;

  private static Limit above(double warning, double critical) {
    return new Limit(
        Condition.ABOVE,
        Worse.UP,
        new Threshold(warning, warning - 1, 3, 3),
        new Threshold(critical, critical - 1, 3, 3),
        MINUTE,
        10_000);
  }

  private static PastJudgings past(int factor) {
    double[] values = new double[DAYS * 1_440];
    Arrays.setAll(
        values, i -> factor * (i % 1_440 >= 720 && i % 1_440 < 780 ? 10 * (i / 1_440 + 1) : 3));
    long[] at = IntStream.range(0, values.length).mapToLong(i -> FROM + (i + 1) * MINUTE).toArray();
    long[] same = new long[at.length];
    Arrays.fill(same, MINUTE);
    return PastJudgings.of(
        Recipes.USED, Shape.LEVEL, new Samples(at, same, same, values, List.of()), 10_000);
  }

  private static long noon(int day) {
    return FROM + (day - 1) * DAY + 720 * MINUTE;
  }

  private static Past past(PastJudgings judgings, Limit limit, Span... incidents) {
    return new Past(judgings, limit, List.of(), List.of(incidents), OSLO);
  }

  private static Trying trying(Limit limit, Span... incidents) {
    return new Trying(List.of(past(past(1), limit, incidents)), DAYS * DAY);
  }

  @Test
  void what_would_have_been_told_is_counted() {
    List<Alert> alerts = past(1).alerts(above(105, 125));
    // of days 11 to 14
    assertThat(alerts).hasSize(4);
    Span before = new Span(1, noon(11) - 10 * MINUTE, noon(11) + 5 * MINUTE);
    Span caught = new Span(2, noon(12) - DAY / 24 * 2, noon(12) + 30 * MINUTE);
    Span missed = new Span(3, noon(3), noon(3) + 60 * MINUTE);
    Noise noise = trying(above(105, 125), before, caught, missed).noise(List.of(alerts));
    assertThat(noise.perWeek()).isEqualTo(2);
    assertThat(noise.criticals()).isEqualTo(2);
    assertThat(noise.atNight()).isZero();
    assertThat(noise.without()).isEqualTo(2);
    assertThat(noise.inAlert()).isEqualTo(4 * 61 * MINUTE);
    assertThat(noise.incidents())
        .containsExactly(
            new Caught(before, 11 * MINUTE),
            new Caught(caught, 121 * MINUTE),
            new Caught(missed, -1));
  }

  @Test
  void what_rose_while_it_was_muted_was_not_told_but_what_still_held_at_its_end() {
    List<Alert> alerts = past(1).alerts(above(105, 1_000));
    // the whole of the first alert and the first minutes of the second
    Span works = new Span(1, noon(11) - MINUTE, noon(11) + 90 * MINUTE);
    Span more = new Span(2, noon(12) - MINUTE, noon(12) + 20 * MINUTE);
    Past past = new Past(past(1), above(105, 1_000), List.of(works, more), List.of(), OSLO);
    Alert second = alerts.get(1);
    assertThat(past.told())
        .containsExactly(
            new Alert(second.since(), more.to(), second.until(), second.severity(), second.worst()),
            alerts.get(2),
            alerts.get(3));
  }

  @Test
  void an_incident_is_caught_by_an_alert_of_whom_it_is_about() {
    Span here = new Span(1, noon(13), noon(13) + 30 * MINUTE);
    Span there = new Span(2, noon(14), noon(14) + 30 * MINUTE);
    PastJudgings calm = past(0);
    Limit limit = above(105, 1_000);
    Trying both =
        new Trying(List.of(past(past(1), limit, here), past(calm, limit, there)), DAYS * DAY);
    Noise noise = both.noise(List.of(past(1).alerts(limit), List.of()));
    // the other is calm, be there an alert at that time or not
    assertThat(noise.incidents()).containsExactly(new Caught(here, MINUTE), new Caught(there, -1));
    assertThat(noise.without()).isEqualTo(3);
    assertThat(both.sweep(new double[] {105}).get(0).caught()).isEqualTo(1);
  }

  @Test
  void with_higher_numbers_it_is_calmer_down_to_none() {
    Trying trying = trying(above(5, 200), new Span(1, noon(13), noon(13) + DAY / 24));
    double[] numbers = trying.numbers(50);
    assertThat(numbers).hasSize(50).isSorted();
    assertThat(numbers[0]).isEqualTo(3 + (140 + 137 / 20.0 - 3) / 50, within(1e-9));
    assertThat(numbers[49]).isEqualTo(140 + 137 / 20.0, within(1e-9));
    List<Point> sweep = trying.sweep(numbers);
    for (Point point : sweep) {
      // one alert on each day whose number reaches it
      long days = IntStream.rangeClosed(1, DAYS).filter(d -> 10 * d >= point.number()).count();
      assertThat(point.perWeek()).isEqualTo(days / 2.0);
      assertThat(point.caught()).isEqualTo(point.number() <= 130 ? 1 : 0);
    }
  }

  @Test
  void the_number_for_a_wanted_noise_is_the_nearest_to_what_is_usual() {
    Limit limit = above(5, 200);
    Trying trying = trying(limit);
    List<Point> sweep = trying.sweep(trying.numbers(50));
    // two alerts in two weeks: those of the last two days
    assertThat(trying.suggestion(sweep, 1).orElseThrow())
        .isGreaterThan(120)
        .isLessThanOrEqualTo(121);
    assertThat(trying.suggestion(sweep, 0).orElseThrow())
        .isGreaterThan(140)
        .isLessThanOrEqualTo(141);
    // of two series as many again
    Trying both = new Trying(List.of(past(past(1), limit), past(past(2), limit)), DAYS * DAY);
    assertThat(both.suggestion(both.sweep(both.numbers(50)), 1).orElseThrow())
        .isGreaterThan(240)
        .isLessThanOrEqualTo(241);
  }

  @Test
  void clear_never_lies_beyond_what_is_usual_or_it_would_not_be_calm_again() {
    // calm at one less: at 3.5 that were below what always is
    List<Point> sweep = trying(above(5, 200)).sweep(new double[] {3.5, 4, 5});
    assertThat(sweep).extracting(Point::perWeek).containsExactly(7.0, 7.0, 7.0);
  }

  @Test
  void below_goes_the_other_way() {
    Limit below =
        new Limit(
            Condition.BELOW,
            Worse.DOWN,
            new Threshold(-50, -40, 3, 3),
            Threshold.NONE,
            MINUTE,
            10_000);
    Trying trying = new Trying(List.of(past(past(-1), below)), DAYS * DAY);
    double[] numbers = trying.numbers(10);
    assertThat(numbers[0]).isEqualTo(-3 - 143.85 / 10, within(1e-9));
    assertThat(numbers[9]).isEqualTo(-146.85, within(1e-9));
    List<Point> sweep = trying.sweep(numbers);
    assertThat(trying.suggestion(sweep, 1).orElseThrow())
        .isLessThan(-120)
        .isGreaterThanOrEqualTo(-121);
  }

  @Test
  void where_nothing_was_judged_there_is_no_number() {
    Samples none = new Samples(new long[0], new long[0], new long[0], new double[0], List.of());
    PastJudgings nothing = PastJudgings.of(Recipes.USED, Shape.LEVEL, none, 10_000);
    Trying trying = new Trying(List.of(past(nothing, above(5, 9))), DAYS * DAY);
    assertThat(trying.numbers(50)).isEmpty();
    assertThat(trying.suggestion(List.of(), 1)).isEmpty();
  }
}
