package jamjar.server.readings;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The hour around the same time of a day before, by the local clock: a night's work begins at its
 * hour in summer and in winter.
 *
 * @param middle that time
 */
public record SameHour(Instant middle) {
  /** So many days are looked back. */
  public static final int DAYS = 14;

  private static final Duration AROUND = Duration.ofMinutes(30);

  /** Of each of the 14 days before a moment, the latest first. */
  public static List<SameHour> before(Instant at, ZoneId zone) {
    return IntStream.rangeClosed(1, DAYS)
        .mapToObj(day -> new SameHour(at.atZone(zone).minusDays(day).toInstant()))
        .toList();
  }

  public Instant from() {
    return middle.minus(AROUND);
  }

  public Instant to() {
    return middle.plus(AROUND);
  }
}
