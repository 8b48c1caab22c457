package jamjar.core.reading;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;

/**
 * Increases of entries that the source may evict and begin again without telling, such as
 * statements. An entry that is new or that fell gives its whole new value: at least that much
 * happened.
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
   * @return the increases since the reading before, added up over all entries; empty for the first
   */
  public Optional<long[]> take(Map<K, long[]> now) {
    return take(now, (key, increase) -> {});
  }

  /**
   * As above.
   *
   * @param each is handed what increased, entry by entry
   */
  public Optional<long[]> take(Map<K, long[]> now, BiConsumer<K, long[]> each) {
    Optional<long[]> increases = Optional.ofNullable(before).map(then -> added(then, now, each));
    before = new HashMap<>(now);
    return increases;
  }

  /** Forgets the reading before, because the source began anew. */
  public void forget() {
    before = null;
  }

  private long[] added(Map<K, long[]> then, Map<K, long[]> now, BiConsumer<K, long[]> each) {
    long[] sums = new long[width];
    now.forEach(
        (key, values) -> {
          long[] old = then.get(key);
          boolean whole = old == null || fell(old, values);
          long[] increase = new long[width];
          boolean any = false;
          for (int i = 0; i < width; i++) {
            increase[i] = whole ? values[i] : values[i] - old[i];
            sums[i] += increase[i];
            any |= increase[i] != 0;
          }
          if (any) {
            each.accept(key, increase);
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
