package jamjar.core.baseline;

import java.util.Comparator;
import java.util.List;

/**
 * What was normal for one series through time: its baseline of now, and the days of the week that
 * were in force before those of now.
 */
public final class BaselineHistory {
  private final Baseline now;
  private final long[] since;
  private final List<Before> before;

  /**
   * A day of the week that another took the place of.
   *
   * @param weekday 0 for Monday
   * @param since from when on it was in force, epoch ms
   * @param until until when, excluded
   * @param slots its 96
   */
  public record Before(int weekday, long since, long until, Normal[] slots) {}

  /**
   * @param since from when on each day of the week of now is in force, epoch ms
   * @param before in any order
   */
  public BaselineHistory(Baseline now, long[] since, List<Before> before) {
    this.now = now;
    this.since = since.clone();
    this.before = before.stream().sorted(Comparator.comparingLong(Before::until)).toList();
  }

  public Baseline now() {
    return now;
  }

  /** How many days of baselines are held. */
  public int days() {
    return since.length + before.size();
  }

  /**
   * What was in force at a moment; before anything was, the oldest that is kept.
   *
   * @param at epoch ms
   * @param slot in which it lies
   */
  public Normal at(long at, int slot) {
    int weekday = Timeline.weekday(slot);
    for (Before one : before) {
      if (one.weekday == weekday && at < one.until) {
        return one.slots[slot % Timeline.QUARTERS];
      }
    }
    return now.at(slot);
  }

  /**
   * From when on that was in force which is told of a moment: later than the moment where it was
   * not in force yet.
   */
  public long since(long at, int slot) {
    int weekday = Timeline.weekday(slot);
    for (Before one : before) {
      if (one.weekday == weekday && at < one.until) {
        return one.since;
      }
    }
    return since[weekday];
  }
}
