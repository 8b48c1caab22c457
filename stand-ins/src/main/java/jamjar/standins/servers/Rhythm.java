package jamjar.standins.servers;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;

/**
 * How busy Skerry Line is: sailings at fixed hours make waves, weekends are fuller, nights are
 * quiet but for the fare reload at 02:10 and the backup at 03:30. 1 is an ordinary hour of the day.
 */
public final class Rhythm {
  private static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
  private static final double[] SAILINGS = {7, 10.5, 14, 17.5, 21};
  private static final double CHECK_IN_BEFORE = 1.5;
  private static final double SCAN_BEFORE = 1.0 / 3;

  private Rhythm() {}

  /** Bookings, fares and check-in. */
  public static double booking(Instant at) {
    ZonedDateTime local = at.atZone(ZONE);
    double hour = hour(local);
    double day = 0.25 + 0.75 * bump(hour, 14, 5.5);
    double waves = 0;
    for (double sailing : SAILINGS) {
      waves += 0.45 * bump(hour, sailing - CHECK_IN_BEFORE, 0.5);
    }
    double reload = 0.4 * bump(hour, 2.3, 0.2);
    return (day + waves + reload) * weekend(local);
  }

  /** Scans at the gates. */
  static double gates(Instant at) {
    ZonedDateTime local = at.atZone(ZONE);
    double waves = 0.08;
    for (double sailing : SAILINGS) {
      waves += bump(hour(local), sailing - SCAN_BEFORE, 0.35);
    }
    return waves * weekend(local);
  }

  private static double weekend(ZonedDateTime local) {
    return local.getDayOfWeek().compareTo(DayOfWeek.FRIDAY) > 0 ? 1.25 : 1;
  }

  private static double hour(ZonedDateTime local) {
    return local.getHour() + local.getMinute() / 60.0 + local.getSecond() / 3600.0;
  }

  /** A bump of height 1 around an hour, the shorter way round the clock. */
  private static double bump(double hour, double middle, double width) {
    double away = Math.abs(hour - middle);
    double distance = Math.min(away, 24 - away) / width;
    return StrictMath.exp(-distance * distance / 2);
  }
}
