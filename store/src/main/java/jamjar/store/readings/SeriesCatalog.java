package jamjar.store.readings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jamjar.core.reading.SeriesKey;
import jamjar.store.series.SeriesMapper;
import jamjar.store.series.SeriesRow;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The numbers of the series. A series keeps its number as long as it is there; one that was gone
 * for good comes back under it as long as it is remembered. To give a number to a new one needs no
 * database.
 */
final class SeriesCatalog {
  /** About 200 bytes each: labels that churn must not fill the heap. */
  private static final long MOST_GONE = 100_000;

  private static final int GONE_OF_ONE = 2_000;

  private final SeriesMapper mapper;
  private final Numbers numbers;

  /** Of each instance those that are there. */
  private final Map<Integer, Map<SeriesKey, Integer>> there = new ConcurrentHashMap<>();

  private final Cache<Placed, Integer> gone = Caffeine.newBuilder().maximumSize(MOST_GONE).build();
  private final Map<Integer, Placed> keys = new ConcurrentHashMap<>();
  private final Cache<Integer, Placed> asked = Caffeine.newBuilder().maximumSize(MOST_GONE).build();
  private volatile Registrar registrar;

  private record Placed(int instance, SeriesKey key) {}

  SeriesCatalog(SeriesMapper mapper, Numbers numbers, Registrar registrar) {
    this.mapper = mapper;
    this.numbers = numbers;
    this.registrar = registrar;
  }

  void registrar(Registrar other) {
    registrar = other;
  }

  /**
   * The numbers of these series in their order; new ones are given one. Asks the database only the
   * first time for an instance.
   */
  int[] ids(int instance, List<SeriesKey> series, Instant at) {
    Map<SeriesKey, Integer> here = there.computeIfAbsent(instance, this::load);
    int[] found = new int[series.size()];
    boolean all = true;
    for (int i = 0; i < found.length; i++) {
      Integer id = here.get(series.get(i));
      found[i] = id == null ? 0 : id;
      all &= id != null;
    }
    return all ? found : number(instance, here, series, at);
  }

  private int[] number(
      int instance, Map<SeriesKey, Integer> here, List<SeriesKey> series, Instant at) {
    // two sources may bring the same one at once
    synchronized (here) {
      Map<SeriesKey, Integer> taken = new HashMap<>();
      List<SeriesRow> fresh = new ArrayList<>();
      int[] found = new int[series.size()];
      for (int i = 0; i < found.length; i++) {
        SeriesKey key = series.get(i);
        Integer id = here.get(key);
        if (id == null) {
          id = gone.getIfPresent(new Placed(instance, key));
        }
        if (id == null) {
          id = taken.get(key);
        }
        if (id == null) {
          id = numbers.take();
          taken.put(key, id);
          fresh.add(new SeriesRow(id, instance, key.counter(), key.labels()));
        }
        found[i] = id;
      }
      if (!fresh.isEmpty()) {
        registrar.series(fresh, at);
      }
      for (int i = 0; i < found.length; i++) {
        keep(new Placed(instance, series.get(i)), found[i]);
      }
      return found;
    }
  }

  private Map<SeriesKey, Integer> load(int instance) {
    Map<SeriesKey, Integer> alive = new ConcurrentHashMap<>();
    for (SeriesRow row : mapper.alive(instance)) {
      Placed placed = placed(row);
      alive.put(placed.key(), row.id());
      keys.put(row.id(), placed);
    }
    for (SeriesRow row : mapper.shown(instance, GONE_OF_ONE)) {
      if (!keys.containsKey(row.id())) {
        gone.put(placed(row), row.id());
      }
    }
    return alive;
  }

  private static Placed placed(SeriesRow row) {
    return new Placed(row.instance(), new SeriesKey(row.counter(), row.labels()));
  }

  private void keep(Placed placed, int id) {
    there.get(placed.instance()).put(placed.key(), id);
    keys.put(id, placed);
    gone.invalidate(placed);
  }

  /** New ones, as they were kept: what follows may tell of them before they are stored. */
  void learn(List<SeriesRow> rows) {
    rows.forEach(row -> asked.put(row.id(), placed(row)));
  }

  /** They are gone for good. */
  void retired(int[] ids) {
    for (int id : ids) {
      Placed placed = keys.remove(id);
      if (placed != null) {
        asked.put(id, placed);
        gone.put(placed, id);
        there.getOrDefault(placed.instance(), Map.of()).remove(placed.key(), id);
      }
    }
  }

  /** They are there, be it again. */
  void there(int instance, int[] ids) {
    if (there.containsKey(instance)) {
      for (int id : ids) {
        if (!keys.containsKey(id)) {
          placed(id).ifPresent(placed -> keep(placed, id));
        }
      }
    }
  }

  /** Those of an instance that are not gone for good. */
  Map<Integer, SeriesKey> alive(int instance) {
    Map<Integer, SeriesKey> all = new TreeMap<>();
    for (SeriesRow row : mapper.alive(instance)) {
      all.put(row.id(), new SeriesKey(row.counter(), row.labels()));
    }
    return all;
  }

  Optional<SeriesKey> key(int id) {
    return placed(id).map(Placed::key);
  }

  private Optional<Placed> placed(int id) {
    Placed placed = keys.get(id);
    if (placed == null) {
      placed = asked.getIfPresent(id);
    }
    if (placed == null) {
      mapper.byIds(new int[] {id}).forEach(row -> asked.put(row.id(), placed(row)));
      placed = asked.getIfPresent(id);
    }
    return Optional.ofNullable(placed);
  }
}
