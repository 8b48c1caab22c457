package jamjar.server.watch;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class TicksTest {
  private static final long SECOND = 1_000_000_000L;
  private static final long NOW = 1_234_567 * SECOND;

  @Test
  void readings_are_due_once_an_interval_whatever_they_take() {
    Ticks ticks = new Ticks(3, 10, NOW);
    long first = ticks.next(0, NOW);
    assertThat(first).isBetween(NOW, NOW + 10 * SECOND);
    assertThat(ticks.next(0, first + 4 * SECOND)).isEqualTo(first + 10 * SECOND);
    assertThat(ticks.skipped()).isZero();
  }

  @Test
  void those_that_came_while_one_was_under_way_are_left_out_and_counted() {
    Ticks ticks = new Ticks(3, 10, NOW);
    long first = ticks.next(0, NOW);
    assertThat(ticks.next(0, first + 25 * SECOND)).isEqualTo(first + 30 * SECOND);
    assertThat(ticks.skipped()).isEqualTo(2);
  }

  @Test
  void one_that_does_not_answer_is_tried_less_and_less_often_but_never_given_up() {
    Ticks ticks = new Ticks(3, 10, NOW);
    long due = ticks.next(0, NOW);
    long[] waits = new long[5];
    for (int failures = 1; failures <= 5; failures++) {
      long next = ticks.next(failures, due);
      waits[failures - 1] = (next - due) / SECOND;
      due = next;
    }
    assertThat(waits).containsExactly(10, 10, 20, 40, 40);
    assertThat(ticks.next(0, due)).isEqualTo(due + 10 * SECOND);
  }

  @Test
  void many_instances_are_spread_evenly_over_the_interval() {
    long[] perSecond = new long[10];
    IntStream.rangeClosed(1, 200)
        .mapToLong(instance -> new Ticks(instance, 10, NOW).next(0, NOW) - NOW)
        .forEach(after -> perSecond[(int) Math.min(9, after / SECOND)]++);
    assertThat(java.util.Arrays.stream(perSecond)).allMatch(count -> count >= 18 && count <= 22);
  }
}
