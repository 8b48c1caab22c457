package jamjar.core.reading;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Increases of entries that the source may evict and begin again without telling, such as
 * statements, added up over all entries. An entry that is new or that fell gives its whole new
 * value: at least that much happened.
 *
 * @param <K> what tells one entry from another
 */
public final class EntryIncreases<K> {
  private final int width;
  private Map<K, long[]> before;

  /**
   * @param width how many totals each entry has
   */
  public EntryIncreases(int width) {
    this.width = width;
  }

  /**
   * Takes the entries of one reading.
   *
   * @param now per entry its raw totals, each of the given width
   * @return the summed increases since the reading before; empty for the first
   */
  public Optional<long[]> take(Map<K, long[]> now) {
    Optional<long[]> increases = Optional.ofNullable(before).map(then -> added(then, now));
    before = new HashMap<>(now);
    return increases;
  }

  /** Forgets the reading before, because the source began anew. */
  public void forget() {
    before = null;
  }

  private long[] added(Map<K, long[]> then, Map<K, long[]> now) {
    long[] sums = new long[width];
    now.forEach(
        (key, values) -> {
          long[] old = then.get(key);
          for (int i = 0; i < width; i++) {
            sums[i] += old == null || fell(old, values) ? values[i] : values[i] - old[i];
          }
        });
    return sums;
  }

  private boolean fell(long[] old, long[] now) {
    for (int i = 0; i < width; i++) {
      if (now[i] < old[i]) {
        return true;
      }
    }
    return false;
  }
}
