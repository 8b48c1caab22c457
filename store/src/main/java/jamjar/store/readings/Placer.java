package jamjar.store.readings;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import java.nio.ByteBuffer;
import java.nio.IntBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Lays readings out: which series the places of their array stand for. Most are laid out like the
 * one before, and a layout that there was lately is found again. Needs no database.
 */
final class Placer {
  private static final int REMEMBERED = 20_000;

  /**
   * So many numbers in all are kept to recognise layouts by; a counter's name weighs twelve. No
   * keys: of labels that churn they would fill the heap.
   */
  private static final int RECENT = 1_000_000;

  private static final int NAME = 12;

  private final SeriesCatalog catalog;
  private final Numbers numbers;
  private final Map<SourceKey, Placed> lastPlaced = new ConcurrentHashMap<>();
  private final Cache<ByteBuffer, Integer> known =
      Caffeine.newBuilder().maximumSize(REMEMBERED).build();
  private final Cache<Seen, Integer> recent =
      Caffeine.newBuilder()
          .maximumWeight(RECENT)
          .weigher((Seen seen, Integer layout) -> seen.weight())
          .build();
  private volatile Registrar registrar;

  /** All that makes a layout; what was seen lately needs no hash of it. */
  private record Seen(
      SourceKey source, int intervalS, IntBuffer series, IntBuffer totals, Set<String> counters) {

    int weight() {
      return series.capacity() + totals.capacity() + NAME * counters.size();
    }
  }

  Placer(SeriesCatalog catalog, Numbers numbers, Registrar registrar) {
    this.catalog = catalog;
    this.numbers = numbers;
    this.registrar = registrar;
  }

  void registrar(Registrar other) {
    registrar = other;
  }

  /** One that is stored. */
  void knows(LayoutRow row) {
    known.put(ByteBuffer.wrap(row.hash()), row.id());
  }

  private record Placed(
      List<SeriesKey> keys,
      int intervalS,
      Set<String> counters,
      int[] series,
      List<SeriesKey> totals,
      int layout) {

    Placed of(List<SeriesKey> same) {
      return new Placed(same, intervalS, counters, series, totals, layout);
    }

    /** Whether it is laid out so; its totals are looked up apart. */
    boolean fits(KeptReading kept) {
      LastTotals last = kept.step().last();
      return intervalS == kept.intervalS()
          && keys.equals(kept.step().reading().series())
          && counters.equals(last.counters())
          && totals.size() == last.totals().size();
    }

    /** The totals in their order; empty where there are others. */
    Optional<LastTotals.Raw[]> totals(LastTotals last) {
      LastTotals.Raw[] found = new LastTotals.Raw[totals.size()];
      for (int i = 0; i < found.length; i++) {
        found[i] = last.totals().get(totals.get(i));
        if (found[i] == null) {
          return Optional.empty();
        }
      }
      return Optional.of(found);
    }
  }

  LaidOut lay(KeptReading kept) {
    Reading reading = kept.step().reading();
    LastTotals last = kept.step().last();
    Placed before = lastPlaced.get(new SourceKey(kept.instance(), kept.source()));
    Optional<LastTotals.Raw[]> totals =
        before != null && before.fits(kept) ? before.totals(last) : Optional.empty();
    Placed placed = totals.isPresent() ? again(kept, before) : placed(kept);
    byte[] why = new byte[reading.values().length];
    for (int i = 0; i < why.length; i++) {
      WhyNothing nothing = reading.why()[i];
      why[i] = (byte) (nothing == null ? 0 : nothing.ordinal() + 1);
    }
    return new LaidOut(
        new ReadingRow(
            kept.instance(),
            reading.at(),
            kept.source(),
            placed.layout(),
            (int) Math.min(Integer.MAX_VALUE, reading.elapsedMillis()),
            kept.seq(),
            kept.arrived(),
            reading.values()),
        why,
        totals(kept, placed, totals.or(() -> placed.totals(last)).orElseThrow()),
        kept.judged());
  }

  /** As before; the next one is compared with the keys of this one: mostly the very same. */
  private Placed again(KeptReading kept, Placed before) {
    List<SeriesKey> keys = kept.step().reading().series();
    if (keys == before.keys()) {
      return before;
    }
    Placed same = before.of(keys);
    lastPlaced.put(new SourceKey(kept.instance(), kept.source()), same);
    return same;
  }

  /** By one thread at a time, so that no layout is given two numbers. */
  private synchronized Placed placed(KeptReading kept) {
    List<SeriesKey> keys = kept.step().reading().series();
    LastTotals totals = kept.step().last();
    int[] series = catalog.ids(kept.instance(), keys, kept.arrived());
    List<SeriesKey> totalKeys = keys.stream().filter(totals.totals()::containsKey).toList();
    int[] totalIds = catalog.ids(kept.instance(), totalKeys, kept.arrived());
    SourceKey source = new SourceKey(kept.instance(), kept.source());
    Seen seen =
        new Seen(
            source,
            kept.intervalS(),
            IntBuffer.wrap(series),
            IntBuffer.wrap(totalIds),
            totals.counters());
    int layout = recent.get(seen, unseen -> numbered(kept, series, totalIds, totals.counters()));
    Placed placed =
        new Placed(keys, kept.intervalS(), totals.counters(), series, totalKeys, layout);
    lastPlaced.put(source, placed);
    return placed;
  }

  private int numbered(KeptReading kept, int[] series, int[] totals, Set<String> names) {
    String[] counters = names.stream().sorted().toArray(String[]::new);
    byte[] hash = hash(kept, series, totals, counters);
    Integer id = known.getIfPresent(ByteBuffer.wrap(hash));
    if (id != null) {
      return id;
    }
    LayoutRow row =
        new LayoutRow(
            numbers.take(),
            kept.instance(),
            kept.source(),
            kept.intervalS(),
            series,
            totals,
            counters,
            hash);
    registrar.layout(row);
    knows(row);
    return row.id();
  }

  private static byte[] hash(KeptReading kept, int[] series, int[] totals, String[] counters) {
    String whole =
        String.join(
            "/",
            Integer.toString(kept.instance()),
            Integer.toString(kept.source()),
            Integer.toString(kept.intervalS()),
            Arrays.toString(series),
            Arrays.toString(totals),
            Arrays.toString(counters));
    try {
      return MessageDigest.getInstance("SHA-256").digest(whole.getBytes(StandardCharsets.UTF_8));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  private static TotalsRow totals(KeptReading kept, Placed placed, LastTotals.Raw[] raws) {
    LastTotals last = kept.step().last();
    long[] totals = new long[raws.length];
    long[] epochs = new long[raws.length];
    for (int i = 0; i < raws.length; i++) {
      totals[i] = raws[i].value();
      epochs[i] = raws[i].epoch();
    }
    int[] nothing =
        last.nothing().stream()
            .mapToInt(key -> placed.series()[placed.keys().indexOf(key)])
            .toArray();
    return new TotalsRow(
        kept.instance(),
        kept.source(),
        last.at(),
        kept.seq(),
        last.sourceMicros(),
        last.start(),
        placed.layout(),
        totals,
        epochs,
        nothing);
  }
}
