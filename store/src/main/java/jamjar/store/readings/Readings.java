package jamjar.store.readings;

import jamjar.core.chart.Samples;
import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/** Whole readings of one instance over a window, read once, from which any series is taken. */
public final class Readings {
  private final List<StoredReading> readings;

  Readings(List<StoredReading> readings) {
    this.readings = readings;
  }

  /** In order of time. */
  public List<StoredReading> all() {
    return readings;
  }

  /**
   * The readings of one series, or of the parts of a quotient.
   *
   * @param ids the series; of a quotient the one above the line first
   */
  public Samples samples(int[] ids) {
    Map<int[], int[]> places = new IdentityHashMap<>();
    List<StoredReading> with = new ArrayList<>();
    for (StoredReading reading : readings) {
      if (places.computeIfAbsent(reading.series(), series -> places(series, ids)).length > 0) {
        with.add(reading);
      }
    }
    int n = with.size();
    long[] at = new long[n];
    long[] elapsed = new long[n];
    long[] interval = new long[n];
    double[][] values = new double[ids.length][n];
    for (int i = 0; i < n; i++) {
      StoredReading reading = with.get(i);
      at[i] = reading.at().toEpochMilli();
      elapsed[i] = reading.elapsedMillis();
      interval[i] = reading.intervalS() * 1000L;
      int[] place = places.get(reading.series());
      for (int part = 0; part < ids.length; part++) {
        values[part][i] = reading.values()[place[part]];
      }
    }
    return new Samples(at, elapsed, interval, values[0], List.of(values).subList(1, ids.length));
  }

  /** Where the ids stand; empty unless all of them do. */
  private static int[] places(int[] series, int[] ids) {
    int[] found = new int[ids.length];
    for (int part = 0; part < ids.length; part++) {
      int at = 0;
      while (at < series.length && series[at] != ids[part]) {
        at++;
      }
      if (at == series.length) {
        return new int[0];
      }
      found[part] = at;
    }
    return found;
  }
}
