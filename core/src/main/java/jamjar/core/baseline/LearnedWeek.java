package jamjar.core.baseline;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * What of one week a baseline was learned from.
 *
 * @param monday its first day, in days since 1970-01-01
 * @param minutes how many of it lie in the time that was learned from
 * @param counted how many of them taught something
 * @param leftOut what did not though there was a value, and why
 */
public record LearnedWeek(int monday, int minutes, int counted, List<LeftOut> leftOut) {

  /**
   * Quarter-hours in a row that were left out.
   *
   * @param first slot of the first
   * @param last slot of the last
   * @param minutes with a value in them
   */
  public record LeftOut(String why, int first, int last, int minutes) {}

  /** Why a week that nobody marked teaches nothing of a quarter-hour. */
  public static final String FAR = "far from the other weeks";

  /**
   * The weeks of a timeline, in order.
   *
   * @param values what was learned from, as for {@link Baseline#learn}
   */
  public static List<LearnedWeek> of(Timeline timeline, double[] values, double matters) {
    Map<Integer, Told> weeks = new TreeMap<>();
    for (int i = 0; i < timeline.minutes(); i++) {
      Told week = weeks.computeIfAbsent(Timeline.monday(timeline.week(i)), monday -> new Told());
      week.minutes++;
      if (!Double.isNaN(values[i])) {
        String why = timeline.why(i);
        if (why.isEmpty()) {
          week.counted++;
        } else {
          week.leaves(why, timeline.place(i), 1);
        }
      }
    }
    Baseline.learn(
        timeline,
        values,
        matters,
        (slot, monday, steps) -> {
          Told week = weeks.get(monday);
          week.counted -= steps;
          week.leaves(FAR, slot, steps);
        });
    List<LearnedWeek> told = new ArrayList<>();
    weeks.forEach(
        (monday, week) ->
            told.add(new LearnedWeek(monday, week.minutes, week.counted, week.leftOut())));
    return told;
  }

  private static final class Told {
    private int minutes;
    private int counted;
    private final Map<String, int[]> left = new TreeMap<>();

    void leaves(String why, int slot, int steps) {
      left.computeIfAbsent(why, w -> new int[Timeline.SLOTS])[slot] += steps;
    }

    List<LeftOut> leftOut() {
      List<LeftOut> all = new ArrayList<>();
      left.forEach(
          (why, slots) -> {
            int first = -1;
            int sum = 0;
            for (int slot = 0; slot <= slots.length; slot++) {
              boolean here = slot < slots.length && slots[slot] > 0;
              if (here) {
                first = first < 0 ? slot : first;
                sum += slots[slot];
              } else if (first >= 0) {
                all.add(new LeftOut(why, first, slot - 1, sum));
                first = -1;
                sum = 0;
              }
            }
          });
      all.sort(Comparator.comparingInt(LeftOut::first).thenComparing(LeftOut::why));
      return all;
    }
  }
}
