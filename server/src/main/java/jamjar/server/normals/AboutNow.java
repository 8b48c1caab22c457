package jamjar.server.normals;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** What is normal for the series of an instance in the quarter-hours about a moment. */
final class AboutNow {
  private static final long QUARTER = 15 * Timeline.MINUTE;
  private static final int BEFORE = 4;

  /** So long it lasts while the database is away. */
  private static final int AHEAD = 16;

  /** So late a check is made at most, ms. */
  private static final long LATE = Timeline.MINUTE;

  /** With so much left the next are taken up. */
  private static final int LEFT = 12;

  private final ZoneId zone;
  private final Set<LocalDate> holidays;
  private final long first;
  private final int[] slots = new int[BEFORE + AHEAD];
  private final Map<Integer, Normal[]> normals = new HashMap<>();

  /** From when on it is in force; nobody waits for that but limits. */
  private long since = Long.MIN_VALUE;

  /** What was in force until then. */
  private volatile Optional<AboutNow> before = Optional.empty();

  /**
   * @param zone in which the week lies
   * @param holidays that are judged as Sundays
   * @param now epoch ms
   */
  AboutNow(ZoneId zone, Set<LocalDate> holidays, long now) {
    this.zone = zone;
    this.holidays = holidays;
    this.first = Math.floorDiv(now, QUARTER) - BEFORE;
    for (int i = 0; i < slots.length; i++) {
      slots[i] = slot((first + i) * QUARTER);
    }
  }

  ZoneId zone() {
    return zone;
  }

  /** The slot of its week that a moment, epoch ms, lies in. */
  int slot(long at) {
    return Timeline.slotOf(at, zone, holidays);
  }

  void add(int series, Baseline baseline) {
    Normal[] theirs = new Normal[slots.length];
    for (int i = 0; i < theirs.length; i++) {
      Normal normal = baseline.at(slots[i]);
      // of most series it is the same for hours
      theirs[i] = i > 0 && normal.equals(theirs[i - 1]) ? theirs[i - 1] : normal;
    }
    normals.put(series, theirs);
  }

  /** The days of the week that it is about, 0 for Monday. */
  int[] weekdays() {
    return Arrays.stream(slots).map(Timeline::weekday).distinct().toArray();
  }

  Set<Integer> series() {
    return normals.keySet();
  }

  /** What is normal at a moment, epoch ms; none where that is not about now. */
  Normal at(int series, long at) {
    long place = Math.floorDiv(at, QUARTER) - first;
    Normal[] theirs = normals.get(series);
    return theirs == null || place < 0 || place >= theirs.length
        ? Normal.NONE
        : theirs[(int) place];
  }

  /**
   * By what is judged at a moment, epoch ms: what was learned just now is in force a little later,
   * so that it is known to the minute by what was judged.
   */
  Normal inForce(int series, long at) {
    return at >= since
        ? at(series, at)
        : before.map(was -> was.inForce(series, at)).orElse(Normal.NONE);
  }

  /** What was in force before is judged by no more; a late reading may still be on its way. */
  void forgetBefore(long now) {
    if (since <= now - LATE) {
      before = Optional.empty();
    }
  }

  /** It is in force from then on. */
  AboutNow from(Instant then) {
    since = then.toEpochMilli();
    return this;
  }

  /**
   * It takes the place of another.
   *
   * @param now epoch ms
   */
  AboutNow after(Optional<AboutNow> was, long now) {
    // taken up again: in force is what was
    boolean same = since == Long.MIN_VALUE;
    before = same ? was.flatMap(one -> one.before) : was;
    if (same) {
      since = was.map(one -> one.since).orElse(Long.MIN_VALUE);
    }
    forgetBefore(now);
    return this;
  }

  /** Whether all moments of a stretch, epoch ms, are about now. */
  boolean covers(long from, long to) {
    return Math.floorDiv(from, QUARTER) >= first
        && Math.floorDiv(to, QUARTER) < first + BEFORE + AHEAD;
  }

  /** Whether it is time to take up other quarter-hours: the next, or those of a clock set back. */
  boolean ends(long now) {
    long place = Math.floorDiv(now, QUARTER) - first;
    return place < 1 || place >= BEFORE + AHEAD - LEFT;
  }
}
