package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.Worse;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

class JudgeProperties {
  private static final long STEP = 10_000;
  private static final Limit LIMIT =
      new Limit(
          Condition.ABOVE,
          Worse.UP,
          new Threshold(10, 8, 2, 3),
          new Threshold(25, 20, 2, 2),
          30_000,
          STEP);

  /** Values around the numbers; negative ones stand for missing (−1) and too few (−2). */
  @Provide
  Arbitrary<List<Integer>> values() {
    return Arbitraries.of(-1, -1, -2, 0, 5, 8, 9, 10, 15, 20, 22, 25, 40)
        .list()
        .ofMinSize(1)
        .ofMaxSize(120);
  }

  @Property(seed = "11")
  void transitions_join_up_and_there_is_never_a_second_open_alert(
      @ForAll("values") List<Integer> values) {
    List<Transition> told = new ArrayList<>();
    run(values, told);
    AlertState at = AlertState.CALM;
    for (Transition transition : told) {
      assertThat(transition.from()).isEqualTo(at);
      assertThat(transition.to()).isNotEqualTo(at);
      at = transition.to();
    }
  }

  @Property(seed = "12")
  void what_is_not_measured_never_becomes_calm_without_being_measured(
      @ForAll("values") List<Integer> values) {
    LimitState state = LimitState.calm(0);
    List<Transition> told = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      AlertState before = state.state();
      told.clear();
      state = Judge.judge(LIMIT, state, judging(i, values.get(i)), told::add);
      if (values.get(i) < 0 && before.open()) {
        assertThat(state.open()).isTrue();
      }
      assertThat(told)
          .noneMatch(t -> t.from() == AlertState.NOT_MEASURED && t.to() == AlertState.CALM);
    }
  }

  @Property(seed = "13")
  void it_goes_on_from_a_stored_state_as_if_it_had_never_stopped(
      @ForAll("values") List<Integer> values) {
    List<Transition> whole = new ArrayList<>();
    LimitState end = run(values, whole);
    int half = values.size() / 2;
    List<Transition> parts = new ArrayList<>();
    LimitState state = LimitState.calm(0);
    for (int i = 0; i < half; i++) {
      state = Judge.judge(LIMIT, state, judging(i, values.get(i)), parts::add);
    }
    // again what was judged already: nothing happens
    for (int i = 0; i < values.size(); i++) {
      state = Judge.judge(LIMIT, state, judging(i, values.get(i)), parts::add);
    }
    assertThat(parts).isEqualTo(whole);
    assertThat(state).isEqualTo(end);
  }

  @Property(seed = "14")
  void order_of_arrival_decides_what_comes_late_changes_nothing(
      @ForAll("values") List<Integer> values) {
    List<Transition> inTime = new ArrayList<>();
    LimitState expected = LimitState.calm(0);
    List<Transition> told = new ArrayList<>();
    LimitState state = LimitState.calm(0);
    for (int i = 0; i < values.size(); i++) {
      expected = Judge.judge(LIMIT, expected, judging(i, values.get(i)), inTime::add);
      state = Judge.judge(LIMIT, state, judging(i, values.get(i)), told::add);
      state = Judge.judge(LIMIT, state, judging(i / 2, 99), told::add);
    }
    assertThat(told).isEqualTo(inTime);
    assertThat(state).isEqualTo(expected);
  }

  private static LimitState run(List<Integer> values, List<Transition> told) {
    LimitState state = LimitState.calm(0);
    for (int i = 0; i < values.size(); i++) {
      state = Judge.judge(LIMIT, state, judging(i, values.get(i)), told::add);
    }
    return state;
  }

  private static Judging judging(int i, int value) {
    long edge = (i + 1) * STEP;
    return switch (value) {
      case -1 -> Judging.missing(edge, edge + 5_000);
      case -2 -> Judging.tooFew(edge, edge, edge);
      default -> Judging.value(edge, value);
    };
  }
}
