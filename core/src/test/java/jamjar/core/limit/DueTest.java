package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalDateTime;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;

class DueTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final Due TEN_PAST_TWO = new Due(130, OSLO);

  private static long at(String local) {
    return LocalDateTime.parse("2026-" + local).atZone(OSLO).toInstant().toEpochMilli();
  }

  private static double late(String happened, String now) {
    return TEN_PAST_TWO.late(at(happened), at(now));
  }

  @Test
  void what_came_in_the_night_is_not_late_until_the_next() {
    assertThat(late("11-10T02:05", "11-10T02:10")).isZero();
    assertThat(late("11-10T02:05", "11-11T02:10")).isZero();
    assertThat(late("11-10T02:05", "11-11T02:11")).isEqualTo(1);
    assertThat(late("11-10T02:05", "11-11T02:40")).isEqualTo(30);
  }

  @Test
  void what_comes_late_is_not_late_any_more_and_does_not_count_for_the_next_night() {
    assertThat(late("11-11T02:35", "11-11T02:40")).isZero();
    assertThat(late("11-11T05:00", "11-12T02:10")).isZero();
    assertThat(late("11-11T05:00", "11-12T02:40")).isEqualTo(30);
    // in the twelve hours before it is due it counts for that night
    assertThat(late("11-11T14:11", "11-12T02:40")).isZero();
    assertThat(late("11-11T14:09", "11-12T02:40")).isEqualTo(30);
  }

  @Test
  void it_stays_late_until_it_comes() {
    assertThat(late("11-10T02:05", "11-12T02:10")).isEqualTo(24 * 60);
  }

  @Test
  void a_day_of_other_length_is_local_too() {
    // on 29 March the clocks go from 02:00 to 03:00: ten past two is ten past three
    assertThat(late("03-28T02:05", "03-29T03:10")).isZero();
    assertThat(late("03-28T02:05", "03-29T03:20")).isEqualTo(10);
    // on 25 October they go back: the first ten past two is meant
    assertThat(TEN_PAST_TWO.late(at("10-24T02:05"), at("10-25T01:10") + 3_600_000L + 5 * 60_000L))
        .isEqualTo(5);
  }

  @Test
  void a_day_has_so_many_minutes() {
    assertThatThrownBy(() -> new Due(1440, OSLO)).hasMessageContaining("1440");
  }
}
