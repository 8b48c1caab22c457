package jamjar.core.baseline;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

class BaselineHistoryTest {
  private static final int TUESDAY = 96;

  private static Normal[] day(double middle) {
    Normal[] slots = new Normal[Timeline.QUARTERS];
    Arrays.fill(slots, normal(middle, 1));
    return slots;
  }

  private static Normal normal(double middle, double spread) {
    return new Normal(
        middle - 1.645 * spread,
        middle - 1,
        middle,
        middle + 1,
        middle + 1.645 * spread,
        75,
        Basis.SLOT);
  }

  /** Learned at 1,000; Tuesdays anew at 2,000 and 3,000. */
  private static BaselineHistory history() {
    Normal[] now = new Normal[Timeline.SLOTS];
    Arrays.fill(now, normal(10, 1));
    Arrays.fill(now, TUESDAY, TUESDAY + Timeline.QUARTERS, normal(30, 1));
    long[] since = {1_000, 3_000, 1_000, 1_000, 1_000, 1_000, 1_000};
    return new BaselineHistory(
        Baseline.of(now),
        since,
        List.of(
            new BaselineHistory.Before(1, 2_000, 3_000, day(20)),
            new BaselineHistory.Before(1, 1_000, 2_000, day(10))));
  }

  @Test
  void of_each_moment_that_counts_which_was_in_force() {
    BaselineHistory history = history();
    assertThat(history.at(1_999, TUESDAY + 5).p50()).isEqualTo(10);
    assertThat(history.at(2_000, TUESDAY + 5).p50()).isEqualTo(20);
    assertThat(history.at(2_999, TUESDAY + 95).p50()).isEqualTo(20);
    assertThat(history.at(3_000, TUESDAY).p50()).isEqualTo(30);
    // other days are as they were
    assertThat(history.at(2_500, TUESDAY - 1).p50()).isEqualTo(10);
    assertThat(history.at(2_500, TUESDAY + 96).p50()).isEqualTo(10);
    assertThat(history.now().at(TUESDAY).p50()).isEqualTo(30);
    assertThat(history.days()).isEqualTo(9);
  }

  @Test
  void before_anything_was_in_force_the_oldest_serves_and_it_is_told_since_when_it_is() {
    BaselineHistory history = history();
    assertThat(history.at(500, TUESDAY).p50()).isEqualTo(10);
    assertThat(history.since(500, TUESDAY)).isEqualTo(1_000);
    assertThat(history.since(2_500, TUESDAY)).isEqualTo(2_000);
    assertThat(history.since(9_000, TUESDAY)).isEqualTo(3_000);
    assertThat(history.since(9_000, 0)).isEqualTo(1_000);
  }

  @Test
  void another_is_another_by_more_than_half_a_spread_of_its_middle_or_its_edges() {
    Normal was = normal(10, 1);
    assertThat(was.left(was, 0, 0)).isFalse();
    assertThat(was.left(normal(10.49, 1), 0, 0)).isFalse();
    assertThat(was.left(normal(10.51, 1), 0, 0)).isTrue();
    assertThat(was.left(normal(9.49, 1), 0, 0)).isTrue();
    // the edges go apart: 1.645 × 1.31 is 0.51 farther out
    assertThat(was.left(normal(10, 1.3), 0, 0)).isFalse();
    assertThat(was.left(normal(10, 1.31), 0, 0)).isTrue();
    // what does not matter is none
    assertThat(was.left(normal(10.9, 1), 2, 0)).isFalse();
    // nor is a lean of what is told from
    Normal learned = new Normal(was.p05(), 9, 10, 11, was.p95(), 75, Basis.DAYS);
    assertThat(was.left(learned, 2, 0)).isTrue();
    assertThat(Normal.NONE.left(was, 1, 0)).isTrue();
    assertThat(Normal.NONE.left(Normal.NONE, 1, 0)).isFalse();
  }
}
