package jamjar.server.limits;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Schedule;
import jamjar.core.counter.Shape;
import jamjar.core.limit.Docket;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.limit.Docket.Key;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Presence;
import jamjar.core.limit.Rule;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.store.instances.InstanceRow;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** The series of one instance that are there, and which limits are in force on them. */
final class SeriesHere {
  private final InstanceRow row;
  private final Recipe recipe;
  private final Schedule schedule;
  private final Map<Integer, SeriesKey> keys = new HashMap<>();
  private final Map<Pace, Presence> present = new EnumMap<>(Pace.class);

  /** Counters that have a series for the whole instance. */
  private final Set<String> whole = new HashSet<>();

  /**
   * Those of the last readings.
   *
   * @param more series that were judged then, be they there or not
   */
  SeriesHere(InstanceRow row, Recipe recipe, Past past, Collection<Integer> more) {
    this.row = row;
    this.recipe = recipe;
    this.schedule = new Schedule(recipe, row.intervalS());
    for (Pace pace : Pace.values()) {
      keys.putAll(past.present(pace));
    }
    for (int series : more) {
      past.key(series).ifPresent(key -> keys.putIfAbsent(series, key));
    }
    addMade(past);
    keys.values().stream().filter(k -> k.labels().isEmpty()).forEach(k -> whole.add(k.counter()));
    for (Pace pace : Pace.values()) {
      List<Integer> mine = new ArrayList<>();
      keys.forEach(
          (id, key) -> {
            if (recipe.counter(key.counter()).filter(c -> recipe.pace(c) == pace).isPresent()) {
              mine.add(id);
            }
          });
      present.put(pace, new Presence(mine));
    }
  }

  /** Quotients are not read: they are there where what stands above their line is. */
  private void addMade(Past past) {
    List<SeriesKey> made = new ArrayList<>();
    for (CounterDefinition counter : recipe.counters().values()) {
      if (counter.shape() == Shape.QUOTIENT) {
        keys.values().stream()
            .filter(key -> key.counter().equals(counter.numerator()))
            .map(key -> key.withCounter(counter.key()))
            .forEach(made::add);
      }
    }
    int[] numbers = past.numbers(made);
    for (int i = 0; i < numbers.length; i++) {
      keys.putIfAbsent(numbers[i], made.get(i));
    }
  }

  /**
   * What a reading changed.
   *
   * @param come series that are new
   * @param gone series that are gone for good
   * @param otherwise whether limits of labels now are of the whole instance
   */
  record Turn(Set<Integer> come, Set<Integer> gone, boolean otherwise) {}

  /** Takes the series of a reading. */
  Turn take(Pace pace, int[] ids, List<Shown> shown) {
    Set<Integer> there = new HashSet<>();
    for (int id : ids) {
      there.add(id);
    }
    Presence.Turn turn = present.get(pace).take(there);
    boolean otherwise = false;
    if (!turn.come().isEmpty()) {
      for (int i = 0; i < ids.length; i++) {
        keys.putIfAbsent(ids[i], shown.get(i).series());
      }
      for (int id : turn.come()) {
        SeriesKey key = keys.get(id);
        // a limit is of the whole instance where there is such a series, else of each label
        otherwise |= key.labels().isEmpty() && whole.add(key.counter());
      }
    }
    return new Turn(Set.copyOf(turn.come()), Set.copyOf(turn.gone()), otherwise);
  }

  /** Nothing is known any more of series that are gone. */
  void forget(Set<Integer> gone) {
    keys.keySet().removeAll(gone);
  }

  /** What a series is of; empty for the whole instance, and for what is not known here. */
  Optional<SeriesKey> key(int series) {
    return Optional.ofNullable(keys.get(series));
  }

  /** What is in force on all that are known, and on the instance as a whole. */
  Map<Key, Entry> entries(List<Rule> rules) {
    Map<Key, Entry> found = new LinkedHashMap<>();
    InForce.ofInstance(rules, place(), schedule.millis(Pace.FAST))
        .forEach(
            whole -> {
              Entry entry = new Entry(Docket.INSTANCE, null, whole);
              found.put(entry.key(), entry);
            });
    found.putAll(entries(rules, keys.keySet()));
    return found;
  }

  /** What is in force on some. */
  Map<Key, Entry> entries(List<Rule> rules, Set<Integer> series) {
    Map<Key, Entry> found = new LinkedHashMap<>();
    for (int id : new TreeSet<>(series)) {
      SeriesKey key = keys.get(id);
      CounterDefinition counter = key == null ? null : recipe.counters().get(key.counter());
      if (counter != null) {
        boolean hasWhole = whole.contains(key.counter());
        for (InForce inForce :
            InForce.of(rules, place(), key, counter, hasWhole, schedule.millis(counter))) {
          Entry entry = new Entry(id, counter, inForce);
          found.put(entry.key(), entry);
        }
      }
    }
    return found;
  }

  private InForce.Place place() {
    return new InForce.Place(row.id(), row.groupName(), row.kind(), ZoneId.of(row.zone()));
  }
}
