package jamjar.store.readings;

/**
 * What the places of a reading's array stand for.
 *
 * @param series numbers of the series, by place
 * @param totals numbers of those that are totals, in the order in which their raw values are kept
 * @param counters keys of the counters whose group was read whole
 */
public record LayoutRow(
    int id,
    int instance,
    int source,
    int intervalS,
    int[] series,
    int[] totals,
    String[] counters,
    byte[] hash) {
  /** From 1; 0 where it is not there. */
  int place(int id) {
    for (int i = 0; i < series.length; i++) {
      if (series[i] == id) {
        return i + 1;
      }
    }
    return 0;
  }
}
