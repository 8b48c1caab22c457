package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.alerts.JudgedStore;
import jamjar.store.series.NothingSpan;
import jamjar.store.series.SeriesMapper;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.IntStream;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/**
 * Readings: written a row each, in one transaction with the raw totals that the next reading needs;
 * read back as the values of a few series over a window.
 */
public final class ReadingStore {
  private static final int[] NONE = {};

  private final SqlSessionFactory factory;
  private final ReadingMapper mapper;
  private final ReadingMapper asked;
  private final SeriesMapper seriesMapper;
  private final SeriesCatalog catalog;
  private final Map<SourceKey, Placed> layouts = new ConcurrentHashMap<>();
  private final Map<Integer, Map<Integer, WhyNothing>> nothing = new ConcurrentHashMap<>();
  private final Set<LocalDate> partitions = ConcurrentHashMap.newKeySet();

  /**
   * @param watching for what watching and judging read, so that it waits for nothing that is asked
   * @param asking for what persons ask
   */
  public ReadingStore(SqlSessionFactory factory, SqlSession watching, SqlSession asking) {
    this.factory = factory;
    this.mapper = watching.getMapper(ReadingMapper.class);
    this.asked = asking.getMapper(ReadingMapper.class);
    this.seriesMapper = watching.getMapper(SeriesMapper.class);
    this.catalog = new SeriesCatalog(seriesMapper);
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(ReadingMapper.class);
  }

  /**
   * Writes readings in one transaction: all or none. Not to be called for the same source from two
   * threads at once.
   *
   * @return per reading the numbers of its series, in its order
   */
  public List<int[]> write(List<KeptReading> readings) {
    List<int[]> ids = new ArrayList<>(readings.size());
    List<int[]> gone = new ArrayList<>(readings.size());
    List<int[]> come = new ArrayList<>(readings.size());
    List<ReadingRow> rows = new ArrayList<>(readings.size());
    Map<SourceKey, TotalsRow> totals = new HashMap<>();
    Map<Integer, Map<Integer, WhyNothing>> changed = new HashMap<>();
    for (KeptReading kept : readings) {
      Reading reading = kept.step().reading();
      makePartition(reading.at());
      SourceKey source = new SourceKey(kept.instance(), kept.source());
      Placed last = layouts.get(source);
      int[] before = last == null ? lastSeries(kept.instance(), kept.source()) : last.series();
      Placed placed = layout(kept);
      gone.add(last == placed ? NONE : gone(kept, before, placed));
      come.add(last == placed ? NONE : placed.series());
      ids.add(placed.series());
      rows.add(
          new ReadingRow(
              kept.instance(),
              reading.at(),
              kept.source(),
              placed.layout(),
              (int) Math.min(Integer.MAX_VALUE, reading.elapsedMillis()),
              kept.seq(),
              kept.arrived(),
              reading.values()));
      totals.put(new SourceKey(kept.instance(), kept.source()), totalsRow(kept, placed));
    }
    try (SqlSession batch = factory.openSession(ExecutorType.BATCH, false)) {
      ReadingMapper writer = batch.getMapper(ReadingMapper.class);
      writer.needNotWait();
      rows.forEach(writer::add);
      totals.values().forEach(writer::keepTotals);
      SeriesMapper spans = batch.getMapper(SeriesMapper.class);
      for (int i = 0; i < readings.size(); i++) {
        if (gone.get(i).length > 0) {
          spans.retire(gone.get(i), readings.get(i).step().reading().at());
        }
        if (come.get(i).length > 0) {
          spans.comeBack(come.get(i));
        }
        noteNothing(readings.get(i), ids.get(i), gone.get(i), spans, changed);
      }
      readings.forEach(kept -> JudgedStore.write(batch, kept.judged()));
      batch.commit();
    }
    nothing.putAll(changed);
    return ids;
  }

  /** The numbers of series that are not read but made of others; new ones are stored first. */
  public int[] numbers(int instance, List<SeriesKey> series, Instant at) {
    return catalog.ids(instance, series, at);
  }

  /** What the next reading of a source needs, as stored with the last one. */
  public Optional<LastTotals> last(int instance, int source) {
    return mapper.totals(instance, source).map(this::lastTotals);
  }

  /**
   * The place of the last stored reading of a source in the order of its answers; 0 when there is
   * none.
   */
  public long lastSeq(int instance, int source) {
    return mapper.totals(instance, source).map(TotalsRow::seq).orElse(0L);
  }

  /** How many readings of a source are stored. */
  public long count(int instance, int source) {
    return mapper.count(instance, source);
  }

  /**
   * The readings of one series, or of the parts of a quotient.
   *
   * @param ids the series; of a quotient the one above the line first
   * @param from start of the window, inclusive
   * @param to end of the window, inclusive
   */
  public Samples samples(int instance, int[] ids, Instant from, Instant to) {
    List<Sample> found = new ArrayList<>();
    for (LayoutRow layout : asked.layoutsWith(instance, ids)) {
      List<Integer> places =
          IntStream.of(ids).map(layout::place).filter(place -> place > 0).boxed().toList();
      if (places.size() == ids.length) {
        long interval = layout.intervalS() * 1000L;
        for (PlacedRow row :
            asked.placed(instance, layout.source(), layout.id(), places, from, to)) {
          found.add(new Sample(row.at(), row.elapsedMs(), interval, row.vals()));
        }
      }
    }
    found.sort(java.util.Comparator.comparingLong(Sample::at));
    return columns(found, ids.length);
  }

  /** Whole readings of an instance over a window, both ends inclusive. */
  public Readings readings(int instance, Instant from, Instant to) {
    return readings(asked, instance, from, to);
  }

  /** As above, for judging. */
  public Readings toJudge(int instance, Instant from, Instant to) {
    return readings(mapper, instance, from, to);
  }

  private static Readings readings(ReadingMapper through, int instance, Instant from, Instant to) {
    Map<Integer, LayoutRow> layoutsHere = new HashMap<>();
    List<StoredReading> found = new ArrayList<>();
    for (StoredRow row : through.stored(instance, from, to)) {
      LayoutRow layout = layoutsHere.computeIfAbsent(row.layout(), through::layoutById);
      found.add(
          new StoredReading(
              row.at(),
              row.arrived(),
              row.elapsedMs(),
              layout.source(),
              layout.intervalS(),
              layout.series(),
              row.vals()));
    }
    return new Readings(found);
  }

  /** When the first reading since then was taken. */
  public Optional<Instant> firstAt(int instance, Instant from) {
    return Optional.ofNullable(asked.firstAt(instance, from));
  }

  /** The series of an instance that are not gone for good, by their numbers. */
  public Map<Integer, SeriesKey> series(int instance) {
    return catalog.alive(instance);
  }

  /** What a series is of; empty where there is none of that number. */
  public Optional<SeriesKey> key(int series) {
    return catalog.key(series);
  }

  /** The series of the last stored reading of a source; none where there is none. */
  public int[] lastSeries(int instance, int source) {
    return mapper
        .totals(instance, source)
        .map(row -> mapper.layoutById(row.layout()).series())
        .orElse(NONE);
  }

  private record Sample(long at, long elapsed, long interval, double[] values) {}

  private static Samples columns(List<Sample> rows, int width) {
    List<double[]> values = new ArrayList<>();
    for (int c = 0; c < width; c++) {
      int column = c;
      values.add(rows.stream().mapToDouble(row -> row.values()[column]).toArray());
    }
    return new Samples(
        rows.stream().mapToLong(Sample::at).toArray(),
        rows.stream().mapToLong(Sample::elapsed).toArray(),
        rows.stream().mapToLong(Sample::interval).toArray(),
        values.get(0),
        values.subList(1, width));
  }

  private record SourceKey(int instance, int source) {}

  /** The layout of the last reading of a source: most readings are laid out like the one before. */
  private record Placed(
      List<SeriesKey> keys,
      int intervalS,
      Set<String> counters,
      int[] series,
      List<SeriesKey> totals,
      int layout) {

    boolean fits(KeptReading kept) {
      LastTotals last = kept.step().last();
      return intervalS == kept.intervalS()
          && keys.equals(kept.step().reading().series())
          && counters.equals(last.counters())
          && totals.size() == last.totals().size()
          && last.totals().keySet().containsAll(totals);
    }
  }

  private Placed layout(KeptReading kept) {
    SourceKey source = new SourceKey(kept.instance(), kept.source());
    Placed before = layouts.get(source);
    if (before != null && before.fits(kept)) {
      return before;
    }
    List<SeriesKey> keys = kept.step().reading().series();
    LastTotals last = kept.step().last();
    int[] series = catalog.ids(kept.instance(), keys, kept.arrived());
    List<SeriesKey> totals = keys.stream().filter(last.totals()::containsKey).toList();
    int[] totalIds = catalog.ids(kept.instance(), totals, kept.arrived());
    String[] counters = last.counters().stream().sorted().toArray(String[]::new);
    int layout =
        mapper.layout(
            new LayoutRow(
                0,
                kept.instance(),
                kept.source(),
                kept.intervalS(),
                series,
                totalIds,
                counters,
                hash(kept, series, totalIds, counters)));
    Placed placed = new Placed(keys, kept.intervalS(), last.counters(), series, totals, layout);
    layouts.put(source, placed);
    return placed;
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

  private TotalsRow totalsRow(KeptReading kept, Placed placed) {
    LastTotals last = kept.step().last();
    int n = placed.totals().size();
    long[] totals = new long[n];
    long[] epochs = new long[n];
    for (int i = 0; i < n; i++) {
      LastTotals.Raw raw = last.totals().get(placed.totals().get(i));
      totals[i] = raw.value();
      epochs[i] = raw.epoch();
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

  private LastTotals lastTotals(TotalsRow row) {
    LayoutRow layout = mapper.layoutById(row.layout());
    Map<SeriesKey, LastTotals.Raw> totals = new HashMap<>();
    for (int i = 0; i < row.totals().length; i++) {
      LastTotals.Raw raw = new LastTotals.Raw(row.totals()[i], row.epochs()[i]);
      catalog.key(layout.totals()[i]).ifPresent(key -> totals.put(key, raw));
    }
    Set<SeriesKey> missing = new HashSet<>();
    for (int id : row.nothing()) {
      catalog.key(id).ifPresent(missing::add);
    }
    return new LastTotals(
        row.at(),
        row.sourceUs(),
        LastTotals.NO_MONOTONIC,
        row.startToken(),
        new HashSet<>(Arrays.asList(layout.counters())),
        totals,
        missing);
  }

  /** Labels that were there and are not in a reading that read their counter whole. */
  private int[] gone(KeptReading kept, int[] before, Placed now) {
    Set<Integer> there = new HashSet<>();
    Arrays.stream(now.series()).forEach(there::add);
    Set<String> whole = kept.step().last().counters();
    return Arrays.stream(before)
        .filter(id -> !there.contains(id))
        .filter(id -> catalog.key(id).map(key -> whole.contains(key.counter())).orElse(false))
        .toArray();
  }

  /** Keeps why a series has nothing as spans: written only when the reason changes. */
  private void noteNothing(
      KeptReading kept,
      int[] ids,
      int[] gone,
      SeriesMapper spans,
      Map<Integer, Map<Integer, WhyNothing>> changed) {
    Map<Integer, WhyNothing> lasting =
        changed.computeIfAbsent(
            kept.instance(), id -> new HashMap<>(nothing.computeIfAbsent(id, this::loadNothing)));
    Reading reading = kept.step().reading();
    for (int i = 0; i < ids.length; i++) {
      note(ids[i], reading.why()[i], reading.at(), spans, lasting);
    }
    for (int id : gone) {
      note(id, WhyNothing.RETIRED, reading.at(), spans, lasting);
    }
  }

  private static void note(
      int id, WhyNothing now, Instant at, SeriesMapper spans, Map<Integer, WhyNothing> lasting) {
    WhyNothing then = lasting.get(id);
    if (now == then) {
      return;
    }
    if (then != null) {
      spans.endNothing(id, at);
      lasting.remove(id);
    }
    if (now != null) {
      spans.beginNothing(new NothingSpan(id, at, null, now.name()));
      lasting.put(id, now);
    }
  }

  private Map<Integer, WhyNothing> loadNothing(int instance) {
    Map<Integer, WhyNothing> loaded = new HashMap<>();
    for (NothingSpan span : seriesMapper.lasting(instance)) {
      loaded.put(span.series(), WhyNothing.valueOf(span.why()));
    }
    return loaded;
  }

  private void makePartition(Instant at) {
    LocalDate day = LocalDate.ofInstant(at, ZoneOffset.UTC);
    if (partitions.contains(day)) {
      return;
    }
    String name = "reading_" + day.toString().replace("-", "");
    if (!mapper.exists(name)) {
      try (SqlSession session = factory.openSession(false)) {
        ReadingMapper maker = session.getMapper(ReadingMapper.class);
        maker.lockPartitions();
        maker.partition(name, day + " 00:00+00", day.plusDays(1) + " 00:00+00");
        session.commit();
      }
    }
    partitions.add(day);
  }
}
