package jamjar.server.readings;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Stepped;
import jamjar.core.chart.Stepped.Stretch;
import jamjar.core.chart.Steps;
import jamjar.server.problems.Problem;
import jamjar.store.Store;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.LongSummaryStatistics;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;

/**
 * Reads series of one instance over a window: whole days in steps where these are fine enough, the
 * rest as it was read. What is on the heap at a time is bounded.
 */
final class WindowReader {
  static final long MINUTE = 60_000;
  private static final long DAY = 1440 * MINUTE;
  private static final int COARSEST = 360;

  /** A point that is at least so many steps wide hides nothing of them. */
  private static final int STEPS_A_POINT = 2;

  /** More readings than these of one group would fill the heap, with all that is made of each. */
  private static final long MOST_READINGS = 1_500_000;

  /** So many are read at once where they are of several groups: 32 bytes each. */
  private static final long READINGS_AT_ONCE = 500_000;

  /** So are more steps. */
  private static final long MOST_STEPS = 600_000;

  /** What takes less than this part of it waits for nobody. */
  private static final int LARGE = 10;

  private static final int AT_ONCE = 2;
  private static final long PATIENCE_SECONDS = 20;

  private final Store store;
  private final Semaphore room = new Semaphore(AT_ONCE, true);

  WindowReader(Store store) {
    this.store = store;
  }

  /**
   * What is looked at.
   *
   * @param from epoch ms
   * @param to epoch ms
   * @param interval the shortest between two readings, ms
   * @param margin how far beyond the window readings may reach into it, ms
   * @param width how wide what is made of them is, ms
   * @param extremes whether the least and the greatest of steps are wanted
   */
  record Window(
      int instance,
      long from,
      long to,
      long interval,
      long margin,
      double width,
      boolean extremes) {
    /** As this one, but that means will do. */
    Window ofMeans() {
      return new Window(instance, from, to, interval, margin, width, false);
    }

    /** The widest steps that are fine enough, in minutes; 0 for none. */
    int minutes() {
      for (int minutes : new int[] {COARSEST, 15, 1}) {
        if (width >= STEPS_A_POINT * minutes * MINUTE) {
          return minutes;
        }
      }
      return 0;
    }
  }

  /** Takes one group of series after the other. */
  interface Taking {
    /**
     * @param i its place among the groups
     */
    void take(int i, Stepped stepped);
  }

  /**
   * @param groups the series, or the parts of a quotient
   * @throws Problem when the window is too long for what there is room for
   */
  void read(Window window, List<int[]> groups, Taking taking) {
    boolean small = fits(window, window.minutes(), LARGE * columns(groups), MOST_READINGS);
    try {
      if (!small && !room.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        throw Problem.busy("Other long windows are just being looked at; ask again in a moment.");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.busy("The server is stopping.");
    }
    try {
      readApart(window, groups, taking);
    } finally {
      if (!small) {
        room.release();
      }
    }
  }

  /** As above, for whom nobody waits: at most one at a time. */
  void readApart(Window window, List<int[]> groups, Taking taking) {
    int minutes = window.minutes();
    int from = 0;
    while (from < groups.size()) {
      int to = from;
      long columns = 0;
      do {
        columns += groups.get(to++).length;
      } while (to < groups.size()
          && fits(window, minutes, columns + groups.get(to).length, READINGS_AT_ONCE));
      int first = from;
      read(window, minutes, groups.subList(from, to), (i, s) -> taking.take(first + i, s));
      from = to;
    }
  }

  private static long columns(List<int[]> groups) {
    return groups.stream().mapToLong(group -> group.length).sum();
  }

  private static boolean fits(Window window, int minutes, long columns, long readings) {
    long length = window.to() - window.from();
    return minutes == 0
        ? length / window.interval() * columns <= readings
        : length / (minutes * MINUTE) * columns <= MOST_STEPS;
  }

  private void read(Window window, int minutes, List<int[]> groups, Taking taking) {
    Map<Integer, Map<Long, Steps>> days = days(window, minutes, groups);
    Map<Set<Long>, List<Integer>> alike = new LinkedHashMap<>();
    for (int i = 0; i < groups.size(); i++) {
      alike.computeIfAbsent(common(days, groups.get(i)), d -> new ArrayList<>()).add(i);
    }
    alike.forEach(
        (theirs, places) -> {
          List<long[]> stretches = stretches(window, theirs);
          long readings = readings(window, stretches);
          int from = 0;
          while (from < places.size()) {
            int to = from;
            long columns = 0;
            do {
              columns += groups.get(places.get(to++)).length;
            } while (to < places.size()
                && readings * (columns + groups.get(places.get(to)).length) <= READINGS_AT_ONCE);
            require(window, readings * columns, columns);
            List<Integer> some = places.subList(from, to);
            List<List<Stretch>> rest =
                stretched(window, stretches, some.stream().map(groups::get).toList());
            for (int k = 0; k < some.size(); k++) {
              int[] group = groups.get(some.get(k));
              taking.take(some.get(k), new Stepped(parts(days, theirs, group), rest.get(k)));
            }
            from = to;
          }
        });
  }

  /** How many there can be of one series. */
  private long readings(Window window, List<long[]> stretches) {
    long all = stretches.stream().mapToLong(s -> s[1] - s[0]).sum() / window.interval();
    if (all < MOST_READINGS / LARGE) {
      return all;
    }
    // before it was watched there are none
    long first =
        store
            .readings()
            .firstAt(window.instance(), Instant.ofEpochMilli(window.from()))
            .map(Instant::toEpochMilli)
            .orElse(Long.MAX_VALUE);
    return stretches.stream().mapToLong(s -> Math.max(0, s[1] - Math.max(first, s[0]))).sum()
        / window.interval();
  }

  private static List<List<Steps>> parts(
      Map<Integer, Map<Long, Steps>> days, Set<Long> common, int[] group) {
    return common.isEmpty()
        ? List.of()
        : IntStream.of(group)
            .mapToObj(id -> common.stream().map(days.get(id)::get).toList())
            .toList();
  }

  /** Per series its days in steps, by their begin. */
  private Map<Integer, Map<Long, Steps>> days(Window window, int minutes, List<int[]> groups) {
    Map<Integer, Map<Long, Steps>> days = new HashMap<>();
    int[] ids = groups.stream().flatMapToInt(IntStream::of).distinct().toArray();
    IntStream.of(ids).forEach(id -> days.put(id, new TreeMap<>()));
    if (minutes > 0) {
      addDays(days, ids, minutes, window, window.to());
    }
    if (minutes == COARSEST) {
      addFiner(days, window);
    }
    long read =
        store
            .readings()
            .firstSpan(window.instance())
            .map(Instant::toEpochMilli)
            .orElse(Long.MAX_VALUE);
    if (window.from() < read) {
      // before that there is nothing finer any more
      addDays(days, ids, 1, window, Math.min(window.to(), read - 1));
      addDays(days, ids, 15, window, Math.min(window.to(), read - 1));
    }
    return days;
  }

  /**
   * Days that were packed before there were the coarsest steps, or of series that came later, have
   * those of a quarter hour if any.
   */
  private void addFiner(Map<Integer, Map<Long, Steps>> days, Window window) {
    LongSummaryStatistics there =
        days.values().stream()
            .flatMap(theirs -> theirs.keySet().stream())
            .mapToLong(day -> day)
            .summaryStatistics();
    long begin = there.getCount() == 0 ? window.from() : there.getMin();
    long end = there.getCount() == 0 ? window.to() : there.getMax();
    int[] without =
        days.entrySet().stream()
            .filter(series -> series.getValue().size() <= (end - begin) / DAY)
            .mapToInt(Map.Entry::getKey)
            .toArray();
    if (without.length > 0) {
      addDays(days, without, 15, window, window.to());
    }
  }

  private void addDays(
      Map<Integer, Map<Long, Steps>> days, int[] ids, int minutes, Window window, long end) {
    Instant from = Instant.ofEpochMilli(window.from());
    Instant to = Instant.ofEpochMilli(end);
    Map<Integer, List<Steps>> found =
        window.extremes()
            ? store.readings().steps(ids, minutes, from, to)
            : store.readings().means(ids, minutes, from, to);
    found.forEach((id, theirs) -> theirs.forEach(day -> days.get(id).putIfAbsent(day.from(), day)));
  }

  /** The days that all parts have in steps. */
  private static Set<Long> common(Map<Integer, Map<Long, Steps>> days, int[] parts) {
    Set<Long> common = new TreeSet<>(days.get(parts[0]).keySet());
    for (int part : parts) {
      common.retainAll(days.get(part).keySet());
    }
    return common;
  }

  /** What lies between the days. */
  private static List<long[]> stretches(Window window, Set<Long> days) {
    List<long[]> stretches = new ArrayList<>();
    long at = window.from();
    for (long day : days) {
      if (day > at) {
        stretches.add(new long[] {at, day});
      }
      at = Math.max(at, day + DAY);
    }
    if (at < window.to() || days.isEmpty()) {
      stretches.add(new long[] {at, Math.max(at, window.to())});
    }
    return stretches;
  }

  private static void require(Window window, long readings, long columns) {
    if (readings > MOST_READINGS) {
      long days = MOST_READINGS / columns * window.interval() / DAY;
      throw Problem.field(
          "to",
          "That is too long a window for what is asked: at most "
              + Math.max(1, days)
              + " days of it that are not packed yet can be looked at at once.");
    }
  }

  /** Per group its stretches. */
  private List<List<Stretch>> stretched(Window window, List<long[]> stretches, List<int[]> groups) {
    List<List<Stretch>> all = new ArrayList<>();
    groups.forEach(group -> all.add(new ArrayList<>()));
    for (long[] stretch : stretches) {
      List<Samples> samples =
          store
              .readings()
              .samples(
                  window.instance(),
                  groups,
                  Instant.ofEpochMilli(stretch[0] - window.margin()),
                  Instant.ofEpochMilli(stretch[1] + window.margin()));
      for (int i = 0; i < groups.size(); i++) {
        all.get(i).add(new Stretch(stretch[0], stretch[1], samples.get(i)));
      }
    }
    return all;
  }
}
