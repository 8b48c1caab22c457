package jamjar.core.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class ActiveTimeTest {
  private static final long NIGHT = Instant.parse("2026-11-26T02:10:00Z").toEpochMilli();

  /** Sessions that run since so many seconds after the beginning. */
  private static Sample at(double seconds, double... since) {
    long now = NIGHT + (long) (seconds * 1000);
    List<Session> sessions = new ArrayList<>();
    for (double begun : since) {
      long from = NIGHT + (long) (begun * 1000);
      sessions.add(
          new Session(
              new Who(sessions.size(), NIGHT, Who.Kind.CLIENT, "u", "p", "d", ""),
              Session.State.ACTIVE,
              Session.Wait.NONE,
              1,
              "",
              new Session.Since(from, from, from, 0),
              0,
              0,
              List.of()));
    }
    return new Sample(Instant.ofEpochMilli(now), now, sessions, List.of(), List.of());
  }

  @Test
  void what_is_sampled_is_booked_or_still_running_or_not_covered() {
    ActiveTime time = new ActiveTime();
    // one ran from 0 to 50 and was booked then, one since 40 runs still, at 100 for 60 s
    time.add(at(0, 0));
    for (double t = 10; t < 100; t += 10) {
      time.add(t < 50 ? t < 40 ? at(t, 0) : at(t, 0, 40) : at(t, 40));
    }
    time.add(at(100, 40));
    ActiveTime.Told told = time.told(50.0 / 100);
    assertThat(told.sampled()).isEqualTo((50 + 60) / 100.0, within(1e-9));
    assertThat(told.running()).isEqualTo(0.6, within(1e-9));
    assertThat(told.notCovered()).isEqualTo(0, within(1e-9));
  }

  @Test
  void what_ran_before_the_window_and_was_booked_in_it_is_taken_off() {
    ActiveTime time = new ActiveTime();
    // since 100 s before the window, until 20 s into it: 120 s are booked
    time.add(at(0, -100));
    time.add(at(10, -100));
    time.add(at(20));
    time.add(at(40));
    ActiveTime.Told told = time.told(120.0 / 40);
    assertThat(told.sampled()).isEqualTo(0.5, within(1e-9));
    assertThat(told.running()).isEqualTo(-2.5, within(1e-9));
    assertThat(told.notCovered()).isEqualTo(0, within(1e-9));
  }

  @Test
  void samples_that_lie_closer_weigh_less() {
    ActiveTime time = new ActiveTime();
    time.add(at(0));
    time.add(at(60, 60));
    time.add(at(65, 60));
    time.add(at(70, 60));
    time.add(at(75));
    time.add(at(120));
    assertThat(time.told(0).sampled()).isEqualTo(15.0 / 120, within(1e-9));
    assertThat(new ActiveTime().told(1).sampled()).isNaN();
  }
}
