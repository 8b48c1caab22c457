package jamjar.core.telling;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.limit.Condition;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

class PlanTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

  private static long at(String instant) {
    return Instant.parse(instant).toEpochMilli();
  }

  @Test
  void a_night_belongs_to_the_day_on_which_it_begins() {
    Hours nights = new Hours(Set.of(DayOfWeek.FRIDAY), 22 * 60, 6 * 60, Hours.Holidays.AS_ANY);
    // the 6th of March 2026 is a Friday; Oslo is an hour ahead
    assertThat(nights.hold(at("2026-03-06T21:30:00Z"), OSLO, Set.of())).isTrue();
    assertThat(nights.hold(at("2026-03-07T04:59:00Z"), OSLO, Set.of())).isTrue();
    assertThat(nights.hold(at("2026-03-07T05:00:00Z"), OSLO, Set.of())).isFalse();
    assertThat(nights.hold(at("2026-03-06T04:00:00Z"), OSLO, Set.of())).isFalse();
  }

  @Test
  void holidays_are_left_out_or_are_alone() {
    Set<LocalDate> holidays = Set.of(LocalDate.of(2026, 5, 17));
    long noon = at("2026-05-17T10:00:00Z");
    long before = at("2026-05-16T10:00:00Z");
    Hours without = new Hours(Set.of(), 0, 0, Hours.Holidays.LEFT_OUT);
    Hours alone = new Hours(Set.of(), 0, 0, Hours.Holidays.ALONE);
    assertThat(without.hold(noon, OSLO, holidays)).isFalse();
    assertThat(without.hold(before, OSLO, holidays)).isTrue();
    assertThat(alone.hold(noon, OSLO, holidays)).isTrue();
    assertThat(alone.hold(before, OSLO, holidays)).isFalse();
  }

  @Test
  void a_duty_goes_round_and_changes_hands_at_its_hour_also_across_daylight_saving() {
    Duty duty =
        new Duty(
            "on call",
            List.of("anna", "bo", "cecilie"),
            LocalDate.of(2026, 3, 23),
            7,
            8 * 60,
            List.of());
    assertThat(duty.on(at("2026-03-23T06:59:00Z"), OSLO)).contains("cecilie");
    assertThat(duty.on(at("2026-03-23T07:00:00Z"), OSLO)).contains("anna");
    // summer time since the 29th: eight is six in UTC
    assertThat(duty.on(at("2026-03-30T05:59:00Z"), OSLO)).contains("anna");
    assertThat(duty.on(at("2026-03-30T06:00:00Z"), OSLO)).contains("bo");
    assertThat(duty.on(at("2026-04-13T06:00:00Z"), OSLO)).contains("anna");
  }

  @Test
  void a_swap_comes_before_the_turn() {
    Duty duty =
        new Duty(
            "on call",
            List.of("anna"),
            LocalDate.of(2026, 3, 23),
            1,
            0,
            List.of(new Duty.Swap(at("2026-03-24T17:00:00Z"), at("2026-03-25T06:00:00Z"), "bo")));
    assertThat(duty.on(at("2026-03-24T16:59:00Z"), OSLO)).contains("anna");
    assertThat(duty.on(at("2026-03-24T23:00:00Z"), OSLO)).contains("bo");
    assertThat(duty.on(at("2026-03-25T06:00:00Z"), OSLO)).contains("anna");
  }

  @Test
  void the_report_goes_out_at_its_hour_of_the_wall() {
    Plan plan = Plan.nobody(OSLO);
    assertThat(plan.reportAfter(at("2026-03-28T12:00:00Z"))).isEqualTo(at("2026-03-29T05:00:00Z"));
    assertThat(plan.reportAfter(at("2026-03-29T05:00:00Z"))).isEqualTo(at("2026-03-30T05:00:00Z"));
  }

  @Test
  void the_key_of_an_alert_is_read_back() {
    AlertKey key = new AlertKey(3, 410, Condition.OUTSIDE, 1_770_000_000_123L);
    assertThat(AlertKey.of(key.words())).contains(key);
    assertThat(AlertKey.of("3-410-nonsense-5")).isEqualTo(Optional.empty());
    assertThat(AlertKey.of("")).isEqualTo(Optional.empty());
  }
}
