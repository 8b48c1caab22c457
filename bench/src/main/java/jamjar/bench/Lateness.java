package jamjar.bench;

import jamjar.store.Store;
import jamjar.store.readings.StoredReading;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** How late readings began. */
final class Lateness {
  private static final int FAST = 1;

  private Lateness() {}

  /**
   * From the stored times alone: how much later than its place in the interval each reading was
   * taken, the earliest of an instance being its place.
   *
   * @return in s, sorted
   */
  static double[] of(Store store, List<Integer> ids, int intervalS, Instant from, Instant to) {
    List<Double> all = new ArrayList<>();
    for (int id : ids) {
      List<StoredReading> readings = store.readings().readings(id, from, to);
      long[] at =
          readings.stream()
              .filter(reading -> reading.source() == FAST)
              .map(StoredReading::at)
              .mapToLong(Instant::toEpochMilli)
              .toArray();
      long interval = intervalS * 1000L;
      if (at.length == 0) {
        continue;
      }
      // offsets from the first one's place, which may lie before or after it
      long[] offset = new long[at.length];
      for (int i = 0; i < at.length; i++) {
        long rest = Math.floorMod(at[i] - at[0], interval);
        offset[i] = rest > interval / 2 ? rest - interval : rest;
      }
      long earliest = Arrays.stream(offset).min().orElse(0);
      for (long one : offset) {
        all.add((one - earliest) / 1000.0);
      }
    }
    return all.stream().mapToDouble(d -> d).sorted().toArray();
  }

  /** The value below which a share of them lies. */
  static double at(double[] sorted, double share) {
    return sorted.length == 0
        ? Double.NaN
        : sorted[(int) Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
  }
}
