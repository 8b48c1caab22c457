package jamjar.core.session;

import static jamjar.core.session.Made.AT;
import static jamjar.core.session.Made.busy;
import static jamjar.core.session.Made.rests;
import static jamjar.core.session.Made.sample;
import static jamjar.core.session.Made.waits;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class BusyTest {
  private static Busy.Split split(
      List<Sample> samples, Busy.By by, long stepMs, int steps, int most) {
    Busy busy = new Busy(by, AT, stepMs, steps);
    samples.forEach(busy::add);
    return busy.split(most);
  }

  @Test
  void is_the_mean_of_the_samples_of_a_step() {
    List<Sample> samples =
        List.of(
            sample(AT, List.of(busy(1, "web", 1, 5), busy(2, "web", 1, 5), rests(3, 9))),
            sample(AT + 5_000, List.of(busy(1, "report", 2, 5))),
            sample(AT + 10_000, List.of()),
            sample(AT + 40_000, List.of(waits(1, 9, 3))));
    Busy.Split split = split(samples, Busy.By.USER, 10_000, 5, 8);
    assertThat(split.all()).containsExactly(1.5, 0, Double.NaN, Double.NaN, 1);
    assertThat(split.parts()).extracting(Busy.Part::name).containsExactly("web", "report");
    assertThat(split.parts().get(0).mean()).containsExactly(1, 0, Double.NaN, Double.NaN, 1);
    assertThat(split.parts().get(1).mean()).containsExactly(0.5, 0, Double.NaN, Double.NaN, 0);
    Busy.Split waits = split(samples, Busy.By.WAIT, 60_000, 1, 8);
    assertThat(waits.parts())
        .extracting(Busy.Part::name)
        .containsExactly("no wait reported", "Lock");
  }

  @Test
  void tells_of_steps_without_a_sample_only_where_samples_are_missing() {
    List<Sample> samples = new ArrayList<>();
    for (int minute : new int[] {0, 1, 2, 3, 9, 10}) {
      samples.add(sample(AT + minute * 60_000L, List.of(busy(1, "web", 1, 5))));
    }
    Busy.Split split = split(samples, Busy.By.USER, 30_000, 24, 8);
    // the last three may be still to come
    assertThat(split.at()).hasSize(6 + 11);
    assertThat(split.at()).startsWith(AT, AT + 60_000, AT + 120_000, AT + 180_000, AT + 210_000);
    assertThat(split.all()).startsWith(1, 1, 1, 1, Double.NaN, Double.NaN);
  }

  @Test
  void has_no_gap_where_samples_begin_to_lie_closer() {
    List<Sample> samples = new ArrayList<>();
    for (int second : new int[] {0, 60, 120, 125, 130, 135, 140, 200, 260}) {
      samples.add(sample(AT + second * 1000L, List.of(busy(1, "web", 1, 5))));
    }
    assertThat(split(samples, Busy.By.USER, 5_000, 53, 8).all())
        .hasSize(9)
        .doesNotContain(Double.NaN);
  }

  @Property(tries = 200)
  void has_parts_that_add_up(
      @ForAll @Size(min = 1, max = 40) List<@IntRange(max = 6) Integer> users,
      @ForAll @IntRange(min = 1, max = 5) int most) {
    List<Sample> samples = new ArrayList<>();
    for (int i = 0; i < users.size(); i++) {
      List<Session> sessions = new ArrayList<>();
      for (int pid = 0; pid <= users.get(i); pid++) {
        sessions.add(busy(pid, "user " + pid, 1, 5));
      }
      samples.add(sample(AT + i * 1000L, sessions));
    }
    Busy.Split split = split(samples, Busy.By.USER, 5_000, 8, most);
    assertThat(split.parts()).hasSizeLessThanOrEqualTo(most + 1);
    for (int step = 0; step < split.at().length; step++) {
      int at = step;
      double sum = split.parts().stream().mapToDouble(part -> part.mean()[at]).sum();
      if (Double.isNaN(split.all()[step])) {
        assertThat(sum).isNaN();
      } else {
        assertThat(sum).isCloseTo(split.all()[step], within(1e-9));
      }
    }
  }
}
