package jamjar.core.limit;

import jamjar.core.limit.Docket.Change;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.limit.Docket.Key;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Brings the states of limits into line with what is in force: whatever no entry holds any more
 * ends, with its reason, and what is judged by other numbers now is judged anew. The one way in
 * which anything but a judging changes a state.
 */
public final class Reconciling {
  private Reconciling() {}

  /**
   * What must change.
   *
   * @param states the states that are not idle
   * @param before what was in force before; empty where that is not known: what is in force now was
   *     then too
   * @param inForce what is in force now
   * @param why why a state that nothing holds any more ends
   * @param now epoch ms
   * @return at most one change per state; none for those that are in line already
   */
  public static List<Change> of(
      Map<Key, LimitState> states,
      Map<Key, Entry> before,
      Map<Key, Entry> inForce,
      Function<Key, AlertState> why,
      long now) {
    List<Change> changes = new ArrayList<>();
    states.forEach(
        (key, state) -> {
          Entry entry = inForce.get(key);
          List<Transition> told = new ArrayList<>();
          if (entry == null) {
            LimitState ended = Judge.ended(state, why.apply(key), now, told::add);
            changes.add(new Change(key, 0, state, ended, List.copyOf(told)));
          } else if (edited(before.get(key), entry)) {
            LimitState edited = Judge.edited(state, told::add);
            if (!edited.equals(state)) {
              changes.add(Change.of(entry, state, edited, told));
            }
          }
        });
    return changes;
  }

  private static boolean edited(Entry before, Entry now) {
    return before != null && !before.inForce().limit().equals(now.inForce().limit());
  }
}
