package jamjar.collect.postgresql;

import jamjar.core.session.Sample;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Who waits for whom, from the locks alone: who holds the same thing in a mode that does not go
 * together with what is wanted, and who asked before in such a mode. The table of modes is that of
 * the engine's documentation on explicit locking.
 */
final class Conflicts {
  /** The modes of locks on tables, the weakest first. */
  static final List<String> MODES =
      List.of(
          "AccessShareLock",
          "RowShareLock",
          "RowExclusiveLock",
          "ShareUpdateExclusiveLock",
          "ShareLock",
          "ShareRowExclusiveLock",
          "ExclusiveLock",
          "AccessExclusiveLock");

  /** So many are told of one that waits: in a long queue each waits for all before it. */
  static final int MOST = 16;

  private static final Map<String, Set<String>> WITH = new HashMap<>();

  static {
    // a row for each mode: with which of them it does not go together
    List<String> table =
        List.of(
            "00000001",
            "00000011",
            "00001111",
            "00011111",
            "00110111",
            "00111111",
            "01111111",
            "11111111");
    for (int i = 0; i < MODES.size(); i++) {
      Set<String> with = new LinkedHashSet<>();
      for (int j = 0; j < MODES.size(); j++) {
        if (table.get(i).charAt(j) == '1') {
          with.add(MODES.get(j));
        }
      }
      WITH.put(MODES.get(i), with);
    }
  }

  private Conflicts() {}

  /**
   * @param order when each was asked for; of those that are granted it is not looked at
   * @return by who waits, whom it waits for: first those that have it; at most {@value #MOST}
   */
  static Map<Integer, List<Integer>> blockers(List<Sample.Lock> locks, long[] order) {
    Map<String, List<Integer>> byObject = new HashMap<>();
    for (int i = 0; i < locks.size(); i++) {
      byObject.computeIfAbsent(locks.get(i).object(), o -> new ArrayList<>()).add(i);
    }
    Map<Integer, List<Integer>> blockers = new LinkedHashMap<>();
    for (int i = 0; i < locks.size(); i++) {
      Sample.Lock wanted = locks.get(i);
      if (wanted.granted()) {
        continue;
      }
      Set<Integer> found = new LinkedHashSet<>();
      List<Integer> same = byObject.get(wanted.object());
      for (boolean granted : new boolean[] {true, false}) {
        for (int j : same) {
          Sample.Lock other = locks.get(j);
          boolean before = granted || order[j] < order[i];
          if (found.size() < MOST
              && other.granted() == granted
              && before
              && other.pid() != wanted.pid()
              && WITH.getOrDefault(wanted.mode(), Set.of()).contains(other.mode())) {
            found.add(other.pid());
          }
        }
      }
      if (!found.isEmpty()) {
        blockers.put(wanted.pid(), List.copyOf(found));
      }
    }
    return blockers;
  }
}
