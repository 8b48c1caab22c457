package jamjar.core.baseline;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class HabitTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

  private static long at(String local) {
    return LocalDateTime.parse(local).atZone(OSLO).toInstant().toEpochMilli();
  }

  private static long[] times(String... local) {
    return Arrays.stream(local).mapToLong(HabitTest::at).toArray();
  }

  private static double[] all(int n) {
    return IntStream.range(0, n).mapToDouble(i -> 3).toArray();
  }

  @Test
  void the_hour_of_most_days_begins_when_it_comes() {
    long[] at =
        times(
            "2026-11-02T02:10",
            "2026-11-03T02:20",
            "2026-11-05T02:12",
            "2026-11-05T02:40",
            "2026-11-04T15:00",
            "2026-11-05T15:20");
    // at 02:00 on three days, at 15:00 on two
    assertThat(Habit.of(at, all(6), OSLO)).contains(new Habit(8, 3, 3));
  }

  @Test
  void what_lasts_begins_where_it_begins() {
    long[] at =
        times(
            "2026-11-02T02:10",
            "2026-11-02T02:20",
            "2026-11-02T02:40",
            "2026-11-03T02:12",
            "2026-11-03T02:25",
            "2026-11-03T02:38");
    assertThat(Habit.of(at, all(6), OSLO)).contains(new Habit(8, 2, 2));
  }

  @Test
  void what_is_zero_has_not_come_and_once_is_no_habit() {
    long[] at = times("2026-11-02T02:10", "2026-11-03T02:20");
    assertThat(Habit.of(at, new double[] {1, 0}, OSLO)).isEmpty();
    assertThat(Habit.of(at, new double[] {1, Double.NaN}, OSLO)).isEmpty();
    assertThat(Habit.of(new long[0], new double[0], OSLO)).isEmpty();
    // twice in one night
    assertThat(Habit.of(times("2026-11-02T02:10", "2026-11-02T02:40"), all(2), OSLO)).isEmpty();
  }

  @Test
  void it_is_the_local_clock_that_counts_where_that_is_changed() {
    // the night of the 25th of October has an hour more
    long[] at = times("2026-10-24T02:10", "2026-10-26T02:10");
    assertThat(at[1] - at[0]).isEqualTo(49 * 3_600_000L);
    assertThat(Habit.of(at, all(2), OSLO)).contains(new Habit(8, 2, 2));
  }

  @Test
  void an_hour_that_reaches_over_midnight_counts_for_the_day_on_which_it_begins() {
    long[] at = times("2026-11-02T23:50", "2026-11-04T00:05");
    // 23:50 of the 2nd, and five past midnight after the 3rd: 23:15 to 00:15 on two days
    assertThat(Habit.of(at, all(2), OSLO)).contains(new Habit(95, 2, 2));
  }

  @Test
  void it_says_on_how_many_days_it_was_read_at_that_hour() {
    long[] at =
        times(
            "2026-11-02T02:10",
            "2026-11-03T02:20",
            "2026-11-04T02:20",
            "2026-11-05T02:20",
            "2026-11-05T15:20");
    double[] greatest = {3, 3, 0, Double.NaN, 0};
    assertThat(Habit.of(at, greatest, OSLO)).contains(new Habit(8, 2, 3));
  }

  @Test
  void the_latest_such_hour_is_that_of_today_or_of_yesterday() {
    Habit habit = new Habit(8, 2, 2);
    assertThat(habit.latest(at("2026-11-05T09:00"), OSLO)).isEqualTo(at("2026-11-05T02:00"));
    assertThat(habit.latest(at("2026-11-05T02:00"), OSLO)).isEqualTo(at("2026-11-05T02:00"));
    assertThat(habit.latest(at("2026-11-05T01:59"), OSLO)).isEqualTo(at("2026-11-04T02:00"));
    // by the clock, in the night with an hour more too
    assertThat(habit.latest(at("2026-10-25T12:00"), OSLO)).isEqualTo(at("2026-10-25T02:00"));
  }
}
