package jamjar.core.baseline;

import jamjar.core.counter.CounterDefinition;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * What is normal for one series through the week: learned from 1-minute steps into the local
 * quarter-hours of the week, with the steps of the two slots beside at half weight. Where a slot
 * has fewer than 3 weeks the next wider pool serves: its quarter-hour on working days or weekends,
 * of any day, everything.
 */
public final class Baseline {
  private static final double[] WANTED = {0.05, 0.25, 0.5, 0.75, 0.95};
  private static final int LEAST_WEEKS = 3;
  private static final int LEAST_DAYS = 3;
  private static final int LEAST_STEPS = 60;
  private static final int FIVE_WEEKS = 5 * 15;
  private static final double[] NOTHING = {};
  private static final int WORKING_SLOTS = 5 * Timeline.QUARTERS;

  /** Of what nothing is known. */
  public static final Baseline NONE = new Baseline(new Normal[] {Normal.NONE});

  /** One for each slot, or a single one that serves them all, as in the first days. */
  private final Normal[] slots;

  private Baseline(Normal[] slots) {
    this.slots = slots;
  }

  /** Is told of a week that teaches nothing of a slot, and how many steps that are. */
  @FunctionalInterface
  public interface LeavingOut {
    /**
     * @param week its Monday, in days since 1970-01-01
     */
    void badWeek(int slot, int week, int steps);
  }

  /**
   * @param values the mean of each minute of the timeline; NaN for a gap, a thin step or too few
   * @param matters the smallest difference that matters, in the unit as shown
   */
  public static Baseline learn(Timeline timeline, double[] values, double matters) {
    return learn(timeline, values, matters, (slot, week, steps) -> {});
  }

  /** As above. */
  public static Baseline learn(
      Timeline timeline, double[] values, double matters, LeavingOut told) {
    Pool[] own = pools(timeline, values, matters, told);
    Wider wider = new Wider(own);
    Normal[] slots = new Normal[Timeline.SLOTS];
    for (int s = 0; s < slots.length; s++) {
      slots[s] = own[s].weeks.size() < LEAST_WEEKS ? wider.of(s) : ofSlot(own, s);
    }
    return of(slots);
  }

  /**
   * What is normal of a counter. Of what is good at zero only that is zero, wherever anything was
   * learned: what comes back each night would be normal else.
   */
  public static Baseline learn(Timeline timeline, double[] values, CounterDefinition counter) {
    Baseline learned = learn(timeline, values, counter.matters());
    return counter.trouble() ? of(zero(learned.slots)) : learned;
  }

  private static Normal[] zero(Normal[] slots) {
    return Arrays.stream(slots).map(Normal::zero).toArray(Normal[]::new);
  }

  /** One day of the week of a counter: what {@link #learn} would find for it. */
  public static Optional<Normal[]> learnDay(
      Timeline.Weekday day, double[] values, CounterDefinition counter) {
    Optional<Normal[]> learned = learnDay(day, values, counter.matters());
    return counter.trouble() ? learned.map(Baseline::zero) : learned;
  }

  /**
   * Learns one day of the week anew: what {@link #learn} would find for it.
   *
   * @param day the minutes of that day of the week, see {@link Timeline#of}
   * @param values the mean of each of them
   * @return its 96 slots; empty where one of them has too few weeks, so that other days would serve
   */
  public static Optional<Normal[]> learnDay(Timeline.Weekday day, double[] values, double matters) {
    Pool[] own = pools(day.timeline(), values, matters, (slot, week, steps) -> {});
    Normal[] slots = new Normal[Timeline.QUARTERS];
    for (int i = 0; i < slots.length; i++) {
      int slot = day.number() * Timeline.QUARTERS + i;
      if (own[slot].weeks.size() < LEAST_WEEKS) {
        return Optional.empty();
      }
      slots[i] = ofSlot(own, slot);
    }
    return Optional.of(slots);
  }

  private static Pool[] pools(Timeline timeline, double[] values, double matters, LeavingOut told) {
    Pool[] own = new Pool[Timeline.SLOTS];
    Arrays.setAll(own, i -> new Pool());
    int end;
    for (int i = 0; i < timeline.minutes(); i = end) {
      int slot = timeline.slot(i);
      int day = timeline.day(i);
      end = i + 1;
      while (end < timeline.minutes() && timeline.slot(end) == slot && timeline.day(end) == day) {
        end++;
      }
      if (slot >= 0) {
        own[slot].add(values, i, end, day, timeline.week(i));
      }
    }
    for (int s = 0; s < own.length; s++) {
      own[s].leaveOut(s, matters, told);
    }
    return own;
  }

  /**
   * One that was learned before.
   *
   * @param slots the normal in use for each of them
   */
  public static Baseline of(Normal[] slots) {
    boolean same = Arrays.stream(slots).allMatch(slot -> slot == slots[0]);
    return new Baseline(same ? new Normal[] {slots[0]} : slots.clone());
  }

  /**
   * The normal in use for a slot: of the first rung that has enough.
   *
   * @param slot 0 … 671, see {@link Timeline#slotOf}
   */
  public Normal at(int slot) {
    return slots[slots.length == 1 ? 0 : slot];
  }

  private static Normal ofSlot(Pool[] own, int s) {
    return normal(
        Basis.SLOT,
        own[s].size,
        new double[][] {
          own[s].values(),
          own[(s + Timeline.SLOTS - 1) % Timeline.SLOTS].values(),
          own[(s + 1) % Timeline.SLOTS].values()
        },
        new double[] {1, 0.5, 0.5});
  }

  /** What serves where a slot has too few weeks: made when it is needed first. */
  private static final class Wider {
    private final Pool[] own;
    private final Normal[][] days = new Normal[2][Timeline.QUARTERS];
    private final Normal[] anyDay = new Normal[Timeline.QUARTERS];
    private Normal all;

    Wider(Pool[] own) {
      this.own = own;
    }

    Normal of(int slot) {
      int quarter = slot % Timeline.QUARTERS;
      int part = slot < WORKING_SLOTS ? 0 : 1;
      if (days[part][quarter] == null) {
        days[part][quarter] =
            ofDays(
                Basis.DAYS,
                part == 0
                    ? pools(quarter, 0, WORKING_SLOTS)
                    : pools(quarter, WORKING_SLOTS, Timeline.SLOTS));
      }
      if (days[part][quarter].known()) {
        return days[part][quarter];
      }
      if (anyDay[quarter] == null) {
        anyDay[quarter] = ofDays(Basis.ANY_DAY, pools(quarter, 0, Timeline.SLOTS));
      }
      return anyDay[quarter].known() ? anyDay[quarter] : all();
    }

    private List<Pool> pools(int quarter, int from, int to) {
      List<Pool> pools = new ArrayList<>();
      for (int s = from + quarter; s < to; s += Timeline.QUARTERS) {
        pools.add(own[s]);
      }
      return pools;
    }

    private Normal all() {
      if (all == null) {
        double[] everything = together(own);
        all =
            everything.length < LEAST_STEPS
                ? Normal.NONE
                : normal(
                    Basis.ALL, everything.length, new double[][] {everything}, new double[] {1});
      }
      return all;
    }
  }

  private static Normal ofDays(Basis basis, List<Pool> pools) {
    Map<Integer, Integer> days = new HashMap<>();
    pools.forEach(
        pool -> pool.weeks.forEach(week -> days.merge(week.number, week.days, (a, b) -> a | b)));
    if (days.values().stream().mapToInt(Integer::bitCount).sum() < LEAST_DAYS) {
      return Normal.NONE;
    }
    double[] values = together(pools.toArray(Pool[]::new));
    return normal(basis, values.length, new double[][] {values}, new double[] {1});
  }

  private static Normal normal(Basis basis, int steps, double[][] groups, double[] weights) {
    double[] q = Quantiles.ofSorted(groups, weights, WANTED);
    return new Normal(q[0], q[1], q[2], q[3], q[4], steps, basis);
  }

  private static double[] together(Pool... pools) {
    int size = 0;
    for (Pool pool : pools) {
      size += pool.size;
    }
    double[] all = new double[size];
    int at = 0;
    for (Pool pool : pools) {
      System.arraycopy(pool.values, 0, all, at, pool.size);
      at += pool.size;
    }
    Arrays.sort(all);
    return all;
  }

  /** The steps of one slot, week by week. */
  private static final class Pool {
    private List<Week> weeks = new ArrayList<>(6);
    private double[] values = NOTHING;
    private int size;

    private static final class Week {
      private final int number;
      private final int from;
      private int to;

      /**
       * Its days of which there are steps, one bit each: more than one where there are holidays.
       */
      private int days;

      Week(int number, int from) {
        this.number = number;
        this.from = from;
        this.to = from;
      }
    }

    /** Takes the steps of a stretch of one day, without those of which there is none. */
    void add(double[] steps, int from, int to, int day, int week) {
      if (size + to - from > values.length) {
        values = Arrays.copyOf(values, Math.max(FIVE_WEEKS, 2 * size + to - from));
      }
      int before = size;
      for (int i = from; i < to; i++) {
        if (!Double.isNaN(steps[i])) {
          values[size++] = steps[i];
        }
      }
      if (size == before) {
        return;
      }
      if (weeks.isEmpty() || weeks.get(weeks.size() - 1).number != week) {
        weeks.add(new Week(week, before));
      }
      Week last = weeks.get(weeks.size() - 1);
      last.to = size;
      last.days |= 1 << day - Timeline.monday(week);
    }

    /**
     * Takes bad weeks away, and sorts what is left once, as each serves three slots. From then on
     * it is no more known which value is of which week.
     */
    void leaveOut(int slot, double matters, LeavingOut told) {
      double[] medians = new double[weeks.size()];
      for (int i = 0; i < medians.length; i++) {
        Week week = weeks.get(i);
        medians[i] = BadWeeks.median(values, week.from, week.to);
      }
      boolean[] bad = BadWeeks.of(medians, matters);
      List<Week> left = new ArrayList<>(weeks.size());
      Deque<double[]> sorted = new ArrayDeque<>(weeks.size());
      for (int i = 0; i < bad.length; i++) {
        Week week = weeks.get(i);
        if (bad[i]) {
          told.badWeek(slot, Timeline.monday(week.number), week.to - week.from);
        } else {
          // its median has sorted it
          sorted.add(Arrays.copyOfRange(values, week.from, week.to));
          left.add(week);
        }
      }
      while (sorted.size() > 1) {
        sorted.add(merged(sorted.remove(), sorted.remove()));
      }
      values = sorted.isEmpty() ? NOTHING : sorted.remove();
      size = values.length;
      weeks = left;
    }

    private static double[] merged(double[] a, double[] b) {
      double[] all = new double[a.length + b.length];
      int i = 0;
      int k = 0;
      for (int n = 0; n < all.length; n++) {
        all[n] = k == b.length || i < a.length && a[i] <= b[k] ? a[i++] : b[k++];
      }
      return all;
    }

    /** Sorted; not to be changed. */
    double[] values() {
      return values;
    }
  }
}
