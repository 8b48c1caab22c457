package jamjar.bench;

import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/** The numbered answers of stand-ins, as they are stored. */
public final class Numbered {
  private static final SeriesKey NUMBER = SeriesKey.of("answers.number");

  private Numbered() {}

  /** Those of an instance since a time, in order of time. */
  public static double[] stored(Store store, int instance, Instant from) {
    List<Integer> ids =
        store.readings().series(instance).entrySet().stream()
            .filter(series -> series.getValue().equals(NUMBER))
            .map(Map.Entry::getKey)
            .toList();
    if (ids.isEmpty()) {
      return new double[0];
    }
    return store
        .readings()
        .samples(instance, new int[] {ids.get(0)}, from, Instant.now().plusSeconds(5))
        .value();
  }

  /**
   * How many are missing.
   *
   * @throws IllegalStateException when one is there twice, or not in order
   */
  public static int missing(double[] numbers) {
    int missing = numbers.length == 0 ? 0 : (int) numbers[0] - 1;
    for (int i = 1; i < numbers.length; i++) {
      if (!(numbers[i] > numbers[i - 1])) {
        throw new IllegalStateException(numbers[i] + " follows " + numbers[i - 1]);
      }
      missing += (int) (numbers[i] - numbers[i - 1]) - 1;
    }
    return missing;
  }
}
