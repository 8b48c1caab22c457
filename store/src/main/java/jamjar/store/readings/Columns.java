package jamjar.store.readings;

import jamjar.core.chart.Samples;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/** Readings of some series as they are found. */
final class Columns {
  private long[] at = new long[256];
  private long[] elapsed = new long[256];
  private long[] interval = new long[256];
  private final int[] ids;
  private final double[][] values;
  private int n;

  /**
   * @param ids of the series
   */
  Columns(int[] ids) {
    this.ids = ids;
    this.values = new double[ids.length][256];
  }

  int[] ids() {
    return ids;
  }

  /**
   * Rows of one layout, if it holds all of the series.
   *
   * @param there which series their values are of
   */
  void add(List<PlacedRow> rows, int[] there, long every) {
    int[] places = new int[ids.length];
    for (int k = 0; k < ids.length; k++) {
      while (places[k] < there.length && there[places[k]] != ids[k]) {
        places[k]++;
      }
      if (places[k] == there.length) {
        return;
      }
    }
    for (PlacedRow row : rows) {
      add(Micros.millis(row.at()), row.elapsedMs(), every);
      for (int k = 0; k < ids.length; k++) {
        value(k, row.vals()[places[k]]);
      }
    }
  }

  /** One more; its values are told then. */
  void add(long when, long covers, long every) {
    if (n == at.length) {
      at = Arrays.copyOf(at, 2 * n);
      elapsed = Arrays.copyOf(elapsed, 2 * n);
      interval = Arrays.copyOf(interval, 2 * n);
      for (int k = 0; k < values.length; k++) {
        values[k] = Arrays.copyOf(values[k], 2 * n);
      }
    }
    at[n] = when;
    elapsed[n] = covers;
    interval[n++] = every;
  }

  /** A value of the last one. */
  void value(int k, double value) {
    values[k][n - 1] = value;
  }

  /** All of them in order of time. */
  Samples samples() {
    boolean sorted = true;
    for (int i = 1; sorted && i < n; i++) {
      sorted = at[i - 1] <= at[i];
    }
    if (!sorted) {
      sort();
    }
    double[][] all = new double[values.length][];
    for (int k = 0; k < all.length; k++) {
      all[k] = Arrays.copyOf(values[k], n);
    }
    return new Samples(
        Arrays.copyOf(at, n),
        Arrays.copyOf(elapsed, n),
        Arrays.copyOf(interval, n),
        all[0],
        List.of(all).subList(1, all.length));
  }

  /** Where a series has been read by one source and then by another. */
  private void sort() {
    int[] order =
        IntStream.range(0, n)
            .boxed()
            .sorted(Comparator.comparingLong(i -> at[i]))
            .mapToInt(i -> i)
            .toArray();
    long[] times = at;
    long[] covers = elapsed;
    long[] every = interval;
    at = IntStream.of(order).mapToLong(i -> times[i]).toArray();
    elapsed = IntStream.of(order).mapToLong(i -> covers[i]).toArray();
    interval = IntStream.of(order).mapToLong(i -> every[i]).toArray();
    for (int k = 0; k < values.length; k++) {
      double[] column = values[k];
      values[k] = IntStream.of(order).mapToDouble(i -> column[i]).toArray();
    }
  }
}
