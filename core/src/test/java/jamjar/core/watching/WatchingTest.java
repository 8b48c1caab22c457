package jamjar.core.watching;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.watching.Watching.Moment;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** When Jam Jar watched. Times in seconds; the monotonic clock begins at 1,000. */
class WatchingTest {
  private static final long NOON = 43_200;
  private final Watching watching = new Watching(NOON * 1000, nanos(0), Optional.empty());

  @Test
  void a_clock_that_goes_on_evenly_stays_in_one_span() {
    for (int second = 1; second < 600; second++) {
      kept(second);
      assertThat(at(NOON + second, second).span().number()).isEqualTo(1);
    }
    assertThat(watching.untold()).isEmpty();
  }

  @Test
  void a_clock_set_forward_ends_the_span_where_it_was() {
    upTo(9);
    Moment moment = at(NOON + 3_610, 10);
    assertThat(moment.kept()).isTrue();
    assertThat(moment.span().from()).isEqualTo((NOON + 3_610) * 1000);
    // it really was one second
    assertThat(moment.span().gap()).isEqualTo(1_000);
    Gap gap = only();
    assertThat(gap.why()).isEqualTo(Gap.Why.CLOCK_SET);
    assertThat(gap.words()).contains("was set forward by 60 min, or it slept");
    assertThat(gap.overlaps()).isFalse();
  }

  @Test
  void a_clock_set_back_begins_a_span_that_overlaps_the_old_one() {
    upTo(9);
    assertThat(at(NOON - 3_590, 10).span().from()).isEqualTo((NOON - 3_590) * 1000);
    Gap gap = only();
    assertThat(gap.words()).contains("was set back by 60 min").doesNotContain("slept");
    assertThat(gap.overlaps()).isTrue();
    // it goes on evenly from there
    kept(11);
    assertThat(at(NOON - 3_589, 11).span().number()).isEqualTo(2);
    assertThat(watching.untold()).isEmpty();
  }

  @Test
  void a_step_of_less_than_five_seconds_is_none() {
    upTo(9);
    assertThat(at(NOON + 14, 10).span().number()).isEqualTo(1);
  }

  @Test
  void a_process_that_stood_still_ends_the_span_at_its_last_beat() {
    upTo(9);
    Moment moment = at(NOON + 49, 49);
    assertThat(moment.kept()).as("nothing says that it is not kept").isTrue();
    Gap gap = only();
    assertThat(gap.from()).isEqualTo((NOON + 9) * 1000);
    assertThat(gap.to()).isEqualTo((NOON + 49) * 1000);
    assertThat(gap.words()).contains("stopped, asleep or too busy for 40 s");
  }

  @Test
  void what_is_not_kept_for_five_seconds_ends_the_span_when_the_last_was_kept() {
    upTo(3);
    for (int second = 4; second <= 8; second++) {
      assertThat(at(NOON + second, second).kept()).as("second %d", second).isTrue();
    }
    assertThat(at(NOON + 9, 9).kept()).isFalse();
    assertThat(watching.untold()).as("it lasts").isEmpty();
    for (int second = 10; second < 43; second++) {
      at(NOON + second, second);
    }
    kept(43);
    Moment moment = at(NOON + 44, 44);
    assertThat(moment.kept()).isTrue();
    assertThat(moment.span().from()).isEqualTo((NOON + 43) * 1000);
    List<Gap> gaps = watching.untold();
    Gap last = gaps.get(gaps.size() - 1);
    assertThat(last.why()).isEqualTo(Gap.Why.NOT_KEPT);
    assertThat(last.from()).isEqualTo((NOON + 3) * 1000);
    assertThat(last.words()).contains("could not be written for 40 s");
  }

  @Test
  void a_refused_reading_ends_it_at_once_and_a_kept_one_begins_anew() {
    upTo(3);
    watching.refused();
    assertThat(at(NOON + 4, 4).kept()).isFalse();
    kept(5);
    assertThat(at(NOON + 5, 5).kept()).isTrue();
  }

  @Test
  void a_start_after_another_is_a_gap_and_a_first_start_is_none() {
    Watching again = new Watching(NOON * 1000, nanos(0), Optional.of((NOON - 90) * 1000));
    assertThat(again.at(NOON * 1000, nanos(0)).span().gap()).isEqualTo(90_000);
    assertThat(again.untold()).extracting(Gap::why).containsExactly(Gap.Why.NOT_RUNNING);
    assertThat(watching.untold()).isEmpty();
  }

  @Test
  void a_gap_that_could_not_be_kept_is_told_again_before_later_ones() {
    upTo(9);
    at(NOON + 49, 49);
    List<Gap> first = watching.untold();
    kept(50);
    at(NOON + 50, 50);
    at(NOON + 99, 99);
    watching.stillUntold(first);
    assertThat(watching.untold()).extracting(Gap::to).containsExactly(43_249_000L, 43_299_000L);
  }

  private Moment at(long wall, long second) {
    return watching.at(wall * 1000, nanos(second));
  }

  /** It goes on evenly, and what is read is kept. */
  private void upTo(long last) {
    for (long second = 1; second <= last; second++) {
      kept(second);
      at(NOON + second, second);
    }
  }

  private void kept(long second) {
    watching.kept((NOON + second) * 1000, nanos(second), nanos(second));
  }

  private Gap only() {
    List<Gap> gaps = watching.untold();
    assertThat(gaps).hasSize(1);
    return gaps.get(0);
  }

  private static long nanos(long second) {
    return (1_000 + second) * 1_000_000_000L;
  }
}
