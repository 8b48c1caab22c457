package jamjar.core.statement;

import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * Which statements of an engine are followed as series of their own: those that took the most time
 * on several days. Who is followed stays so for as long as it is not far behind: what comes and
 * goes could never be learned.
 */
public final class Following {
  /** So many at most, those that a person wants not counted. */
  public static final int MOST = 50;

  /** So many days, each as a whole, are looked at. */
  public static final int DAYS = 7;

  /** On so many of them it was among the first. */
  static final int DAYS_AMONG_FIRST = 3;

  /** Who lies beyond this place on all days is followed no more. */
  static final int FAR = 200;

  /** The time of who is followed counts so many times. */
  private static final long STAYS = 2;

  private Following() {}

  /**
   * Chooses anew.
   *
   * @param before who is followed until now, by fingerprint
   * @param days per day the time of each statement, µs; of a day that was not counted nothing
   * @param wanted who is followed in any case, such as where a limit is set on it
   */
  public static SortedSet<Long> next(
      Set<Long> before, List<Map<Long, Long>> days, Set<Long> wanted) {
    Map<Long, Long> together = new HashMap<>();
    Map<Long, Integer> amongFirst = new HashMap<>();
    Set<Long> near = new HashSet<>();
    int counted = 0;
    for (Map<Long, Long> day : days) {
      List<Long> ranked = ranked(day, day.keySet());
      counted += ranked.isEmpty() ? 0 : 1;
      for (int i = 0; i < ranked.size(); i++) {
        long one = ranked.get(i);
        together.merge(one, day.get(one), Long::sum);
        if (i < MOST) {
          amongFirst.merge(one, 1, Integer::sum);
        }
        if (i < FAR) {
          near.add(one);
        }
      }
    }
    boolean all = counted >= DAYS;
    Set<Long> may =
        before.stream().filter(one -> !all || near.contains(one)).collect(Collectors.toSet());
    amongFirst.forEach(
        (one, times) -> {
          if (times >= DAYS_AMONG_FIRST) {
            may.add(one);
          }
        });
    may.removeAll(wanted);
    // who takes a little more does not take its place
    before.forEach(one -> together.computeIfPresent(one, (id, time) -> STAYS * time));
    SortedSet<Long> next = new TreeSet<>(wanted);
    ranked(together, may).stream().limit(MOST).forEach(next::add);
    // 0 stands for all whose text is not known
    next.remove(0L);
    return next;
  }

  /** The most time first; those with the same by their fingerprint. */
  private static List<Long> ranked(Map<Long, Long> time, Set<Long> of) {
    return of.stream()
        .filter(one -> one != 0)
        .sorted(
            Comparator.comparingLong((Long one) -> -time.getOrDefault(one, 0L))
                .thenComparing(Comparator.naturalOrder()))
        .toList();
  }
}
