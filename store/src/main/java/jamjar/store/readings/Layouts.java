package jamjar.store.readings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.HashMap;
import java.util.Map;
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

  LayoutRow of(ReadingMapper through, int id) {
    return known.get(id, through::layoutById);
  }

  /** Several, by their numbers. */
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
    }
    return found;
  }
}
