package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class PresenceTest {
  private final Presence presence = new Presence(List.of(1, 2));

  @Test
  void what_is_there_for_the_first_time_has_come() {
    assertThat(presence.take(Set.of(1, 2, 3)).come()).containsExactly(3);
    assertThat(presence.take(Set.of(1, 2, 3)).come()).isEmpty();
  }

  @Test
  void what_was_absent_ten_times_is_gone_once_and_new_when_it_comes_back() {
    for (int i = 0; i < 9; i++) {
      assertThat(presence.take(Set.of(1)).gone()).isEmpty();
    }
    assertThat(presence.take(Set.of(1)).gone()).containsExactly(2);
    for (int i = 0; i < 30; i++) {
      assertThat(presence.take(Set.of(1)).gone()).isEmpty();
    }
    assertThat(presence.take(Set.of(1, 2)).come()).containsExactly(2);
  }

  @Test
  void what_comes_back_in_time_is_not_gone() {
    for (int i = 0; i < 100; i++) {
      Set<Integer> there = i % 9 == 0 ? Set.of(1, 2) : Set.of(1);
      assertThat(presence.take(there)).isEqualTo(new Presence.Turn(List.of(), List.of()));
    }
  }

  @Test
  void labels_that_come_and_go_all_day_are_not_kept() {
    // each there for three readings, a new one with each reading
    for (int i = 0; i < 8_640; i++) {
      presence.take(Set.of(1, 2, 10 + i, 11 + i, 12 + i));
      assertThat(presence.known().size()).isLessThanOrEqualTo(2 + 3 + Presence.RETIRED_AFTER);
    }
  }
}
