package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Steps;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.alerts.JudgedStore;
import jamjar.store.chunks.ChunkMapper;
import jamjar.store.series.NothingSpan;
import jamjar.store.series.SeriesMapper;
import jamjar.store.steps.StepMapper;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
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
  private final ChunkMapper chunkMapper;
  private final Windows watched;
  private final Windows asked;
  private final SeriesMapper seriesMapper;
  private final SeriesCatalog catalog;
  private final Map<SourceKey, Placed> layouts = new ConcurrentHashMap<>();
  private final Map<Integer, Map<Integer, WhyNothing>> nothing = new ConcurrentHashMap<>();
  private final SealedUntil sealed = new SealedUntil();
  private final Days days;
  private final Sealer sealer;
  private final Retention retention;

  /**
   * @param writing for what watching and judging write and read, so that it waits for nothing that
   *     is asked
   * @param asking for what persons ask
   * @param away tells a failure as the database is away from others
   */
  public ReadingStore(
      SqlSessionFactory writing,
      SqlSession watching,
      SqlSessionFactory asking,
      Predicate<Throwable> away) {
    Layouts known = new Layouts();
    this.factory = writing;
    this.mapper = watching.getMapper(ReadingMapper.class);
    this.chunkMapper = watching.getMapper(ChunkMapper.class);
    this.watched = new Windows(writing, known);
    this.asked = new Windows(asking, known);
    this.seriesMapper = watching.getMapper(SeriesMapper.class);
    this.catalog = new SeriesCatalog(seriesMapper);
    this.days = new Days(writing, sealed);
    this.retention = new Retention(writing);
    this.sealer = new Sealer(writing, known, sealed, days, catalog, away);
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(ReadingMapper.class);
    configuration.addMapper(ChunkMapper.class);
    configuration.addMapper(StepMapper.class);
  }

  /**
   * Writes readings in one transaction: all or none. Not to be called for the same source from two
   * threads at once.
   *
   * @return per reading the numbers of its series, in its order
   */
  public List<int[]> write(List<KeptReading> readings) {
    sealed.writing().lock();
    try {
      return writeAll(readings);
    } finally {
      sealed.writing().unlock();
    }
  }

  private List<int[]> writeAll(List<KeptReading> readings) {
    List<int[]> ids = new ArrayList<>(readings.size());
    List<int[]> gone = new ArrayList<>(readings.size());
    List<int[]> come = new ArrayList<>(readings.size());
    List<ReadingRow> rows = new ArrayList<>(readings.size());
    Map<SourceKey, TotalsRow> totals = new HashMap<>();
    Map<Integer, Map<Integer, WhyNothing>> changed = new HashMap<>();
    for (KeptReading kept : readings) {
      Reading reading = kept.step().reading();
      days.make(reading.at());
      SourceKey source = new SourceKey(kept.instance(), kept.source());
      begins(source, reading.at());
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
      ChunkMapper chunks = batch.getMapper(ChunkMapper.class);
      rows.stream()
          .filter(row -> sealed.isLate(new SourceKey(row.instance(), row.source()), row.at()))
          .forEach(row -> tellLate(chunks, row));
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

  private static void tellLate(ChunkMapper to, ReadingRow late) {
    Instant from = Sealer.floor(late.at());
    to.cameLate(late.instance(), late.source(), from, from.plus(Sealer.SPAN).minusMillis(1));
  }

  /**
   * The clock was set back: nothing after that moment counts as packed, so that what comes from now
   * on does not come late.
   */
  public void setBackTo(Instant now) {
    sealed.backTo(now);
  }

  /** What packs the rows that are old enough. */
  public Sealer sealer() {
    return sealer;
  }

  /** What drops what is older than is kept. */
  public Retention retention() {
    return retention;
  }

  /** Before this no reading of an instance is kept as it was; empty where none is packed. */
  public Optional<Instant> firstSpan(int instance) {
    return Optional.ofNullable(mapper.firstSpan(instance));
  }

  public StoreSize size() {
    return new StoreSize(
        mapper.bytes(), mapper.rowBytes(), Optional.ofNullable(chunkMapper.allSealed()));
  }

  /** A source that is read for the first time has nothing sealed. */
  private void begins(SourceKey source, Instant at) {
    if (!sealed.knows(source)) {
      mapper.begins(source.instance(), source.source(), Sealer.floor(at));
      chunkMapper.sealed(source.instance()).stream()
          .filter(row -> row.source() == source.source())
          .forEach(row -> sealed.stands(source, row.untilAt()));
    }
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
    return samples(instance, List.of(ids), from, to).get(0);
  }

  /** As above, of several, read together. */
  public List<Samples> samples(int instance, List<int[]> groups, Instant from, Instant to) {
    return asked.samples(instance, groups, from, to);
  }

  /**
   * Per series its days in steps that touch a window, in order of time; none where it was read too
   * seldom, or the day is not packed.
   *
   * @param minutes the width of a step: 1 or 15
   */
  public Map<Integer, List<Steps>> steps(int[] series, int minutes, Instant from, Instant to) {
    return asked.steps(series, minutes, from, to);
  }

  /** Whole readings of an instance over a window, both ends inclusive. */
  public List<StoredReading> readings(int instance, Instant from, Instant to) {
    return asked.readings(instance, from, to);
  }

  /** As above, for judging. */
  public List<StoredReading> toJudge(int instance, Instant from, Instant to) {
    return watched.readings(instance, from, to);
  }

  /** Since then no reading was taken before this. */
  public Optional<Instant> firstAt(int instance, Instant from) {
    return Optional.ofNullable(mapper.firstAt(instance, from));
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
}
