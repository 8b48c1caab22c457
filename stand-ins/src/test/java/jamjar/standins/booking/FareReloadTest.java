package jamjar.standins.booking;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import org.junit.jupiter.api.Test;

class FareReloadTest {
  private static Instant next(String after) {
    return FareReload.next(Instant.parse(after));
  }

  @Test
  void it_runs_at_ten_past_two_in_the_zone_of_the_company() {
    assertThat(next("2026-11-26T12:00:00Z")).isEqualTo("2026-11-27T01:10:00Z");
    assertThat(next("2026-11-27T01:09:59Z")).isEqualTo("2026-11-27T01:10:00Z");
    assertThat(next("2026-11-27T01:10:00Z")).isEqualTo("2026-11-28T01:10:00Z");
    assertThat(next("2026-07-01T12:00:00Z")).as("summer").isEqualTo("2026-07-02T00:10:00Z");
  }

  @Test
  void in_the_night_that_has_no_ten_past_two_it_runs_an_hour_later() {
    assertThat(next("2027-03-27T12:00:00Z")).isEqualTo("2027-03-28T01:10:00Z");
  }
}
