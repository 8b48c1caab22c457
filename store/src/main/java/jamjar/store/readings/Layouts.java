package jamjar.store.readings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** The layouts last asked for, kept at hand: they never change. */
final class Layouts {
  /** Places of all of them together, 4 bytes each and as much again. */
  private static final long MOST_PLACES = 1_000_000;

  private final Cache<Integer, LayoutRow> known =
      Caffeine.newBuilder()
          .maximumWeight(MOST_PLACES)
          .weigher((Integer id, LayoutRow row) -> row.series().length + 50)
          .build();

  /** One that is being stored. */
  void learn(LayoutRow row) {
    known.put(row.id(), row);
  }

  /**
   * @throws IllegalStateException when there is none: readings never come without theirs
   */
  LayoutRow of(ReadingMapper through, int id) {
    LayoutRow row = known.get(id, through::layoutById);
    if (row == null) {
      throw missing(Set.of(id));
    }
    return row;
  }

  private static IllegalStateException missing(Set<Integer> ids) {
    return new IllegalStateException(
        "readings are stored in layouts that are not: "
            + ids
            + "; the tables were changed from elsewhere, or a backup is not whole");
  }

  /**
   * Several, by their numbers.
   *
   * @throws IllegalStateException when one of them is not there
   */
  Map<Integer, LayoutRow> of(ReadingMapper through, IntStream ids) {
    Map<Integer, LayoutRow> found = new HashMap<>();
    int[] missing =
        ids.distinct()
            .filter(
                id -> {
                  LayoutRow row = known.getIfPresent(id);
                  if (row != null) {
                    found.put(id, row);
                  }
                  return row == null;
                })
            .toArray();
    if (missing.length > 0) {
      for (LayoutRow row : through.layouts(missing)) {
        known.put(row.id(), row);
        found.put(row.id(), row);
      }
      Set<Integer> never = IntStream.of(missing).boxed().collect(Collectors.toSet());
      never.removeAll(found.keySet());
      if (!never.isEmpty()) {
        throw missing(never);
      }
    }
    return found;
  }
}
