package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.Recipes;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Docket.Change;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.limit.Docket.Key;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What becomes of the states of limits when other limits, or none, are in force. */
class ReconcilingTest {
  private static final long NOW = 100_000;
  private static final Key KEY = new Key(5, Condition.ABOVE);

  @ParameterizedTest
  @EnumSource(
      value = AlertState.class,
      names = {"RETIRED", "SWITCHED_OFF", "MOVED", "LEFT_OUT", "PAUSED", "REMOVED"})
  void an_open_alert_that_nothing_holds_ends_once_with_its_reason(AlertState why) {
    LimitState open = open();
    List<Change> changes = Reconciling.of(Map.of(KEY, open), Map.of(), Map.of(), key -> why, NOW);
    assertThat(changes).hasSize(1);
    Change change = changes.get(0);
    assertThat(change.after().open()).isFalse();
    assertThat(change.after().idle()).isTrue();
    assertThat(change.transitions()).hasSize(1);
    assertThat(change.transitions().get(0).from()).isEqualTo(AlertState.WARNING);
    assertThat(change.transitions().get(0).to()).isEqualTo(why);
    assertThat(change.transitions().get(0).at()).isEqualTo(NOW);

    assertThat(again(change, Map.of(), Map.of())).as("done twice it does nothing").isEmpty();
  }

  @Test
  void what_is_in_force_as_before_stays_as_it_is() {
    Map<Key, Entry> same = Map.of(KEY, entry(10));
    assertThat(Reconciling.of(Map.of(KEY, open()), same, same, key -> null, NOW)).isEmpty();
    assertThat(Reconciling.of(Map.of(KEY, open()), Map.of(), same, key -> null, NOW))
        .as("what was in force before is not known")
        .isEmpty();
  }

  @Test
  void an_edited_limit_keeps_its_alert_and_counts_anew() {
    Map<Key, Entry> before = Map.of(KEY, entry(10));
    Map<Key, Entry> after = Map.of(KEY, entry(20));
    List<Change> changes = Reconciling.of(Map.of(KEY, open()), before, after, key -> null, NOW);
    assertThat(changes).hasSize(1);
    LimitState edited = changes.get(0).after();
    assertThat(edited.state()).isEqualTo(AlertState.WARNING);
    assertThat(edited.since()).isEqualTo(open().since());
    assertThat(edited.standing().warningPasses()).isZero();
    assertThat(changes.get(0).transitions()).isEmpty();
    assertThat(again(changes.get(0), after, after)).isEmpty();
  }

  @Test
  void what_only_was_building_ends_without_an_alert() {
    Limit twice = limit(10, 2);
    LimitState building =
        Judge.judge(twice, LimitState.calm(0), Judging.value(10_000, 11), t -> {});
    assertThat(building.state()).isEqualTo(AlertState.BUILDING);
    List<Change> changes =
        Reconciling.of(Map.of(KEY, building), Map.of(), Map.of(), key -> AlertState.PAUSED, NOW);
    assertThat(changes.get(0).transitions())
        .extracting(Transition::to)
        .containsExactly(AlertState.CALM);
  }

  private static List<Change> again(
      Change change, Map<Key, Entry> before, Map<Key, Entry> inForce) {
    Map<Key, LimitState> states = new HashMap<>();
    if (!change.after().idle()) {
      states.put(change.key(), change.after());
    }
    return Reconciling.of(states, before, inForce, key -> AlertState.REMOVED, NOW + 1);
  }

  private static LimitState open() {
    List<Transition> told = new ArrayList<>();
    LimitState state =
        Judge.judge(limit(10, 1), LimitState.calm(0), Judging.value(10_000, 11), told::add);
    assertThat(state.state()).isEqualTo(AlertState.WARNING);
    return state;
  }

  private static Limit limit(double warning, int hold) {
    return new Limit(
        Condition.ABOVE,
        Worse.UP,
        new Threshold(warning, warning - 1, hold, hold),
        Threshold.NONE,
        10_000,
        10_000);
  }

  private static Entry entry(double warning) {
    Rule rule =
        new Rule(
            3,
            "used",
            Map.of(),
            Scope.instance(1),
            Condition.ABOVE,
            warning,
            null,
            null,
            null,
            null,
            null,
            null,
            true);
    return new Entry(5, Recipes.USED, new InForce(limit(warning, 1), rule, rule, null));
  }
}
