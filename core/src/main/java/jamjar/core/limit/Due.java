package jamjar.core.limit;

import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;

/**
 * By when something is to have happened each day, such as a backup. What happened within the twelve
 * hours before counts for the day; what came later counts as soon as it comes, and not for the day
 * after.
 *
 * @param minute of the local day, 0 to 1439
 */
public record Due(int minute, ZoneId zone) {
  /** How long before it is due it may happen, ms. */
  public static final long BEFORE = 12 * 3_600_000L;

  private static final double MINUTE = 60_000;

  public Due {
    if (minute < 0 || minute >= 24 * 60) {
      throw new IllegalArgumentException("no minute of a day: " + minute);
    }
  }

  /**
   * How late it is, in minutes; 0 while it is not.
   *
   * @param happened when it happened last, epoch ms
   * @param at epoch ms
   */
  public double late(long happened, long at) {
    return Math.max(0, at - missed(happened)) / MINUTE;
  }

  /** The first time at which it is missed where it does not happen again, epoch ms. */
  long missed(long happened) {
    long from = happened + BEFORE;
    LocalDate day = Instant.ofEpochMilli(from).atZone(zone).toLocalDate();
    long due = on(day);
    // what happened just twelve hours before is the one that was due
    return due > from ? due : on(day.plusDays(1));
  }

  /** An hour that is skipped that day is the one after it. */
  private long on(LocalDate day) {
    return day.atTime(LocalTime.ofSecondOfDay(60L * minute))
        .atZone(zone)
        .toInstant()
        .toEpochMilli();
  }
}
