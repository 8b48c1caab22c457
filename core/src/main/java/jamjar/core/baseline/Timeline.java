package jamjar.core.baseline;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;

/**
 * Minutes in a row and where each lies in its local week: shared by all series of an instance. A
 * slot is local time: of an hour that is repeated both count, of one that is skipped none is there.
 */
public final class Timeline {
  public static final int SLOTS = 672;
  public static final int QUARTERS = 96;
  public static final long MINUTE = 60_000;
  static final int LEFT_OUT = -1;

  private final long from;
  private final int[] slot;
  private final int[] day;

  /** Which span leaves a minute out, from 1; 0 for none. */
  private final int[] left;

  private final List<LeftOut> leftOut;

  /**
   * A span that teaches nothing: an incident, maintenance, or all before a new normal.
   *
   * @param from epoch ms, inclusive
   * @param to epoch ms, exclusive
   * @param why in words
   */
  public record LeftOut(long from, long to, String why) {}

  /**
   * @param from start of the first minute, epoch ms, a whole minute
   * @param minutes how many minutes
   * @param zone the instance's zone
   * @param holidays local dates that count as Sundays
   */
  public Timeline(
      long from, int minutes, ZoneId zone, Set<LocalDate> holidays, List<LeftOut> leftOut) {
    this.from = from;
    this.slot = new int[minutes];
    this.day = new int[minutes];
    this.left = new int[minutes];
    this.leftOut = List.copyOf(leftOut);
    // within a quarter of an hour the place is the same: every zone's offset is a multiple of it
    long quarter = Long.MIN_VALUE;
    int place = 0;
    int date = 0;
    for (int i = 0; i < minutes; i++) {
      long at = from + i * MINUTE;
      long nowQuarter = Math.floorDiv(at, 15 * MINUTE);
      if (nowQuarter != quarter) {
        quarter = nowQuarter;
        ZonedDateTime local = Instant.ofEpochMilli(at).atZone(zone);
        place = slotOf(local, holidays);
        date = (int) local.toLocalDate().toEpochDay();
      }
      slot[i] = place;
      day[i] = date;
    }
    for (int n = 0; n < this.leftOut.size(); n++) {
      LeftOut span = this.leftOut.get(n);
      long first = Math.max(0, Math.floorDiv(span.from() - from, MINUTE));
      long last = Math.min(minutes, -Math.floorDiv(-(span.to() - from), MINUTE));
      for (long i = first; i < last; i++) {
        left[(int) i] = n + 1;
      }
    }
  }

  private Timeline(long from, int[] slot, int[] day, int[] left, List<LeftOut> leftOut) {
    this.from = from;
    this.slot = slot;
    this.day = day;
    this.left = left;
    this.leftOut = leftOut;
  }

  /** Minutes in a row of a timeline, by the place of the first. */
  public record Stretch(int first, int count) {}

  /**
   * All that one day of the week is learned from.
   *
   * @param number 0 for Monday
   * @param stretches where its minutes lie in the timeline that it is of
   * @param timeline these minutes alone, one stretch after the other
   */
  public record Weekday(int number, List<Stretch> stretches, Timeline timeline) {}

  /** The minutes of one day of the week, and of the slots beside it. */
  public Weekday of(int weekday) {
    List<Stretch> stretches = new ArrayList<>();
    int[] places = new int[slot.length];
    int n = 0;
    for (int i = 0; i < slot.length; i++) {
      // from the last slot of the day before to the first one of the day after
      if (Math.floorMod(slot[i] - weekday * QUARTERS + 1, SLOTS) < QUARTERS + 2) {
        Stretch last = stretches.isEmpty() ? null : stretches.get(stretches.size() - 1);
        if (last != null && last.first() + last.count() == i) {
          stretches.set(stretches.size() - 1, new Stretch(last.first(), last.count() + 1));
        } else {
          stretches.add(new Stretch(i, 1));
        }
        places[n++] = i;
      }
    }
    int[] mine = Arrays.copyOf(places, n);
    return new Weekday(
        weekday,
        stretches,
        new Timeline(from, of(slot, mine), of(day, mine), of(left, mine), leftOut));
  }

  private static int[] of(int[] all, int[] places) {
    return Arrays.stream(places).map(i -> all[i]).toArray();
  }

  /** The day of the week that a slot is of, 0 for Monday. */
  public static int weekday(int slot) {
    return slot / QUARTERS;
  }

  /** The slot of a moment, 0 (Monday 00:00) … 671. */
  public static int slotOf(long at, ZoneId zone, Set<LocalDate> holidays) {
    return slotOf(Instant.ofEpochMilli(at).atZone(zone), holidays);
  }

  private static int slotOf(ZonedDateTime local, Set<LocalDate> holidays) {
    DayOfWeek weekday =
        holidays.contains(local.toLocalDate()) ? DayOfWeek.SUNDAY : local.getDayOfWeek();
    return (weekday.getValue() - 1) * QUARTERS + local.getHour() * 4 + local.getMinute() / 15;
  }

  public long from() {
    return from;
  }

  public int minutes() {
    return slot.length;
  }

  /** Slot of a minute by its place, or {@link #LEFT_OUT}. */
  int slot(int i) {
    return left[i] > 0 ? LEFT_OUT : slot[i];
  }

  /** Slot of a minute by its place, be it left out or not. */
  int place(int i) {
    return slot[i];
  }

  /** Why a minute is left out; empty where it is not. */
  String why(int i) {
    return left[i] == 0 ? "" : leftOut.get(left[i] - 1).why();
  }

  /** Local date of a minute, in days since 1970-01-01. */
  int day(int i) {
    return day[i];
  }

  /** The week of a minute, counted from Mondays. */
  int week(int i) {
    // 1970-01-01 was a Thursday
    return Math.floorDiv(day[i] + 3, 7);
  }

  /** The Monday of a week that is counted so, in days since 1970-01-01. */
  static int monday(int week) {
    return 7 * week - 3;
  }
}
