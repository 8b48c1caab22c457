package jamjar.core.limit;

import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.limit.Judging.Outcome;
import jamjar.core.reading.Shown;
import jamjar.core.value.Value;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * All limits of one source of one instance, judged as its readings come: gathers the readings
 * between two edges of each limit's grid and judges their mean when the edge is past. An edge is
 * past when a later reading came, or when a time-out after it no reading had come. So what is
 * judged is a function of the readings, the times of their arrival and the spans of watching alone,
 * and the same again on a replay.
 *
 * <p>Not for use by two threads at once.
 */
public final class Docket {
  /** How long after an edge a reading before it may still arrive, ms. */
  public static final long TIMEOUT = 5_000;

  /** The series of the whole instance, for its silence. */
  public static final int INSTANCE = 0;

  private static final int MINUTE = 60_000;
  private static final long NEVER = Long.MAX_VALUE / 2;

  /** What tells one state from the others of an instance. */
  public record Key(int series, Condition condition) {}

  /**
   * One limit on one series.
   *
   * @param counter ignored for the silence of the instance
   */
  public record Entry(int series, CounterDefinition counter, InForce inForce) {
    public Key key() {
      return new Key(series, inForce.limit().condition());
    }
  }

  /**
   * What judging changed.
   *
   * @param rule number of the nearest rule; 0 where none is in force any more
   * @param before the state before
   * @param after the state after; never idle both before and after
   */
  public record Change(
      Key key, int rule, LimitState before, LimitState after, List<Transition> transitions) {

    static Change of(
        Entry entry, LimitState before, LimitState after, List<Transition> transitions) {
      return new Change(
          entry.key(), entry.inForce().rule().id(), before, after, List.copyOf(transitions));
    }
  }

  /** What is normal for a series at a moment. */
  @FunctionalInterface
  public interface Normals {
    Normal at(int series, long at);
  }

  private final Map<GridKey, Grid> grids = new LinkedHashMap<>();
  private final Map<Integer, List<Tracked>> bySeries = new LinkedHashMap<>();
  private final Map<Key, Tracked> byKey = new LinkedHashMap<>();
  private final Normals normals;
  private final long watchedFrom;
  private long seen;

  private record GridKey(long step, boolean silence, boolean nightly) {
    static GridKey of(Limit limit) {
      Condition condition = limit.condition();
      return new GridKey(
          limit.stepMillis(), condition.ofInstance(), condition == Condition.REACHES);
    }
  }

  /** All limits that are judged on the same edges. */
  private static final class Grid {
    private final long step;
    private final boolean silence;
    private final List<Tracked> tracked = new ArrayList<>();
    private long next;
    private int readings;
    private long at;
    private long arrived;
    private int empty;

    /** Whether something there answered when it was asked last, but did not let itself be read. */
    private boolean refused;

    Grid(GridKey key, long next) {
      this.step = key.step();
      this.silence = key.silence();
      this.next = next;
    }

    /** What was told of the instance stays so until a reading comes. */
    void goesOn(Entry entry) {
      empty = Threshold.MOST;
      refused = entry.inForce().limit().condition() == Condition.UNREACHABLE;
    }
  }

  private static final class Tracked {
    private final Entry entry;
    private final Grid grid;
    private LimitState state;
    private double above;
    private double below;
    private int values;
    private final double[] recentAbove;
    private final double[] recentBelow;
    private int judged;

    /** When it happened last, epoch ms; where it never did, since when it would have been seen. */
    private long happened;

    Tracked(Entry entry, Grid grid, LimitState state, long happened) {
      this.happened = happened;
      this.entry = entry;
      this.grid = grid;
      this.state = state;
      int steps = (int) Math.max(1, MINUTE / grid.step);
      this.recentAbove = new double[steps];
      this.recentBelow = new double[steps];
    }

    /** The same under an edited limit that is judged on the same edges. */
    Tracked(Entry entry, Tracked before, LimitState state) {
      this.entry = entry;
      this.grid = before.grid;
      this.state = state;
      this.above = before.above;
      this.below = before.below;
      this.values = before.values;
      this.recentAbove = before.recentAbove;
      this.recentBelow = before.recentBelow;
      this.judged = before.judged;
      this.happened = before.happened;
    }

    Condition condition() {
      return entry.inForce().limit().condition();
    }

    void judged() {
      int place = judged++ % recentAbove.length;
      recentAbove[place] = above;
      recentBelow[place] = below;
      above = 0;
      below = 0;
      values = 0;
    }

    void forget() {
      above = 0;
      below = 0;
      values = 0;
      Arrays.fill(recentAbove, 0);
      Arrays.fill(recentBelow, 0);
    }

    double lastMinute() {
      double most = Arrays.stream(recentBelow).sum();
      return most == 0
          ? Double.NaN
          : Value.shown(entry.counter(), Arrays.stream(recentAbove).sum(), most);
    }
  }

  /**
   * @param entries at most one per series and condition
   * @param states states to go on from; what is not there is calm
   * @param from epoch ms: edges before it are judged already
   * @param watchedFrom epoch ms: a silence before it is not the instance's
   */
  public Docket(
      List<Entry> entries,
      Map<Key, LimitState> states,
      long from,
      long watchedFrom,
      Normals normals) {
    this.normals = normals;
    this.watchedFrom = watchedFrom;
    this.seen = from;
    for (Entry entry : entries) {
      LimitState state = states.get(entry.key());
      enter(entry, state == null ? LimitState.calm(0) : state);
    }
  }

  /** Judges a series from now on, going on from a state. */
  public void enter(Entry entry, LimitState state) {
    Tracked before = byKey.get(entry.key());
    GridKey gridKey = GridKey.of(entry.inForce().limit());
    Tracked tracked;
    if (before != null && GridKey.of(before.entry.inForce().limit()).equals(gridKey)) {
      tracked = new Tracked(entry, before, state);
      before.grid.tracked.set(before.grid.tracked.indexOf(before), tracked);
      List<Tracked> same = bySeries.get(entry.series());
      same.set(same.indexOf(before), tracked);
    } else {
      leave(entry.key());
      // a whole interval must have been watched before its silence counts
      long first = gridKey.silence() ? Math.max(seen, watchedFrom + gridKey.step()) : seen;
      Grid grid =
          grids.computeIfAbsent(
              gridKey,
              // nothing but a night's forecast tells of what will be reached
              key -> new Grid(key, key.nightly() ? NEVER : notBefore(first, key.step())));
      tracked = new Tracked(entry, grid, state, seen);
      grid.tracked.add(tracked);
      bySeries.computeIfAbsent(entry.series(), s -> new ArrayList<>(1)).add(tracked);
    }
    byKey.put(entry.key(), tracked);
    if (gridKey.silence() && state.open()) {
      tracked.grid.goesOn(entry);
    }
  }

  /** Judges a series no more. */
  public void leave(Key key) {
    Tracked tracked = byKey.remove(key);
    if (tracked == null) {
      return;
    }
    tracked.grid.tracked.remove(tracked);
    if (tracked.grid.tracked.isEmpty()) {
      grids.values().remove(tracked.grid);
    }
    List<Tracked> same = bySeries.get(key.series());
    same.remove(tracked);
    if (same.isEmpty()) {
      bySeries.remove(key.series());
    }
  }

  /**
   * Nobody was watched for a time: what lies before the new span is judged by nobody, and judging
   * starts afresh with it. Where the gap is one for the limit's own interval, what was counted
   * before it counts no more.
   *
   * @param from start of the new span, epoch ms; may lie before what was judged already, where the
   *     clock was set back
   * @param gap how long nobody was watched, ms
   */
  public List<Change> watchedFrom(long from, long gap) {
    List<Change> changes = new ArrayList<>();
    seen = from;
    for (Grid grid : grids.values()) {
      if (grid.next != NEVER) {
        grid.next = after(grid.silence ? from + grid.step : from, grid.step);
      }
      grid.readings = 0;
      grid.empty = 0;
      for (Tracked tracked : grid.tracked) {
        LimitState before = tracked.state;
        List<Transition> told = new ArrayList<>(0);
        boolean broken = !Value.covers(gap, grid.step);
        LimitState counted = broken ? Judge.edited(before, told::add) : before;
        tracked.state = counted.judgedUpTo(from);
        tracked.forget();
        if (grid.silence && before.open()) {
          grid.goesOn(tracked.entry);
        }
        if (!counted.standing().equals(before.standing())) {
          changes.add(Change.of(tracked.entry, before, tracked.state, told));
        }
      }
    }
    return changes;
  }

  /**
   * A reading came.
   *
   * @param at when it was taken, epoch ms
   * @param arrived epoch ms
   * @param ids numbers of the series, in the order of shown
   */
  public List<Change> read(long at, long arrived, int[] ids, List<Shown> shown) {
    List<Change> changes = new ArrayList<>();
    for (Grid grid : grids.values()) {
      while (grid.next < at || grid.next + TIMEOUT <= arrived) {
        judge(grid, changes);
      }
    }
    gather(at, arrived, ids, shown);
    return changes;
  }

  /** Takes up a reading that was stored before and belongs to edges not judged yet. */
  public void gather(long at, long arrived, int[] ids, List<Shown> shown) {
    seen = Math.max(seen, at);
    for (Grid grid : grids.values()) {
      // one that comes for an edge judged already is too late
      if (at > grid.next - grid.step) {
        grid.readings++;
        grid.refused = false;
        grid.at = at;
        grid.arrived = arrived;
      }
    }
    for (int i = 0; i < ids.length; i++) {
      List<Tracked> watched = bySeries.get(ids[i]);
      if (watched != null) {
        for (Tracked tracked : watched) {
          if (tracked.condition() == Condition.OVERDUE && shown.get(i).above() > 0) {
            tracked.happened = Math.max(tracked.happened, at);
          }
          if (at > tracked.grid.next - tracked.grid.step) {
            add(tracked, shown.get(i));
          }
        }
      }
    }
  }

  private static void add(Tracked tracked, Shown shown) {
    if (Double.isFinite(shown.above()) && Double.isFinite(shown.below())) {
      tracked.above += shown.above();
      tracked.below += shown.below();
      tracked.values++;
    }
  }

  /**
   * The instance could not be read when it was asked: no reading can come any more for the edges
   * before.
   *
   * @param at when it was asked, epoch ms
   * @param refused whether something there answered
   */
  public List<Change> unread(long at, boolean refused) {
    List<Change> changes = new ArrayList<>();
    for (Grid grid : grids.values()) {
      if (grid.silence) {
        while (grid.next < at) {
          judge(grid, changes);
        }
        grid.refused = refused;
      }
    }
    return changes;
  }

  /** Time passed: judges the edges for which no reading can come any more. */
  public List<Change> time(long now) {
    return time(now, now);
  }

  /**
   * As above.
   *
   * @param askedUntil until when the instance was asked, epoch ms: of a silence after that nothing
   *     is known
   */
  public List<Change> time(long now, long askedUntil) {
    List<Change> changes = new ArrayList<>();
    for (Grid grid : grids.values()) {
      long until = grid.silence ? Math.min(now, askedUntil + TIMEOUT) : now;
      while (grid.next + TIMEOUT <= until) {
        judge(grid, changes);
      }
    }
    return changes;
  }

  /**
   * Nobody asked the instance for a time, as Jam Jar itself was late: a silence that lies within it
   * is not the instance's.
   *
   * @param from epoch ms
   * @param to epoch ms
   */
  public List<Change> unasked(long from, long to) {
    List<Change> changes = new ArrayList<>();
    for (Grid grid : grids.values()) {
      if (grid.silence) {
        // it was asked for a part of these
        while (grid.next - grid.step < from && grid.next <= to) {
          judge(grid, changes);
        }
        if (grid.next <= to) {
          grid.next = after(to, grid.step);
          grid.readings = 0;
        }
      }
    }
    return changes;
  }

  /**
   * A series is known to have happened, as something that must happen each day.
   *
   * @param at when it did last, epoch ms
   */
  public void happened(int series, long at) {
    Tracked tracked = byKey.get(new Key(series, Condition.OVERDUE));
    if (tracked != null) {
      tracked.happened = at;
    }
  }

  /**
   * Goes on from a state of before, where no alert of the limit is open.
   *
   * @param passed how it came to be there
   * @return empty where one is open already
   */
  public Optional<Change> goOn(Entry entry, LimitState state, List<Transition> passed) {
    Tracked tracked = byKey.get(entry.key());
    if (tracked == null || tracked.state.open()) {
      return Optional.empty();
    }
    LimitState before = tracked.state;
    tracked.state = state;
    return Optional.of(Change.of(entry, before, state, passed));
  }

  /**
   * A night's forecast: judges what will be reached.
   *
   * @param at when it was made, epoch ms
   * @param days by number of the series in how many days it will be; infinite for never, NaN where
   *     nothing can be said
   */
  public List<Change> forecast(long at, Map<Integer, Double> days) {
    List<Change> changes = new ArrayList<>();
    days.forEach(
        (series, until) -> {
          Tracked tracked = byKey.get(new Key(series, Condition.REACHES));
          if (tracked != null) {
            Judging judging =
                Double.isNaN(until)
                    ? Judging.tooFew(at, at, at)
                    : new Judging(at, at, at, Outcome.VALUE, until, Normal.NONE, Double.NaN, 1);
            judge(tracked, judging, changes);
          }
        });
    return changes;
  }

  /** The state of every limit that is not idle. */
  public Map<Key, LimitState> states() {
    Map<Key, LimitState> states = new LinkedHashMap<>();
    byKey.forEach(
        (key, tracked) -> {
          if (!tracked.state.idle()) {
            states.put(key, tracked.state);
          }
        });
    return states;
  }

  /** What is judged, each with its limit. */
  public List<Entry> entries() {
    return byKey.values().stream().map(tracked -> tracked.entry).toList();
  }

  /** The value over the last minute as judged; NaN when there was nothing, or too few. */
  public double lastMinute(int series, Condition condition) {
    Tracked tracked = byKey.get(new Key(series, condition));
    return tracked == null ? Double.NaN : tracked.lastMinute();
  }

  private void judge(Grid grid, List<Change> changes) {
    long edge = grid.next;
    seen = Math.max(seen, edge);
    grid.empty = grid.readings > 0 ? 0 : Math.min(Threshold.MOST, grid.empty + 1);
    // one for all that stay calm
    LimitState calm = LimitState.calm(edge);
    for (Tracked tracked : grid.tracked) {
      double value = value(grid, tracked, edge);
      if (staysCalm(tracked, edge, value)) {
        tracked.state = calm;
      } else {
        judge(tracked, judging(grid, tracked, edge, value), changes);
      }
      tracked.judged();
    }
    grid.readings = 0;
    grid.next = edge + grid.step;
  }

  private static void judge(Tracked tracked, Judging judging, List<Change> changes) {
    LimitState before = tracked.state;
    List<Transition> told = new ArrayList<>(0);
    tracked.state = Judge.judge(tracked.entry.inForce().limit(), before, judging, told::add);
    if (tracked.state != before && !(tracked.state.idle() && before.idle())) {
      changes.add(Change.of(tracked.entry, before, tracked.state, told));
    }
  }

  /** The mean of what was gathered; NaN when there was nothing, or too few. */
  private static double value(Grid grid, Tracked tracked, long edge) {
    if (tracked.condition() == Condition.OVERDUE) {
      return tracked.entry.inForce().limit().due().late(tracked.happened, edge);
    }
    if (grid.silence) {
      boolean ofRefusal = tracked.entry.inForce().limit().condition() == Condition.UNREACHABLE;
      return ofRefusal == grid.refused ? grid.empty : 0;
    }
    return tracked.values == 0
        ? Double.NaN
        : Value.shown(tracked.entry.counter(), tracked.above, tracked.below);
  }

  /** What is normal is looked up only for what does not simply stay calm. */
  private static boolean staysCalm(Tracked tracked, long edge, double value) {
    Limit limit = tracked.entry.inForce().limit();
    return limit.condition() != Condition.OUTSIDE
        && edge > tracked.state.judged()
        && !Double.isNaN(value)
        && Judge.staysCalm(limit, tracked.state, limit.badness(value));
  }

  private Judging judging(Grid grid, Tracked tracked, long edge, double value) {
    Condition condition = tracked.entry.inForce().limit().condition();
    boolean any = grid.readings > 0;
    long at = any ? grid.at : edge;
    long arrived = any ? grid.arrived : edge + TIMEOUT;
    if (condition == Condition.OVERDUE) {
      // late by the clock, not by a reading
      return new Judging(edge, edge, arrived, Outcome.VALUE, value, Normal.NONE, Double.NaN, 1);
    }
    if (condition.ofInstance()) {
      return new Judging(edge, at, arrived, Outcome.VALUE, value, Normal.NONE, Double.NaN, 1);
    }
    if (tracked.values == 0) {
      return new Judging(
          edge, at, arrived, Outcome.MISSING, Double.NaN, Normal.NONE, Double.NaN, 1);
    }
    if (Double.isNaN(value)) {
      return Judging.tooFew(edge, at, arrived);
    }
    CounterDefinition counter = tracked.entry.counter();
    Normal normal = normals.at(tracked.entry.series(), at);
    double distance = normal.distance(value, counter.matters(), counter.resolution());
    boolean unknown = condition == Condition.OUTSIDE && Double.isNaN(distance);
    return unknown
        ? Judging.tooFew(edge, at, arrived)
        : new Judging(edge, at, arrived, Outcome.VALUE, value, normal, distance, 1);
  }

  /** The first edge that is not before a time. */
  private static long notBefore(long at, long step) {
    return -Math.floorDiv(-at, step) * step;
  }

  /** The first edge after a time. */
  private static long after(long at, long step) {
    return (Math.floorDiv(at, step) + 1) * step;
  }
}
