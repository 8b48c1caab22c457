package jamjar.store.readings;

import java.util.Arrays;
import java.util.List;

/** Readings in words, to the bit: what is unlike is seen. */
public final class Told {
  private Told() {}

  public static List<String> of(List<StoredReading> readings) {
    return readings.stream()
        .map(
            r ->
                String.join(
                    " ",
                    r.at().toString(),
                    r.arrived().toString(),
                    Long.toString(r.elapsedMillis()),
                    Integer.toString(r.source()),
                    Integer.toString(r.intervalS()),
                    Arrays.toString(r.series()),
                    Arrays.toString(r.values())))
        .toList();
  }
}
