package jamjar.store.readings;

import java.time.Instant;
import java.time.temporal.ChronoUnit;

/** Times as the database keeps them: whole µs since the epoch. */
final class Micros {
  private static final long MILLI = 1000;

  private Micros() {}

  static long of(Instant at) {
    return ChronoUnit.MICROS.between(Instant.EPOCH, at);
  }

  static Instant instant(long micros) {
    return Instant.EPOCH.plus(micros, ChronoUnit.MICROS);
  }

  /** To the nearest ms. */
  static long millis(long micros) {
    return Math.floorDiv(micros + MILLI / 2, MILLI);
  }
}
