package jamjar.server.limits;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.Docket.Change;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Judge;
import jamjar.core.limit.LimitState;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Transition;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.server.watch.Source;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.instances.InstanceRow;
import jamjar.store.readings.StoredReading;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.locks.ReentrantLock;

/**
 * Judges one instance: a docket per source, made anew from the store whenever its series or limits
 * change, or something could not be stored. Whoever uses it holds its lock until what was judged is
 * stored.
 */
final class InstanceJudge {
  private static final long LONGEST_STEP_MS = 3_600_000;

  /** Readings without a label after which it counts as gone for good. */
  private static final int RETIRED_AFTER = 10;

  final ReentrantLock lock = new ReentrantLock();
  private final InstanceRow row;
  private final Store store;
  private final Recipe recipe;
  private final Docket.Normals normals;
  private final long watchedFrom;
  private final Map<Source, Docket> dockets = new EnumMap<>(Source.class);
  private final Map<Source, Set<Integer>> known = new EnumMap<>(Source.class);
  private final Map<Integer, Integer> absent = new HashMap<>();
  private List<Rule> rules;
  private List<Entry> entries = List.of();
  private Map<Integer, SeriesKey> keys = Map.of();

  InstanceJudge(
      InstanceRow row,
      Store store,
      Recipe recipe,
      Docket.Normals normals,
      List<Rule> rules,
      long watchedFrom) {
    this.row = row;
    this.store = store;
    this.recipe = recipe;
    this.normals = normals;
    this.rules = rules;
    this.watchedFrom = watchedFrom;
  }

  /** Judges what a reading closes. */
  Judged read(Source source, long at, long arrived, int[] ids, List<Shown> shown) {
    Set<Integer> there = numbers(ids);
    if (known.computeIfAbsent(source, s -> new HashSet<>()).addAll(there)) {
      dockets.remove(source);
    }
    List<Change> changes = new ArrayList<>(docket(source).read(at, arrived, ids, shown));
    for (int id : gone(source, there)) {
      endRetired(id, arrived, changes);
      dockets.remove(source);
    }
    return judged(changes);
  }

  /** Labels that have not been there for some readings; asked for again now and then. */
  private List<Integer> gone(Source source, Set<Integer> there) {
    List<Integer> gone = new ArrayList<>();
    for (int id : known.get(source)) {
      if (there.contains(id)) {
        absent.remove(id);
      } else if (absent.merge(id, 1, Integer::sum) % RETIRED_AFTER == 0) {
        gone.add(id);
      }
    }
    return gone;
  }

  /**
   * Ends the alerts of a series that is gone.
   *
   * @param changes what this reading changed already; an end goes on from there
   */
  private void endRetired(int id, long now, List<Change> changes) {
    Map<Docket.Key, LimitState> states = new HashMap<>(store.states().ofInstance(row.id()));
    changes.forEach(change -> states.put(change.entry().key(), change.after()));
    Map<Docket.Key, Entry> here = byKey();
    states.forEach(
        (key, state) -> {
          if (key.series() == id && state.state() != AlertState.CALM && here.containsKey(key)) {
            Optional<Change> before =
                changes.stream().filter(c -> c.entry().key().equals(key)).findFirst();
            before.ifPresent(changes::remove);
            List<Transition> told = new ArrayList<>();
            before.ifPresent(change -> told.addAll(change.transitions()));
            LimitState ended = Judge.ended(state, AlertState.RETIRED, now, told::add);
            LimitState from = before.map(Change::before).orElse(state);
            changes.add(new Change(here.get(key), from, ended, told));
          }
        });
  }

  /** Judges what time closes. */
  Judged time(long now) {
    List<Change> changes = new ArrayList<>();
    for (Source source : Source.values()) {
      changes.addAll(docket(source).time(now));
    }
    return judged(changes);
  }

  /** Something could not be stored: what stands in the store is true. */
  void forget() {
    dockets.clear();
  }

  /** Other limits are in force: what is left of the old ones is ended or judged anew. */
  Judged changeRules(List<Rule> changed, long now) {
    Map<Docket.Key, LimitState> states = store.states().ofInstance(row.id());
    Map<Docket.Key, Entry> before = byKey();
    rules = changed;
    dockets.clear();
    entries = entries();
    Map<Docket.Key, Entry> after = byKey();
    List<Change> changes = new ArrayList<>();
    states.forEach(
        (key, state) -> {
          Entry old = before.get(key);
          Entry young = after.get(key);
          List<Transition> told = new ArrayList<>();
          if (young == null && old != null) {
            LimitState ended = Judge.ended(state, AlertState.SWITCHED_OFF, now, told::add);
            changes.add(new Change(old, state, ended, told));
          } else if (young != null
              && old != null
              && !young.inForce().limit().equals(old.inForce().limit())) {
            changes.add(new Change(young, state, Judge.edited(state, told::add), told));
          }
        });
    return judged(changes);
  }

  /** The instance is gone. */
  Judged retire(long now) {
    docket(Source.FAST);
    Map<Docket.Key, Entry> here = byKey();
    List<Change> changes = new ArrayList<>();
    store
        .states()
        .ofInstance(row.id())
        .forEach(
            (key, state) -> {
              if (here.containsKey(key)) {
                List<Transition> told = new ArrayList<>();
                LimitState ended = Judge.ended(state, AlertState.RETIRED, now, told::add);
                changes.add(new Change(here.get(key), state, ended, told));
              }
            });
    return judged(changes);
  }

  /** What is in force, by number of the series; 0 stands for the whole instance. */
  Map<Integer, List<InForce>> inForce() {
    docket(Source.FAST);
    Map<Integer, List<InForce>> found = new HashMap<>();
    for (Entry entry : entries) {
      found.computeIfAbsent(entry.series(), s -> new ArrayList<>()).add(entry.inForce());
    }
    return found;
  }

  /** Entries with the mean of their last minute, for the fullness of the jar. */
  double lastMinute(Entry entry) {
    return docket(sourceOf(entry)).lastMinute(entry.series(), entry.inForce().limit().condition());
  }

  List<Entry> entriesNow() {
    docket(Source.FAST);
    return entries;
  }

  private Map<Docket.Key, Entry> byKey() {
    Map<Docket.Key, Entry> found = new HashMap<>();
    entries.forEach(entry -> found.put(entry.key(), entry));
    return found;
  }

  private Judged judged(List<Change> changes) {
    return changes.isEmpty()
        ? Judged.NOTHING
        : new Judged(
            row.id(),
            changes,
            changes.stream()
                .map(c -> keys.getOrDefault(c.entry().series(), SeriesKey.of("")))
                .toList());
  }

  private Docket docket(Source source) {
    return dockets.computeIfAbsent(source, this::fromStore);
  }

  private Docket fromStore(Source source) {
    entries = entries();
    List<Entry> mine = entries.stream().filter(e -> sourceOf(e) == source).toList();
    long last =
        store
            .readings()
            .last(row.id(), source.code())
            .map(l -> l.at().toEpochMilli())
            .orElse(watchedFrom);
    // the last reading was stored to the µs
    Instant until = Instant.ofEpochMilli(last + 1);
    Docket docket =
        new Docket(mine, store.states().ofInstance(row.id()), last, watchedFrom, normals);
    for (StoredReading stored :
        store.readings().readings(row.id(), until.minusMillis(LONGEST_STEP_MS), until).all()) {
      if (stored.source() == source.code()) {
        gather(docket, stored);
      }
    }
    return docket;
  }

  /**
   * Judges again, from calm, what was stored: the readings in the order of their arrival.
   *
   * @return per reading what it changed
   */
  List<Judged> replay(Instant from, Instant to) {
    entries = entries();
    List<StoredReading> readings = store.readings().readings(row.id(), from, to).all();
    Map<Source, Docket> again = new EnumMap<>(Source.class);
    for (Source source : Source.values()) {
      List<Entry> mine = entries.stream().filter(e -> sourceOf(e) == source).toList();
      // before its first reading there was nothing to judge
      long first =
          readings.stream()
              .filter(r -> r.source() == source.code())
              .mapToLong(r -> r.at().toEpochMilli())
              .min()
              .orElse(to.toEpochMilli());
      again.put(source, new Docket(mine, Map.of(), first, watchedFrom, normals));
    }
    return readings.stream()
        .sorted(Comparator.comparing(StoredReading::arrived))
        .map(
            stored -> {
              AsShown shown = shown(stored);
              return judged(
                  again
                      .get(Source.of(stored.source()))
                      .read(
                          stored.at().toEpochMilli(),
                          stored.arrived().toEpochMilli(),
                          shown.ids(),
                          shown.values()));
            })
        .toList();
  }

  private void gather(Docket docket, StoredReading stored) {
    AsShown shown = shown(stored);
    docket.gather(
        stored.at().toEpochMilli(), stored.arrived().toEpochMilli(), shown.ids(), shown.values());
  }

  private record AsShown(int[] ids, List<Shown> values) {}

  private AsShown shown(StoredReading stored) {
    List<SeriesKey> series = new ArrayList<>();
    WhyNothing[] why = new WhyNothing[stored.values().length];
    for (int i = 0; i < why.length; i++) {
      series.add(keys.getOrDefault(stored.series()[i], SeriesKey.of("")));
      why[i] = Double.isNaN(stored.values()[i]) ? WhyNothing.NOT_YET_KNOWN : null;
    }
    Reading reading =
        new Reading(stored.at(), stored.elapsedMillis(), series, stored.values(), why);
    List<Shown> shown = Shown.of(known(reading), recipe, 1000L * stored.intervalS());
    int[] ids =
        store.readings().numbers(row.id(), shown.stream().map(Shown::series).toList(), stored.at());
    return new AsShown(ids, shown);
  }

  /** Without the series that no recipe holds any more. */
  private Reading known(Reading reading) {
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < reading.series().size(); i++) {
      if (recipe.counters().containsKey(reading.series().get(i).counter())) {
        places.add(i);
      }
    }
    return places.size() == reading.series().size()
        ? reading
        : new Reading(
            reading.at(),
            reading.elapsedMillis(),
            places.stream().map(reading.series()::get).toList(),
            places.stream().mapToDouble(i -> reading.values()[i]).toArray(),
            places.stream().map(i -> reading.why()[i]).toArray(WhyNothing[]::new));
  }

  private List<Entry> entries() {
    keys = store.readings().series(row.id());
    InForce.Place place = new InForce.Place(row.id(), row.groupName(), row.kind());
    List<Entry> found = new ArrayList<>();
    InForce.ofSilence(rules, place, 1000L * row.intervalS())
        .ifPresent(silence -> found.add(new Entry(Docket.INSTANCE, null, silence)));
    Set<String> whole = new HashSet<>();
    keys.values().stream().filter(k -> k.labels().isEmpty()).forEach(k -> whole.add(k.counter()));
    keys.forEach(
        (id, key) -> {
          CounterDefinition counter = recipe.counters().get(key.counter());
          if (counter != null) {
            Source source = Source.of(recipe.pace(counter));
            long interval = 1000L * interval(source);
            InForce.of(rules, place, key, counter, whole.contains(key.counter()), interval)
                .forEach(inForce -> found.add(new Entry(id, counter, inForce)));
          }
        });
    return found;
  }

  private int interval(Source source) {
    return source == Source.FAST ? row.intervalS() : recipe.paces().get(source.pace());
  }

  private Source sourceOf(Entry entry) {
    return entry.inForce().limit().condition() == Condition.SILENT
        ? Source.FAST
        : Source.of(recipe.pace(entry.counter()));
  }

  private static Set<Integer> numbers(int[] ids) {
    Set<Integer> set = new HashSet<>();
    for (int id : ids) {
      set.add(id);
    }
    return set;
  }
}
