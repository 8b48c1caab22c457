package jamjar.store.readings;

import jamjar.core.reading.SeriesKey;
import jamjar.store.series.SeriesMapper;
import jamjar.store.series.SeriesRow;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/** The numbers of the series, kept at hand. A series once numbered keeps its number for ever. */
final class SeriesCatalog {
  private final SeriesMapper mapper;
  private final Map<Integer, Map<SeriesKey, Integer>> ids = new ConcurrentHashMap<>();

  SeriesCatalog(SeriesMapper mapper) {
    this.mapper = mapper;
  }

  /** The numbers of these series in their order; new ones are stored first. */
  int[] ids(int instance, List<SeriesKey> series, Instant at) {
    Map<SeriesKey, Integer> known = ids.computeIfAbsent(instance, this::load);
    int[] found = new int[series.size()];
    boolean anew = false;
    for (int i = 0; i < found.length; i++) {
      Integer id = known.get(series.get(i));
      if (id == null) {
        SeriesKey key = series.get(i);
        mapper.add(new SeriesRow(0, instance, key.counter(), key.labels()), at);
        anew = true;
      } else {
        found[i] = id;
      }
    }
    if (anew) {
      ids.put(instance, load(instance));
      return ids(instance, series, at);
    }
    return found;
  }

  Map<Integer, SeriesKey> all(int instance) {
    Map<Integer, SeriesKey> all = new java.util.TreeMap<>();
    ids.computeIfAbsent(instance, this::load).forEach((key, id) -> all.put(id, key));
    return all;
  }

  Optional<SeriesKey> key(int instance, int id) {
    return ids.computeIfAbsent(instance, this::load).entrySet().stream()
        .filter(entry -> entry.getValue() == id)
        .map(Map.Entry::getKey)
        .findFirst();
  }

  private Map<SeriesKey, Integer> load(int instance) {
    Map<SeriesKey, Integer> loaded = new ConcurrentHashMap<>();
    for (SeriesRow row : mapper.ofInstance(instance)) {
      loaded.put(new SeriesKey(row.counter(), row.labels()), row.id());
    }
    return loaded;
  }
}
