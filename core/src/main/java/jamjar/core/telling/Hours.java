package jamjar.core.telling;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Set;

/**
 * Hours of the week.
 *
 * @param days none for every day
 * @param from minute of the day at which they begin
 * @param to minute of the day at which they end; before from, it is that of the next day; the same
 *     as from for the whole day
 * @param holidays what holidays are to them
 */
public record Hours(Set<DayOfWeek> days, int from, int to, Holidays holidays) {
  /** At any time. */
  public static final Hours ALWAYS = new Hours(Set.of(), 0, 0, Holidays.AS_ANY);

  private static final int DAY = 24 * 60;

  /** What holidays are to them. */
  public enum Holidays {
    AS_ANY,
    LEFT_OUT,
    ALONE
  }

  public Hours {
    days = Set.copyOf(days);
    if (from < 0 || from >= DAY || to < 0 || to > DAY) {
      throw new IllegalArgumentException("a minute of the day lies between 0 and 1439");
    }
  }

  /** Whether a moment (epoch ms) lies in them; a night belongs to the day on which it begins. */
  public boolean hold(long at, ZoneId zone, Set<LocalDate> holidaysThere) {
    ZonedDateTime local = Instant.ofEpochMilli(at).atZone(zone);
    int minute = local.getHour() * 60 + local.getMinute();
    LocalDate day = local.toLocalDate();
    if (from < to) {
      return minute >= from && minute < to && is(day, holidaysThere);
    }
    if (from == to) {
      return is(day, holidaysThere);
    }
    return minute >= from
        ? is(day, holidaysThere)
        : minute < to && is(day.minusDays(1), holidaysThere);
  }

  private boolean is(LocalDate day, Set<LocalDate> holidaysThere) {
    boolean holiday = holidaysThere.contains(day);
    return switch (holidays) {
      case ALONE -> holiday;
      case LEFT_OUT -> !holiday && isOf(day);
      case AS_ANY -> isOf(day);
    };
  }

  private boolean isOf(LocalDate day) {
    return days.isEmpty() || days.contains(day.getDayOfWeek());
  }
}
