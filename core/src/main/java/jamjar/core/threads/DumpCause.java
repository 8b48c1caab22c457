package jamjar.core.threads;

import jamjar.core.counter.Recipe;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Docket.Change;
import jamjar.core.reading.SeriesKey;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * What makes it worth to look at the threads of a JVM: a limit became critical that tells of them.
 */
public final class DumpCause {
  private static final Set<String> COUNTERS =
      Set.of(
          "threads.deadlocked",
          "threads.blocked",
          "requests.busy_share",
          "requests.waiting",
          "requests.refused",
          "pool.in_use_share",
          "pool.waiting",
          "pool.leaked");

  private DumpCause() {}

  /**
   * The first of some changes that is a cause, in words.
   *
   * @param keys of each change the series
   */
  public static Optional<String> of(List<Change> changes, List<SeriesKey> keys, Recipe recipe) {
    for (int i = 0; i < changes.size(); i++) {
      SeriesKey key = keys.get(i);
      boolean critical =
          changes.get(i).transitions().stream().anyMatch(t -> t.to() == AlertState.CRITICAL);
      if (critical && COUNTERS.contains(key.counter())) {
        String title = recipe.counter(key.counter()).map(c -> c.title()).orElse(key.counter());
        String labels = String.join(", ", key.labels().values());
        return Optional.of((labels.isEmpty() ? title : title + " · " + labels) + " is critical");
      }
    }
    return Optional.empty();
  }
}
