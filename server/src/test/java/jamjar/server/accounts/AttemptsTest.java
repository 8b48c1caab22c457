package jamjar.server.accounts;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.HandClock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class AttemptsTest {
  private static final String HERE = "192.0.2.1";
  private static final String ELSEWHERE = "192.0.2.2";
  private final HandClock clock = new HandClock(Instant.parse("2026-11-28T12:00:00Z"));
  private final Attempts attempts = new Attempts(clock);

  private void pass(long seconds) {
    clock.pass(Duration.ofSeconds(seconds));
  }

  private static Optional<Duration> seconds(long seconds) {
    return Optional.of(Duration.ofSeconds(seconds));
  }

  @Test
  void three_are_looked_at_at_once_and_each_after_them_waits_twice_as_long() {
    for (int i = 0; i < 3; i++) {
      assertThat(attempts.attempt("ragna", HERE)).isEmpty();
    }
    for (long wait : new long[] {1, 2, 4, 8, 16}) {
      assertThat(attempts.attempt(" Ragna ", HERE)).isEqualTo(seconds(wait));
      // to ask again meanwhile makes it no longer
      pass(wait - 1);
      assertThat(attempts.attempt("ragna", HERE)).isEqualTo(seconds(1));
      pass(1);
      assertThat(attempts.attempt("ragna", HERE)).isEmpty();
    }
  }

  @Test
  void nobody_waits_longer_than_five_minutes_and_after_an_hour_it_is_forgotten() {
    for (int i = 0; i < 40; i++) {
      attempts.attempt("ragna", HERE);
      pass(300);
    }
    assertThat(attempts.attempt("ragna", HERE)).isEmpty();
    assertThat(attempts.attempt("ragna", HERE)).isEqualTo(seconds(300));
    pass(3601);
    for (int i = 0; i < 3; i++) {
      assertThat(attempts.attempt("ragna", HERE)).isEmpty();
    }
  }

  @Test
  void a_stranger_elsewhere_keeps_nobody_out() {
    for (int i = 0; i < 100; i++) {
      attempts.attempt("ragna", ELSEWHERE);
    }
    assertThat(attempts.attempt("ragna", HERE)).isEmpty();
  }

  @Test
  void many_names_from_one_address_are_slowed_too() {
    for (int i = 0; i < 12; i++) {
      assertThat(attempts.attempt("name" + i, HERE)).isEmpty();
    }
    assertThat(attempts.attempt("another", HERE)).isEqualTo(seconds(1));
  }

  @Test
  void who_came_in_from_there_before_is_not_held_back_by_a_stranger_at_the_same_address() {
    attempts.attempt("ragna", HERE);
    attempts.succeeded("ragna", HERE);
    for (int i = 0; i < 30; i++) {
      attempts.attempt("name" + i, HERE);
    }
    assertThat(attempts.attempt("eskil", HERE)).isPresent();
    assertThat(attempts.attempt("ragna", HERE)).isEmpty();
  }

  @Test
  void of_ipv6_the_network_is_held_back_whatever_address_of_it_is_chosen() {
    for (int i = 0; i < 3; i++) {
      assertThat(attempts.attempt("ragna", "2001:db8:0:7::" + i)).isEmpty();
    }
    assertThat(attempts.attempt("ragna", "2001:db8:0:7:1:2:3:4")).isEqualTo(seconds(1));
    assertThat(attempts.attempt("ragna", "2001:db8:0:8::1")).isEmpty();
  }

  @Test
  void of_what_is_refused_only_so_much_of_an_hour_is_kept_for_good() {
    int kept = 0;
    for (int i = 0; i < 1_000; i++) {
      kept += attempts.isTold() ? 1 : 0;
    }
    assertThat(kept).isEqualTo(200);
    pass(3600);
    assertThat(attempts.isTold()).isTrue();
  }

  @Test
  void the_right_one_is_forgiven_what_came_before_and_others_not() {
    for (int i = 0; i < 3; i++) {
      attempts.attempt("ragna", HERE);
    }
    pass(1);
    assertThat(attempts.attempt("ragna", HERE)).isEmpty();
    attempts.succeeded("ragna", HERE);
    for (int i = 0; i < 3; i++) {
      assertThat(attempts.attempt("ragna", HERE)).isEmpty();
    }
    assertThat(attempts.attempt("ragna", HERE)).isPresent();
  }
}
