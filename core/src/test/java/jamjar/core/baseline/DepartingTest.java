package jamjar.core.baseline;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Departing.Departure;
import org.junit.jupiter.api.Test;

/** A series of which 10 is normal, 8.355 to 11.645, and 1 matters: a spread is 1. */
class DepartingTest {
  private static final long MINUTE = 60_000;
  private static final long BEGIN = 1_000 * MINUTE;
  private static final Normal NORMAL =
      new Normal(10 - 1.645, 9.4, 10, 10.6, 10 + 1.645, 100, Basis.SLOT);

  private final Departing series = new Departing(1, 0, 10_000);

  private void minute(int number, double... values) {
    for (int i = 0; i < values.length; i++) {
      series.read(BEGIN + number * MINUTE + i * 10_000L, values[i], at -> NORMAL);
    }
  }

  @Test
  void what_was_just_started_has_not_settled_be_its_clock_ahead_or_not() {
    assertThat(Departing.settled(BEGIN, BEGIN + 5 * MINUTE - 1)).isFalse();
    assertThat(Departing.settled(BEGIN, BEGIN + 5 * MINUTE)).isTrue();
    assertThat(Departing.settled(BEGIN + 2_000, BEGIN)).isFalse();
    // what was before it ran
    assertThat(Departing.settled(BEGIN, BEGIN - 60 * MINUTE)).isTrue();
    assertThat(Departing.settled(0, BEGIN)).isTrue();
  }

  @Test
  void it_is_outside_when_three_minutes_were() {
    minute(0, 10, 10);
    minute(1, 16, 18);
    minute(2, 17);
    minute(3, 15);
    assertThat(series.departure()).isEmpty();
    minute(4, 10);
    assertThat(series.departure()).contains(new Departure(5, BEGIN + MINUTE));
    minute(5, 10);
    assertThat(series.departure()).isEmpty();
  }

  @Test
  void the_mean_of_a_minute_counts_not_a_reading() {
    for (int i = 0; i < 10; i++) {
      minute(i, 10, 10, 10, 10, 10, 30);
    }
    // 13.33: 3.33 spreads
    assertThat(series.departure()).isEmpty();
  }

  @Test
  void below_is_another_side_than_above() {
    minute(0, 4);
    minute(1, 4);
    minute(2, 20);
    minute(3, 4);
    minute(4, 4);
    minute(5, 4);
    assertThat(series.departure()).isEmpty();
    minute(6, 4);
    assertThat(series.departure()).contains(new Departure(-6, BEGIN + 3 * MINUTE));
  }

  @Test
  void a_minute_without_a_value_is_waited_for_and_a_long_silence_is_not() {
    minute(0, 20);
    minute(1, 20);
    minute(2, Double.NaN);
    minute(3, 20);
    minute(4, 10);
    assertThat(series.departure()).isPresent();
    minute(5, 20);
    minute(6, 20);
    minute(60, 20);
    minute(61, 20);
    assertThat(series.departure()).isEmpty();
  }

  @Test
  void a_slow_series_has_silences_by_its_own_interval() {
    Departing slow = new Departing(1, 0, 300_000);
    for (int i = 0; i < 5; i++) {
      slow.read(BEGIN + i * 5 * MINUTE, 20, at -> NORMAL);
    }
    assertThat(slow.departure()).contains(new Departure(10, BEGIN));
  }

  @Test
  void without_a_normal_nothing_is_outside_of_it() {
    for (int i = 0; i < 10; i++) {
      series.read(BEGIN + i * MINUTE, 1e9, at -> Normal.NONE);
    }
    assertThat(series.departure()).isEmpty();
  }
}
