package jamjar.core.limit;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Which series of one source are there. A label that has not been there for ten readings counts as
 * gone for good, and is forgotten; one that comes back is new again.
 */
public final class Presence {
  static final int RETIRED_AFTER = 10;

  private final Map<Integer, Integer> absent = new HashMap<>();

  /**
   * What a reading changed.
   *
   * @param come series that were not known before
   * @param gone series that are forgotten now
   */
  public record Turn(List<Integer> come, List<Integer> gone) {}

  /**
   * @param known series to begin with
   */
  public Presence(Collection<Integer> known) {
    known.forEach(series -> absent.put(series, 0));
  }

  /** Takes the series of one reading. */
  public Turn take(Set<Integer> there) {
    List<Integer> come = new ArrayList<>();
    for (Integer series : there) {
      if (absent.put(series, 0) == null) {
        come.add(series);
      }
    }
    List<Integer> gone = new ArrayList<>();
    absent.replaceAll((series, times) -> there.contains(series) ? 0 : times + 1);
    absent.forEach(
        (series, times) -> {
          if (times >= RETIRED_AFTER) {
            gone.add(series);
          }
        });
    gone.forEach(absent::remove);
    return new Turn(come, gone);
  }

  /** The series that are known. */
  public Set<Integer> known() {
    return Set.copyOf(absent.keySet());
  }
}
