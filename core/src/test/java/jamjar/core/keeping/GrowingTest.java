package jamjar.core.keeping;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class GrowingTest {
  private static final double EVER = Double.POSITIVE_INFINITY;

  @Test
  void what_grows_for_ever_fills_any_room() {
    assertThat(Growing.days(List.of(new Growing(5, EVER)), 100)).hasValue(20);
    assertThat(Growing.days(List.of(new Growing(5, EVER), new Growing(15, EVER)), 100)).hasValue(5);
    assertThat(Growing.days(List.of(new Growing(5, EVER)), 0)).hasValue(0);
  }

  @Test
  void what_is_dropped_again_fills_only_so_much() {
    // 10 a day for 8 days are 80; then 1 a day: 20 more take 20 days
    List<Growing> all = List.of(new Growing(9, 8), new Growing(1, EVER));
    assertThat(Growing.days(all, 100)).hasValue(28);
    assertThat(Growing.days(all, 70)).hasValue(7);
    assertThat(Growing.days(List.of(new Growing(9, 8)), 100)).isEmpty();
    assertThat(Growing.days(List.of(new Growing(9, 8)), 72)).hasValue(8);
    assertThat(Growing.days(List.of(new Growing(0, EVER)), 1)).isEmpty();
    assertThat(Growing.days(List.of(), 1)).isEmpty();
  }

  @Test
  void by_then_it_has_grown_by_just_that() {
    SplittableRandom random = new SplittableRandom(3);
    for (int i = 0; i < 1_000; i++) {
      List<Growing> all = new ArrayList<>();
      for (int k = random.nextInt(1, 6); k > 0; k--) {
        double lasts = random.nextInt(4) == 0 ? EVER : random.nextInt(0, 50);
        all.add(new Growing(random.nextInt(0, 9), lasts));
      }
      double room = random.nextInt(1, 500);
      double most = all.stream().mapToDouble(one -> one.after(1e9)).sum();
      if (Growing.days(all, room).isPresent()) {
        double days = Growing.days(all, room).getAsDouble();
        assertThat(all.stream().mapToDouble(one -> one.after(days)).sum())
            .isCloseTo(room, within(1e-6));
      } else {
        assertThat(most).isLessThan(room);
      }
    }
  }
}
