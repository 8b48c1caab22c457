package jamjar.store.readings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jamjar.core.reading.SeriesKey;
import jamjar.store.mapping.LabelsHandler;
import jamjar.store.series.SeriesMapper;
import jamjar.store.series.SeriesRow;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The numbers of the series, those last asked for kept at hand. A series once numbered keeps its
 * number for ever.
 */
final class SeriesCatalog {
  /** Two entries each, about 200 bytes together: labels that churn must not fill the heap. */
  private static final long MOST = 300_000;

  private static final int AT_ONCE = 500;

  private final SeriesMapper mapper;
  private final Cache<Placed, Integer> ids = Caffeine.newBuilder().maximumSize(MOST).build();
  private final Cache<Integer, Placed> keys = Caffeine.newBuilder().maximumSize(MOST).build();
  private final Set<Integer> warm = ConcurrentHashMap.newKeySet();

  private record Placed(int instance, SeriesKey key) {}

  SeriesCatalog(SeriesMapper mapper) {
    this.mapper = mapper;
  }

  /** The numbers of these series in their order; new ones are stored first. */
  int[] ids(int instance, List<SeriesKey> series, Instant at) {
    if (warm.add(instance)) {
      mapper.alive(instance).forEach(row -> keep(instance, row));
    }
    List<SeriesKey> missing =
        series.stream().filter(key -> known(instance, key) == null).distinct().toList();
    for (int from = 0; from < missing.size(); from += AT_ONCE) {
      number(instance, missing.subList(from, Math.min(from + AT_ONCE, missing.size())), at);
    }
    int[] found = new int[series.size()];
    for (int i = 0; i < found.length; i++) {
      Integer id = known(instance, series.get(i));
      if (id == null) {
        // more than are kept at hand
        number(instance, List.of(series.get(i)), at);
        id = known(instance, series.get(i));
      }
      found[i] = id;
    }
    return found;
  }

  private Integer known(int instance, SeriesKey key) {
    return ids.getIfPresent(new Placed(instance, key));
  }

  private void number(int instance, List<SeriesKey> series, Instant at) {
    mapper
        .numbered(
            instance,
            series.stream().map(SeriesKey::counter).toArray(String[]::new),
            series.stream().map(key -> LabelsHandler.text(key.labels())).toArray(String[]::new),
            at)
        .forEach(row -> keep(instance, row));
  }

  /** Those of an instance that are not gone for good. */
  Map<Integer, SeriesKey> alive(int instance) {
    Map<Integer, SeriesKey> all = new TreeMap<>();
    for (SeriesRow row : mapper.alive(instance)) {
      keep(instance, row);
      all.put(row.id(), new SeriesKey(row.counter(), row.labels()));
    }
    return all;
  }

  Optional<SeriesKey> key(int id) {
    Placed placed = keys.getIfPresent(id);
    if (placed == null) {
      mapper.byIds(new int[] {id}).forEach(row -> keep(row.instance(), row));
      placed = keys.getIfPresent(id);
    }
    return Optional.ofNullable(placed).map(Placed::key);
  }

  private void keep(int instance, SeriesRow row) {
    Placed placed = new Placed(instance, new SeriesKey(row.counter(), row.labels()));
    ids.put(placed, row.id());
    keys.put(row.id(), placed);
  }
}
