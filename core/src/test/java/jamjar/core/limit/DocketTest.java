package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.Recipes;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Docket.Change;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What is judged, and when: edges every 10 s, hold 1 of 1 above 10. Times in seconds. */
class DocketTest {
  private static final int SERIES = 5;
  private static final Rule RULE =
      new Rule(
          7,
          "",
          Map.of(),
          Scope.instance(1),
          Condition.ABOVE,
          1.0,
          null,
          null,
          null,
          null,
          null,
          null,
          true);
  private static final Normal NORMAL = new Normal(0, 1, 2, 3, 4, 90, Basis.ALL);
  private final List<Change> changes = new ArrayList<>();

  @Test
  void a_reading_closes_the_edges_before_it_and_their_value_is_the_mean_of_what_came_since() {
    Docket docket = docket(above(10));
    read(docket, 1, 8);
    read(docket, 4, 10);
    read(docket, 10, 15);
    assertThat(changes).isEmpty();
    read(docket, 11, 0);
    // 8, 10 and the one on the edge itself
    assertThat(values()).containsExactly(11.0);
    assertThat(changes.get(0).transitions().get(0).at()).isEqualTo(10_000);
  }

  @Test
  void a_quotient_is_judged_as_the_quotient_of_its_sums() {
    Docket docket = docket(entry(Recipes.RATIO, Condition.ABOVE, 80, 10_000));
    readParts(docket, 1, 10, 10);
    readParts(docket, 2, 20, 30);
    readParts(docket, 11, 0, 0);
    // 100 × 30 / 40, not the mean of 100 and 66.7
    assertThat(changes).isEmpty();
    assertThat(docket.lastMinute(SERIES, Condition.ABOVE)).isEqualTo(75);
  }

  @Test
  void fewer_than_the_least_below_the_line_are_too_few_to_be_judged() {
    Docket docket = docket(entry(Recipes.RATIO, Condition.ABOVE, 80, 10_000));
    readParts(docket, 1, 9, 10);
    readParts(docket, 2, 9, 9);
    readParts(docket, 11, 1, 1);
    assertThat(changes).isEmpty();
    assertThat(docket.lastMinute(SERIES, Condition.ABOVE)).isNaN();
  }

  @Test
  void time_closes_an_edge_five_seconds_later() {
    Docket docket = docket(above(10));
    read(docket, 8, 12);
    changes.addAll(docket.time(14_999));
    assertThat(changes).isEmpty();
    changes.addAll(docket.time(15_000));
    assertThat(values()).containsExactly(12.0);
  }

  @Test
  void a_reading_that_comes_too_late_for_its_edge_is_left_out_and_the_edge_is_missing() {
    Docket docket = docket(above(10));
    read(docket, 8, 12);
    changes.addAll(docket.time(15_000));
    // taken at 19, arrived at 26: its edge was given up at 25
    changes.addAll(docket.read(19_000, 26_000, new int[] {SERIES}, shown(99)));
    changes.addAll(docket.time(30_000));
    changes.addAll(docket.read(38_000, 38_010, new int[] {SERIES}, shown(12)));
    changes.addAll(docket.time(45_000));
    assertThat(words()).containsExactly("warning", "not measured", "warning");
  }

  @Test
  void the_same_readings_in_the_same_order_of_arrival_give_the_same() {
    // once with a tick each second, once with none at all
    Docket ticked = docket(above(10));
    Docket replayed = docket(above(10));
    List<Change> live = new ArrayList<>();
    List<Change> again = new ArrayList<>();
    long[][] readings = {
      {3, 3}, {13, 13}, {23, 23}, {34, 41}, {44, 52}, {53, 53}, {103, 103}, {113, 113}
    };
    long now = 0;
    for (long[] reading : readings) {
      while (now < reading[1]) {
        live.addAll(ticked.time(1000 * now++));
      }
      live.addAll(ticked.read(1000 * reading[0], 1000 * reading[1], new int[] {SERIES}, shown(12)));
      again.addAll(
          replayed.read(1000 * reading[0], 1000 * reading[1], new int[] {SERIES}, shown(12)));
    }
    assertThat(transitions(live)).isEqualTo(transitions(again)).isNotEmpty();
  }

  @Test
  void a_clock_that_is_set_back_is_waited_for() {
    Docket docket = docket(above(10));
    read(docket, 103, 1);
    read(docket, 113, 1);
    for (int second = 53; second < 113; second += 10) {
      read(docket, second, 99);
    }
    assertThat(changes).isEmpty();
    read(docket, 118, 99);
    read(docket, 123, 99);
    assertThat(words()).containsExactly("warning");
  }

  @Test
  void silence_counts_intervals_without_a_reading_and_ends_with_one() {
    Docket docket =
        docket(
            new Entry(
                Docket.INSTANCE,
                null,
                inForce(
                    new Limit(
                        Condition.SILENT,
                        Worse.UP,
                        new Threshold(2, 1, 1, 1),
                        Threshold.NONE,
                        10_000,
                        10_000))));
    read(docket, 3, 1);
    changes.addAll(docket.time(25_000));
    assertThat(changes).isEmpty();
    changes.addAll(docket.time(35_000));
    assertThat(values()).containsExactly(2.0);
    read(docket, 41, 1);
    read(docket, 51, 1);
    read(docket, 61, 1);
    assertThat(words()).containsExactly("warning", "settling", "calm");
  }

  @Test
  void a_silence_before_it_was_watched_is_not_the_instances() {
    InForce silent =
        inForce(
            new Limit(
                Condition.SILENT,
                Worse.UP,
                new Threshold(2, 1, 1, 1),
                Threshold.NONE,
                10_000,
                10_000));
    Docket docket =
        new Docket(
            List.of(new Entry(Docket.INSTANCE, null, silent)),
            Map.of(),
            0,
            3_600_000,
            (series, at) -> NORMAL);
    assertThat(docket.time(3_612_000)).isEmpty();
    assertThat(docket.time(3_626_000)).hasSize(1);
  }

  @Test
  void outside_normal_is_judged_by_the_minute_and_waits_for_a_normal() {
    Docket docket = docket(entry(Recipes.USED, Condition.OUTSIDE, 4, 60_000));
    for (int second = 5; second <= 65; second += 10) {
      read(docket, second, 12);
    }
    // (12 − 2) / max((4 − 2) / 1.645, 1): 8.2 spreads
    assertThat(words()).containsExactly("warning");
    assertThat(changes.get(0).transitions().get(0).distance()).isBetween(8.0, 8.5);

    Docket learning =
        new Docket(
            List.of(entry(Recipes.USED, Condition.OUTSIDE, 4, 60_000)),
            Map.of(),
            0,
            0,
            (series, at) -> Normal.NONE);
    changes.clear();
    for (int second = 5; second <= 125; second += 10) {
      read(learning, second, 12);
    }
    assertThat(changes).isEmpty();
  }

  @Test
  void a_span_that_nobody_watched_is_judged_by_nobody_and_passed_in_one_step() {
    Docket docket = docket(silence(2));
    read(docket, 5, 1);
    // a year: were it passed edge by edge, three million of them
    long year = 365L * 86_400;
    changes.addAll(docket.watchedFrom(1000 * year, 1000 * year));
    changes.addAll(docket.time(1000 * (year + 20)));
    assertThat(changes).isEmpty();
    changes.addAll(docket.time(1000 * (year + 60)));
    assertThat(words()).as("silence inside the span is the instance's").containsExactly("warning");
  }

  @Test
  void a_time_in_which_nobody_asked_is_no_silence_of_the_instance() {
    Docket docket = docket(silence(2));
    read(docket, 5, 1);
    // asked last at 5, then not before 95: a judge that is asked in between knows nothing
    changes.addAll(docket.time(90_000, 5_000));
    changes.addAll(docket.unasked(5_000, 95_000));
    read(docket, 95, 1);
    read(docket, 105, 1);
    assertThat(changes).isEmpty();
    changes.addAll(docket.time(140_000, 140_000));
    assertThat(words()).as("asked all the time, and silent").containsExactly("warning");
  }

  @Test
  void judging_goes_on_within_an_interval_of_a_clock_that_was_set_back() {
    Docket docket = docket(above(10));
    for (int second = 3_603; second < 3_633; second += 10) {
      read(docket, second, 1);
    }
    changes.addAll(docket.watchedFrom(33_000, 1_000));
    read(docket, 38, 12);
    read(docket, 48, 12);
    assertThat(words()).containsExactly("warning");
  }

  @Test
  void a_short_gap_keeps_what_was_counted_and_a_long_one_does_not() {
    Docket shortGap = docket(entry(Recipes.USED, Condition.ABOVE, 10, 10_000, 2));
    Docket longGap = docket(entry(Recipes.USED, Condition.ABOVE, 10, 10_000, 2));
    for (Docket docket : List.of(shortGap, longGap)) {
      read(docket, 8, 12);
      read(docket, 18, 1);
    }
    assertThat(words()).containsExactly("building", "building");
    changes.clear();
    changes.addAll(shortGap.watchedFrom(30_000, 10_000));
    assertThat(changes).isEmpty();
    changes.addAll(longGap.watchedFrom(60_000, 40_000));
    assertThat(words()).containsExactly("calm");
  }

  @Test
  void fullness_of_a_quotient_is_of_its_sums_and_stays_over_an_edit() {
    Docket docket = docket(entry(Recipes.RATIO, Condition.ABOVE, 80, 10_000));
    readParts(docket, 5, 10, 10);
    readParts(docket, 15, 20, 30);
    readParts(docket, 25, 0, 0);
    // 100 × 30 / 40, not the mean of 100 and 66.7
    assertThat(docket.lastMinute(SERIES, Condition.ABOVE)).isEqualTo(75);
    docket.enter(entry(Recipes.RATIO, Condition.ABOVE, 90, 10_000), LimitState.calm(0));
    assertThat(docket.lastMinute(SERIES, Condition.ABOVE)).isEqualTo(75);
  }

  @Test
  void what_refuses_is_unreachable_at_its_third_refusal_and_what_does_not_answer_is_silent() {
    Docket docket = docket(silence(2), unread(Condition.UNREACHABLE, 2));
    read(docket, 3, 1);
    for (int second = 13; second <= 23; second += 10) {
      changes.addAll(docket.unread(second * 1000L, true));
    }
    assertThat(changes).isEmpty();
    // two intervals after the first refusal, without waiting for a time-out
    changes.addAll(docket.unread(33_000, true));
    assertThat(conditions()).containsExactly("UNREACHABLE warning");

    // the host went down too: nothing answers any more
    changes.clear();
    changes.addAll(docket.unread(43_000, false));
    changes.addAll(docket.unread(53_000, false));
    assertThat(conditions()).containsExactly("SILENT warning", "UNREACHABLE settling");
    changes.clear();
    read(docket, 63, 1);
    read(docket, 73, 1);
    read(docket, 83, 1);
    assertThat(conditions())
        .containsExactlyInAnyOrder("SILENT settling", "SILENT calm", "UNREACHABLE calm");
  }

  @Test
  void one_refusal_between_two_readings_is_told_to_nobody() {
    Docket docket = docket(silence(2), unread(Condition.UNREACHABLE, 2));
    read(docket, 3, 1);
    changes.addAll(docket.unread(13_000, true));
    read(docket, 23, 1);
    changes.addAll(docket.unread(33_000, true));
    read(docket, 43, 1);
    assertThat(changes).isEmpty();
  }

  @Test
  void what_was_unreachable_before_a_restart_of_ours_is_not_called_silent_after_it() {
    Entry unreachable = unread(Condition.UNREACHABLE, 2);
    Docket before = docket(silence(2), unreachable);
    read(before, 3, 1);
    for (int second = 13; second <= 33; second += 10) {
      changes.addAll(before.unread(second * 1000L, true));
    }
    Docket after =
        new Docket(
            List.of(silence(2), unreachable),
            before.states(),
            33_000,
            50_000,
            (series, at) -> NORMAL);
    changes.clear();
    changes.addAll(after.unread(73_000, true));
    changes.addAll(after.unread(83_000, true));
    assertThat(conditions()).isEmpty();
    read(after, 93, 1);
    read(after, 103, 1);
    assertThat(conditions()).containsExactly("UNREACHABLE settling");
  }

  private List<String> conditions() {
    return changes.stream()
        .flatMap(c -> c.transitions().stream().map(t -> c.key().condition() + " " + t.to().words()))
        .toList();
  }

  private static Entry silence(int intervals) {
    return unread(Condition.SILENT, intervals);
  }

  private static Entry unread(Condition condition, int intervals) {
    return new Entry(
        Docket.INSTANCE,
        null,
        inForce(
            new Limit(
                condition,
                Worse.UP,
                new Threshold(intervals, 1, 1, 1),
                Threshold.NONE,
                10_000,
                10_000)));
  }

  private static Entry above(double number) {
    return entry(Recipes.USED, Condition.ABOVE, number, 10_000);
  }

  private static Entry entry(
      CounterDefinition counter, Condition condition, double number, long step) {
    return entry(counter, condition, number, step, 1);
  }

  private static Entry entry(
      CounterDefinition counter, Condition condition, double number, long step, int hold) {
    return new Entry(
        SERIES,
        counter,
        inForce(
            new Limit(
                condition,
                Worse.UP,
                new Threshold(number, number - 1, hold, hold),
                Threshold.NONE,
                10_000,
                step)));
  }

  private static InForce inForce(Limit limit) {
    return new InForce(limit, RULE, null, null);
  }

  private static Docket docket(Entry... entries) {
    return new Docket(List.of(entries), Map.of(), 0, 0, (series, at) -> NORMAL);
  }

  private void read(Docket docket, int second, double value) {
    changes.addAll(docket.read(1000L * second, 1000L * second, new int[] {SERIES}, shown(value)));
  }

  private void readParts(Docket docket, int second, double above, double below) {
    List<Shown> shown =
        List.of(new Shown(SeriesKey.of("ratio"), above / below, null, above, below));
    changes.addAll(docket.read(1000L * second, 1000L * second, new int[] {SERIES}, shown));
  }

  private static List<Shown> shown(double value) {
    return List.of(new Shown(SeriesKey.of("used"), value, null, value, 1));
  }

  private static List<Transition> transitions(List<Change> changes) {
    return changes.stream().flatMap(change -> change.transitions().stream()).toList();
  }

  private List<String> words() {
    return transitions(changes).stream().map(t -> t.to().words()).toList();
  }

  private List<Double> values() {
    return transitions(changes).stream().map(Transition::value).toList();
  }
}
