package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Judging.Outcome;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * The state machine by worked sequences: judgings every 10 s, warning at 10 (clear 8), critical at
 * 25 (clear 20), both 3 of 3, calm after 30 s beyond clear. A dash is a missing judging, a tilde
 * too few. Expected is each change of state with the place of the judging that made it.
 */
class JudgeTest {
  private static final long STEP = 10_000;
  private static final Threshold WARNING = new Threshold(10, 8, 3, 3);
  private static final Threshold CRITICAL = new Threshold(25, 20, 3, 3);

  private final List<Transition> told = new ArrayList<>();
  private LimitState state = LimitState.calm(0);
  private long edge;

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '"',
      textBlock =
          """
          stays calm below the number            | 1 9.9 0 9                      | ""
          one pass builds                        | 10                             | 1 building
          builds and falls back                  | 11 3 3 3                       | 1 building, 4 calm
          three of three is a warning            | 11 12 13                       | 1 building, 3 warning
          a gap between does not reset the hold  | 11 - 12 - 13                   | 1 building, 5 warning
          too few between does not either        | 11 ~ 12 ~ 13                   | 1 building, 5 warning
          one good judging does                  | 11 12 9 13 14 15               | 1 building, 6 warning
          straight to critical                   | 30 30 30                       | 1 building, 3 critical
          warning first, critical by its own hold| 11 30 12 30 30 30              | 1 building, 3 warning, 6 critical
          a warning stays between its numbers    | 11 12 13 9 9 9 9 9 9           | 1 building, 3 warning
          settles beyond clear, calm after 30 s  | 11 12 13 8 8 8 8               | 1 building, 3 warning, 4 settling, 7 calm
          between the numbers time starts again  | 11 12 13 8 8 9 8 8 8 8         | 1 building, 3 warning, 4 settling, 10 calm
          a missing one pauses it                | 11 12 13 8 8 - 8 8             | 1 building, 3 warning, 4 settling, 8 calm
          passing again is the same alert        | 11 12 13 8 11 8 8 8 8          | 1 building, 3 warning, 4 settling, 5 warning, 6 settling, 9 calm
          critical falls only past its clear     | 30 30 30 21 20.1 20 15         | 1 building, 3 critical, 6 warning
          critical again needs its hold again    | 30 30 30 20 30 30 30           | 1 building, 3 critical, 4 warning, 7 critical
          critical settles from its severity     | 30 30 30 5 5 5 5               | 1 building, 3 critical, 4 settling, 7 calm
          settling critical returns to critical  | 30 30 30 5 26                  | 1 building, 3 critical, 4 settling, 5 critical
          settling critical returns to warning   | 30 30 30 5 12                  | 1 building, 3 critical, 4 settling, 5 warning
          one missing is nothing yet             | 11 12 13 - 14                  | 1 building, 3 warning
          two missing: not measured, and back    | 11 12 13 - - - 14              | 1 building, 3 warning, 5 not measured, 7 warning
          not measured never becomes calm        | 11 12 13 8 - - - - - - - -     | 1 building, 3 warning, 4 settling, 6 not measured
          measured again it goes on settling     | 11 12 13 8 8 - - 8 8           | 1 building, 3 warning, 4 settling, 7 not measured, 8 settling, 9 calm
          too few is not silence                 | 11 12 13 ~ ~ ~ ~               | 1 building, 3 warning
          building stays through silence         | 11 12 - - - 13                 | 1 building, 6 warning
          """)
  void every_transition(String name, String values, String expected) {
    run(limit(WARNING, CRITICAL, 30_000), values);
    assertThat(transitions()).isEqualTo(expected);
  }

  @Test
  void two_of_five_holds_over_the_last_five_that_had_a_value() {
    Limit limit = limit(new Threshold(10, 8, 2, 5), Threshold.NONE, 30_000);
    run(limit, "11 1 1 - 1 12");
    assertThat(transitions()).isEqualTo("1 building, 6 warning");
    told.clear();
    state = LimitState.calm(0);
    edge = 0;
    run(limit, "11 1 1 1 1 12 1 1 1 1");
    assertThat(transitions()).isEqualTo("1 building");
  }

  @Test
  void one_of_one_rises_at_once_and_a_clear_time_of_nothing_ends_at_once() {
    run(limit(new Threshold(10, 8, 1, 1), Threshold.NONE, 0), "11 5");
    assertThat(transitions()).isEqualTo("1 warning, 2 settling, 2 calm");
  }

  @Test
  void below_is_the_mirror_of_above() {
    Limit limit =
        new Limit(
            Condition.BELOW,
            Worse.DOWN,
            new Threshold(95, 96, 2, 2),
            new Threshold(90, 91, 2, 2),
            10_000,
            STEP);
    run(limit, "99 95 94 95.5 89 88 91 96 97");
    assertThat(transitions())
        .isEqualTo("2 building, 3 warning, 6 critical, 7 warning, 8 settling, 9 calm");
    assertThat(told.get(1).number()).isEqualTo(95);
    assertThat(told.get(5).number()).isEqualTo(96);
  }

  @Test
  void outside_normal_counts_in_its_worse_direction_only() {
    Limit up =
        new Limit(Condition.OUTSIDE, Worse.UP, new Threshold(4, 3, 1, 1), Threshold.NONE, 0, STEP);
    distances(up, -9, 3.9, 4, 3);
    assertThat(transitions()).isEqualTo("3 warning, 4 settling, 4 calm");
    Limit both =
        new Limit(
            Condition.OUTSIDE, Worse.BOTH, new Threshold(4, 3, 1, 1), Threshold.NONE, 0, STEP);
    told.clear();
    state = LimitState.calm(0);
    edge = 0;
    distances(both, -9);
    assertThat(transitions()).isEqualTo("1 warning");
  }

  @Test
  void since_is_the_first_judging_that_passed_and_the_worst_is_kept() {
    run(limit(WARNING, CRITICAL, 30_000), "1 11 12 13 19 14");
    assertThat(state.since()).isEqualTo(2 * STEP);
    assertThat(state.worst()).isEqualTo(19);
    run(limit(WARNING, CRITICAL, 30_000), "2 2 2 2 2 2");
    assertThat(state.state()).isEqualTo(AlertState.CALM);
    assertThat(state.since()).isZero();
  }

  @Test
  void what_is_not_newer_than_the_last_judged_is_not_judged() {
    Limit limit = limit(new Threshold(10, 8, 1, 1), Threshold.NONE, 0);
    run(limit, "1 1 1");
    LimitState before = state;
    state = Judge.judge(limit, state, Judging.value(2 * STEP, 99), told::add);
    assertThat(state).isSameAs(before);
    // a clock set back: nothing is judged until it has caught up
    state = Judge.judge(limit, state, Judging.value(3 * STEP, 99), told::add);
    assertThat(told).isEmpty();
    state = Judge.judge(limit, state, Judging.value(4 * STEP, 99), told::add);
    assertThat(told).hasSize(1);
  }

  @Test
  void a_calm_one_stays_idle_through_silence() {
    run(limit(WARNING, CRITICAL, 30_000), "1 - - - ~ 1");
    assertThat(state.idle()).isTrue();
    run(limit(WARNING, CRITICAL, 30_000), "- - -");
    assertThat(state.idle()).isTrue();
  }

  @Test
  void editing_judges_anew_and_keeps_the_alert() {
    run(limit(WARNING, CRITICAL, 30_000), "11 12 13");
    state = Judge.edited(state, told::add);
    Limit higher = limit(new Threshold(50, 40, 3, 3), Threshold.NONE, 30_000);
    run(higher, "13 13 13 13");
    assertThat(transitions()).isEqualTo("1 building, 3 warning, 4 settling, 7 calm");
    assertThat(state.state()).isEqualTo(AlertState.CALM);
  }

  @Test
  void editing_forgets_what_was_counted_for_the_old_numbers() {
    run(limit(WARNING, CRITICAL, 30_000), "11 12");
    state = Judge.edited(state, told::add);
    assertThat(state.state()).isEqualTo(AlertState.CALM);
    run(limit(WARNING, CRITICAL, 30_000), "13 13");
    assertThat(state.state()).isEqualTo(AlertState.BUILDING);
    run(limit(WARNING, CRITICAL, 30_000), "13");
    assertThat(state.state()).isEqualTo(AlertState.WARNING);
  }

  @Test
  void a_critical_alert_whose_limit_lost_its_critical_number_goes_on_as_a_warning() {
    run(limit(WARNING, CRITICAL, 30_000), "30 30 30");
    state = Judge.edited(state, told::add);
    run(limit(WARNING, Threshold.NONE, 30_000), "30");
    assertThat(state.state()).isEqualTo(AlertState.WARNING);
    assertThat(state.since()).isEqualTo(STEP);
  }

  @Test
  void a_retired_series_ends_its_alert_as_retired() {
    run(limit(WARNING, CRITICAL, 30_000), "11 12 13");
    state = Judge.ended(state, AlertState.RETIRED, 40_000, told::add);
    assertThat(state).isEqualTo(LimitState.calm(3 * STEP));
    assertThat(told.get(2).to()).isEqualTo(AlertState.RETIRED);
  }

  @Test
  void crossing_at_each_judging_is_one_alert_named_flapping() {
    Limit limit = limit(new Threshold(10, 9, 1, 1), Threshold.NONE, 60_000);
    for (int i = 0; i < 50; i++) {
      run(limit, "11 1");
      assertThat(state.flapping()).isEqualTo(i >= 3);
    }
    assertThat(told.stream().filter(t -> t.from() == AlertState.CALM)).hasSize(1);
    assertThat(told.stream().filter(t -> t.to() == AlertState.CALM)).isEmpty();
  }

  @Test
  void entries_of_an_hour_ago_do_not_make_it_flapping() {
    Limit limit = limit(new Threshold(10, 9, 1, 1), Threshold.NONE, 60_000);
    run(limit, "11 1 11 1 11 1");
    edge += 3_600_000;
    run(limit, "11 1 11");
    assertThat(state.flapping()).isFalse();
    run(limit, "1 11 1 11");
    assertThat(state.flapping()).isTrue();
  }

  @Test
  void a_longer_step_counts_as_the_judgings_that_it_covers() {
    Limit limit = limit(WARNING, CRITICAL, 60_000);
    state = Judge.judge(limit, state, covering(60_000, 11), told::add);
    assertThat(state.state()).isEqualTo(AlertState.WARNING);
    state = Judge.judge(limit, state, covering(120_000, 1), told::add);
    state = Judge.judge(limit, state, covering(180_000, 1), told::add);
    assertThat(state.state()).isEqualTo(AlertState.CALM);
  }

  @Test
  void a_transition_keeps_what_was_seen() {
    Normal normal = new Normal(0, 1, 2, 3, 4, 90, Basis.ALL);
    Limit limit = limit(new Threshold(10, 8, 1, 1), Threshold.NONE, 30_000);
    Judge.judge(
        limit,
        state,
        new Judging(10_000, 9_500, 9_700, Outcome.VALUE, 14, normal, 9.9, 1),
        told::add);
    assertThat(told)
        .containsExactly(
            new Transition(9_500, 9_700, AlertState.CALM, AlertState.WARNING, 14, normal, 10, 9.9));
  }

  private static Judging covering(long edge, double value) {
    return new Judging(edge, edge, edge, Outcome.VALUE, value, Normal.NONE, Double.NaN, 6);
  }

  private static Limit limit(Threshold warning, Threshold critical, long clearMillis) {
    return new Limit(Condition.ABOVE, Worse.UP, warning, critical, clearMillis, STEP);
  }

  private void run(Limit limit, String values) {
    for (String value : values.strip().split(" +")) {
      edge += STEP;
      Judging judging =
          switch (value) {
            case "-" -> Judging.missing(edge, edge + 5_000);
            case "~" -> Judging.tooFew(edge, edge, edge);
            default -> Judging.value(edge, Double.parseDouble(value));
          };
      state = Judge.judge(limit, state, judging, told::add);
    }
  }

  private void distances(Limit limit, double... distances) {
    for (double distance : distances) {
      edge += STEP;
      state =
          Judge.judge(
              limit,
              state,
              new Judging(edge, edge, edge, Outcome.VALUE, 1, Normal.NONE, distance, 1),
              told::add);
    }
  }

  private String transitions() {
    return told.stream()
        .map(t -> t.at() / STEP + " " + t.to().words())
        .collect(Collectors.joining(", "));
  }
}
