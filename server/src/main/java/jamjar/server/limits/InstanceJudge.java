package jamjar.server.limits;

import jamjar.core.baseline.Departing;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.Docket.Change;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.limit.Docket.Key;
import jamjar.core.limit.InForce;
import jamjar.core.limit.LimitState;
import jamjar.core.limit.PastJudgings.Told;
import jamjar.core.limit.Reconciling;
import jamjar.core.limit.Rule;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.core.watching.Watching;
import jamjar.core.watching.Watching.Span;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.instances.InstanceRow;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.Set;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicReference;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Function;

/**
 * Judges one instance: a docket per pace, kept in line with the series that are there and the
 * limits that are in force. What it knows is made anew from the store when something could not be
 * stored. Whoever uses it holds its lock until what was judged is stored.
 */
final class InstanceJudge {
  /** The longest step that is judged when the instance's interval is not longer, ms. */
  private static final long MINUTE = 60_000;

  final ReentrantLock lock = new ReentrantLock();
  private final Past past;
  private final Docket.Normals normals;
  private final AtomicReference<Setting> wanted = new AtomicReference<>();
  private final AtomicReference<Changed> wantedRules = new AtomicReference<>();
  private final Map<Pace, Docket> dockets = new EnumMap<>(Pace.class);

  /** Replaced as a whole, so that who only asks need not wait. */
  private volatile Map<Key, Entry> inForce = Map.of();

  private SeriesHere here;
  private Setting setting;
  private Schedule schedule;
  private List<Rule> rules;
  private Span span;
  private boolean loaded;

  /** Since when it is being asked, epoch ms; 0 for not. */
  private volatile long asking;

  /** Until when it was asked last, epoch ms; at first, since when it is to be asked. */
  private volatile long asked;

  /** When what is watched began, epoch ms; 0 while that is not known. */
  private volatile long started;

  private final Queue<long[]> unasked = new ConcurrentLinkedQueue<>();

  /** Other limits, and since when they are in force, epoch ms. */
  private record Changed(List<Rule> rules, long at) {}

  /**
   * How an instance is judged.
   *
   * @param at when it began to be watched so, epoch ms: a silence before that is not its own
   * @param anew whether it was watched otherwise until then
   * @param why why what nothing holds any more ends
   * @param resting whether nothing of it is judged for now
   */
  record Setting(
      InstanceRow row,
      Recipe recipe,
      long at,
      boolean anew,
      Function<Optional<SeriesKey>, AlertState> why,
      boolean resting) {

    /** Of an instance that begins to be judged, or is another now. */
    static Setting of(InstanceRow row, Recipe recipe, Optional<InstanceRow> before, long at) {
      boolean moved = before.isPresent() && !before.get().groupName().equals(row.groupName());
      return new Setting(
          row,
          recipe,
          at,
          before.isPresent(),
          series -> {
            if (row.paused()) {
              return AlertState.PAUSED;
            }
            boolean left = series.filter(s -> recipe.counter(s.counter()).isEmpty()).isPresent();
            if (left) {
              return AlertState.LEFT_OUT;
            }
            return moved ? AlertState.MOVED : AlertState.SWITCHED_OFF;
          },
          row.paused());
    }

    /** The instance is gone. */
    Setting removed() {
      return new Setting(row, recipe, at, anew, series -> AlertState.REMOVED, true);
    }

    private Setting judging() {
      return new Setting(row, recipe, at, anew, series -> AlertState.SWITCHED_OFF, resting);
    }
  }

  /**
   * @param past what was judged and read before
   */
  InstanceJudge(Setting setting, Past past, Docket.Normals normals, List<Rule> rules, Span span) {
    this.past = past;
    // just after a start nothing is as usual, and nothing outside of it
    this.normals =
        (series, at) -> Departing.settled(started, at) ? normals.at(series, at) : Normal.NONE;
    this.rules = rules;
    this.span = span;
    this.asked = setting.at();
    take(setting);
  }

  private void take(Setting next) {
    setting = next;
    schedule = new Schedule(next.recipe(), next.row().intervalS());
  }

  /** It is another from the next judging on; never waits. */
  void becomes(Setting next) {
    wanted.set(next);
  }

  /** What is watched began then, epoch ms. */
  void started(long at) {
    started = at;
  }

  /**
   * It is asked from now on.
   *
   * @param late how much later than it should be, ms: one that does not answer is asked less often,
   *     and is silent meanwhile
   */
  void asks(long now, long late) {
    long before = Math.max(asked, now - late);
    if (before < now) {
      unasked.add(new long[] {before, now});
    }
    asking = now;
  }

  /** It has answered, or failed to: it was asked until now. */
  void answered(long now) {
    asked = now;
    asking = 0;
  }

  /** How it is judged, or will be from the next judging on. */
  Setting latest() {
    Setting next = wanted.get();
    return next == null ? setting : next;
  }

  /**
   * Other limits are in force from the next judging on; never waits.
   *
   * @param at since when, epoch ms
   */
  void rules(List<Rule> changed, long at) {
    wantedRules.set(new Changed(changed, at));
  }

  /** Judges what a reading closes. */
  Judged read(Span now, Pace source, long at, long arrived, int[] ids, List<Shown> shown) {
    List<Change> changes = settle(now, arrived);
    SeriesHere.Turn turn = here.take(source, ids, shown);
    if (turn.otherwise()) {
      realign(arrived, changes);
    } else if (!turn.come().isEmpty()) {
      come(turn.come());
    }
    changes.addAll(dockets.get(source).read(at, arrived, ids, shown));
    if (!turn.gone().isEmpty()) {
      retire(turn.gone(), arrived, changes);
    }
    Judged judged = judged(changes);
    here.forget(turn.gone());
    return judged;
  }

  /** Judges what is closed as it could not be read. */
  Judged unread(Span now, long at, boolean refused) {
    List<Change> changes = settle(now, at);
    changes.addAll(dockets.get(Pace.FAST).unread(at, refused));
    return judged(changes);
  }

  /** Judges what time closes. */
  Judged time(Span now, long at) {
    List<Change> changes = settle(now, at);
    long askedUntil = asking != 0 ? at : asked;
    dockets.values().forEach(docket -> changes.addAll(docket.time(at, askedUntil)));
    return judged(changes);
  }

  /**
   * Judges what will be reached.
   *
   * @param night when the forecast is of, epoch ms
   * @param days by number of the series in how many days it will be
   */
  Judged forecast(Span now, long at, long night, Map<Integer, Double> days) {
    List<Change> changes = settle(now, at);
    dockets.values().forEach(docket -> changes.addAll(docket.forecast(night, days)));
    return judged(changes);
  }

  /** A limit that is idle goes on from where it stood in the time before, with its alert. */
  Judged goOn(Span now, long at, Key key, Told told) {
    List<Change> changes = settle(now, at);
    Entry entry = inForce.get(key);
    if (entry != null) {
      LimitState state = told.end().judgedUpTo(at);
      dockets.get(paceOf(entry)).goOn(entry, state, told.transitions()).ifPresent(changes::add);
    }
    return judged(changes);
  }

  /** Brings it into line with what is in force, without judging anything. */
  Judged inLine(Span now, long at) {
    return judged(settle(now, at));
  }

  /** Something could not be stored: what stands in the store is true. */
  void forget() {
    dockets.clear();
    inForce = Map.of();
    loaded = false;
  }

  /**
   * What is in force, by number of the series; 0 stands for the whole instance. To be asked without
   * the lock.
   */
  Map<Integer, List<InForce>> inForce() {
    Map<Integer, List<InForce>> found = new HashMap<>();
    for (Entry entry : inForce.values()) {
      found.computeIfAbsent(entry.series(), s -> new ArrayList<>()).add(entry.inForce());
    }
    return found;
  }

  /** The value of the last minute, for the fullness of the jar. */
  double lastMinute(Entry entry) {
    Docket docket = dockets.get(paceOf(entry));
    return docket == null
        ? Double.NaN
        : docket.lastMinute(entry.series(), entry.inForce().limit().condition());
  }

  List<Entry> entries() {
    return List.copyOf(inForce.values());
  }

  /**
   * Takes up what was changed since, in its order: how the instance is judged, by which limits, and
   * in which span of watching.
   */
  private List<Change> settle(Span now, long at) {
    List<Change> changes = new ArrayList<>();
    Setting next = wanted.getAndSet(null);
    Changed changed = wantedRules.getAndSet(null);
    if (changed != null) {
      rules = changed.rules();
    }
    if (next != null) {
      Map<Key, Entry> before = inForce;
      forget();
      take(next);
      load(before, at, changes);
    } else if (!loaded) {
      load(Map.of(), at, changes);
    } else if (changed != null) {
      realign(changed.at(), changes);
    }
    if (now.number() != span.number()) {
      span = now;
      dockets.values().forEach(d -> changes.addAll(d.watchedFrom(now.from(), now.gap())));
      // stamped by the clock of before
      unasked.clear();
      asked = now.from();
    }
    for (long[] span = unasked.poll(); span != null; span = unasked.poll()) {
      long from = span[0];
      long to = span[1];
      dockets.values().forEach(docket -> changes.addAll(docket.unasked(from, to)));
    }
    return changes;
  }

  /** Other limits are in force: what is left of the old ones is ended or judged anew. */
  private void realign(long at, List<Change> changes) {
    Map<Key, Entry> before = inForce;
    Map<Key, LimitState> states = new HashMap<>();
    dockets.values().forEach(docket -> states.putAll(docket.states()));
    inForce = inForceNow();
    reconcile(states, before, at, changes);
    before.forEach(
        (key, entry) -> {
          if (!inForce.containsKey(key)) {
            dockets.get(paceOf(entry)).leave(key);
          }
        });
    inForce.forEach(
        (key, entry) -> {
          if (!entry.equals(before.get(key))) {
            enter(entry, states);
          }
        });
  }

  /**
   * @param states become what they are after it
   */
  private void reconcile(
      Map<Key, LimitState> states, Map<Key, Entry> before, long at, List<Change> changes) {
    List<Change> all =
        Reconciling.of(
            states, before, inForce, key -> setting.why().apply(here.key(key.series())), at);
    all.forEach(change -> states.put(change.key(), change.after()));
    changes.addAll(all);
  }

  private void enter(Entry entry, Map<Key, LimitState> states) {
    Docket docket = dockets.get(paceOf(entry));
    docket.enter(entry, states.getOrDefault(entry.key(), LimitState.calm(0)));
    happened(docket, entry);
  }

  /** What is due each day may have happened before it is judged from here. */
  private void happened(Docket docket, Entry entry) {
    if (entry.inForce().limit().condition() == Condition.OVERDUE) {
      past.happened(entry.series()).ifPresent(at -> docket.happened(entry.series(), at));
    }
  }

  private void load(Map<Key, Entry> before, long at, List<Change> changes) {
    Map<Key, LimitState> states = past.states();
    Set<Integer> judged = new HashSet<>();
    states.keySet().forEach(key -> judged.add(key.series()));
    judged.remove(Docket.INSTANCE);
    here = new SeriesHere(setting.row(), setting.recipe(), past, judged);
    inForce = inForceNow();
    reconcile(states, before, at, changes);
    setting = setting.judging();
    for (Pace pace : Pace.values()) {
      load(pace, states, at, changes);
    }
    loaded = true;
  }

  private void load(Pace pace, Map<Key, LimitState> states, long at, List<Change> changes) {
    List<Entry> mine = inForce.values().stream().filter(e -> paceOf(e) == pace).toList();
    Optional<Long> read = past.lastAt(pace);
    boolean begins = setting.anew() || read.isEmpty();
    long watched = begins ? Math.max(span.from(), setting.at()) : span.from();
    long last = read.orElse(watched);
    Docket docket = new Docket(mine, states, last, watched, normals);
    dockets.put(pace, docket);
    mine.forEach(entry -> happened(docket, entry));
    // stamped by a clock that was set back since
    boolean ahead = last > at + Watching.LONGEST_MILLIS;
    if (ahead || watched > last) {
      changes.addAll(docket.watchedFrom(watched, ahead ? span.gap() : watched - last));
    } else if (!mine.isEmpty()) {
      past.gather(pace, last, Math.max(MINUTE, schedule.millis(pace)), docket, setting.recipe());
    }
  }

  private Map<Key, Entry> inForceNow() {
    return setting.resting() ? Map.of() : here.entries(rules);
  }

  /** Series that are new: they are judged from now on. */
  private void come(Set<Integer> come) {
    if (setting.resting()) {
      return;
    }
    Map<Key, Entry> more = here.entries(rules, come);
    Map<Key, Entry> all = new LinkedHashMap<>(inForce);
    all.putAll(more);
    inForce = all;
    more.values().forEach(entry -> enter(entry, Map.of()));
  }

  /** Ends what was open of series that are gone, and judges them no more. */
  private void retire(Set<Integer> gone, long at, List<Change> changes) {
    Map<Key, LimitState> states = new HashMap<>();
    dockets.values().forEach(docket -> states.putAll(docket.states()));
    states.keySet().removeIf(key -> !gone.contains(key.series()));
    changes.addAll(Reconciling.of(states, Map.of(), Map.of(), key -> AlertState.RETIRED, at));
    Map<Key, Entry> left = new LinkedHashMap<>(inForce);
    left.values().removeIf(entry -> gone.contains(entry.series()));
    inForce.keySet().stream()
        .filter(key -> gone.contains(key.series()))
        .forEach(key -> dockets.values().forEach(docket -> docket.leave(key)));
    inForce = left;
  }

  private Judged judged(List<Change> changes) {
    return changes.isEmpty()
        ? Judged.NOTHING
        : new Judged(
            setting.row().id(),
            List.copyOf(changes),
            changes.stream()
                .map(change -> here.key(change.key().series()).orElse(SeriesKey.of("")))
                .toList());
  }

  private Pace paceOf(Entry entry) {
    return entry.inForce().limit().condition().ofInstance()
        ? Pace.FAST
        : setting.recipe().pace(entry.counter());
  }
}
