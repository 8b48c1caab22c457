package jamjar.core.statement;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import org.junit.jupiter.api.Test;

class ChangeTest {
  private static final long MINUTE = 60_000;

  private static StatementCounts ran(long calls, long timeUs) {
    return new StatementCounts(calls, timeUs, 0, 0, 0, 0);
  }

  @Test
  void called_twice_as_often_is_more_often_and_nothing_else() {
    // 10 calls/s of 4 ms were 40 ms/s, 20 calls/s of 4 ms are 80 ms/s
    Change change = Change.of(ran(600, 2_400_000), MINUTE, ran(1_200, 4_800_000), MINUTE);
    assertThat(change.kind()).isEqualTo(Change.Kind.BOTH);
    assertThat(change.total()).isEqualTo(0.04, within(1e-12));
    assertThat(change.moreOften()).isEqualTo(0.04, within(1e-12));
    assertThat(change.slower()).isEqualTo(0, within(1e-12));
  }

  @Test
  void an_index_that_is_gone_is_slower_and_nothing_else() {
    // 3 calls/s of 4 ms, then of 180 ms: 12 ms/s and 540 ms/s; over windows of other lengths
    Change change = Change.of(ran(1_800, 7_200_000), 10 * MINUTE, ran(180, 32_400_000), MINUTE);
    assertThat(change.total()).isEqualTo(0.528, within(1e-12));
    assertThat(change.slower()).isEqualTo(0.528, within(1e-12));
    assertThat(change.moreOften()).isEqualTo(0, within(1e-12));
  }

  @Test
  void both_at_once_are_told_apart() {
    // Δc × (m₁+m₂)/2 = (5−2) × (0.1+0.3)/2 = 0.6; Δm × (c₁+c₂)/2 = 0.2 × 3.5 = 0.7; 1.5 − 0.2 = 1.3
    Change change = Change.of(ran(120, 12_000_000), MINUTE, ran(300, 90_000_000), MINUTE);
    assertThat(change.moreOften()).isEqualTo(0.6, within(1e-12));
    assertThat(change.slower()).isEqualTo(0.7, within(1e-12));
    assertThat(change.total()).isEqualTo(1.3, within(1e-12));
  }

  @Test
  void what_ran_in_one_window_only_is_new_or_vanished() {
    Change isNew = Change.of(StatementCounts.NONE, MINUTE, ran(60, 6_000_000), MINUTE);
    assertThat(isNew).isEqualTo(new Change(Change.Kind.NEW, 0.1, 0, 0));
    Change vanished = Change.of(ran(60, 6_000_000), MINUTE, StatementCounts.NONE, MINUTE);
    assertThat(vanished).isEqualTo(new Change(Change.Kind.VANISHED, -0.1, 0, 0));
    assertThat(Change.of(StatementCounts.NONE, 0, StatementCounts.NONE, 0).kind())
        .isEqualTo(Change.Kind.NEITHER);
  }

  @Property
  void the_parts_are_those_of_the_formula_and_add_up_exactly(
      @ForAll @LongRange(min = 1, max = 1_000_000) long calls1,
      @ForAll @LongRange(min = 0, max = 1_000_000_000) long time1,
      @ForAll @LongRange(min = 1, max = 1_000_000) long calls2,
      @ForAll @LongRange(min = 0, max = 1_000_000_000) long time2,
      @ForAll @LongRange(min = 1, max = 100_000_000) long ms) {
    Change change = Change.of(ran(calls1, time1), MINUTE, ran(calls2, time2), ms);
    double c1 = calls1 / 60.0;
    double c2 = calls2 * 1000.0 / ms;
    double m1 = time1 / 1e6 / calls1;
    double m2 = time2 / 1e6 / calls2;
    double scale = 1e-9 * (1 + c1 * m1 + c2 * m2 + c1 * m2 + c2 * m1);
    assertThat(change.moreOften()).isEqualTo((c2 - c1) * (m1 + m2) / 2, within(scale));
    assertThat(change.slower()).isEqualTo((m2 - m1) * (c1 + c2) / 2, within(scale));
    assertThat(change.moreOften() + change.slower())
        .isEqualTo(
            change.total(), within(2 * Math.ulp(c1 * m1 + c2 * m2 + Math.abs(change.moreOften()))));
  }
}
