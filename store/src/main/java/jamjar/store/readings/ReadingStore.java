package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Steps;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.SeriesKey;
import jamjar.store.chunks.ChunkMapper;
import jamjar.store.mapping.LabelsHandler;
import jamjar.store.series.SeriesMapper;
import jamjar.store.series.SeriesRow;
import jamjar.store.steps.StepMapper;
import jamjar.store.steps.StepRow;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
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

  /** Numbers reserved at a time: new series of some hours without the database. */
  private static final int SERIES_AHEAD = 20_000;

  private static final int LAYOUTS_AHEAD = 2_000;
  private static final int LAYOUTS_OF_ONE = 50;

  private final SqlSessionFactory factory;
  private final ReadingMapper mapper;
  private final ChunkMapper chunkMapper;
  private final Windows watched;
  private final Windows asked;
  private final SeriesMapper seriesMapper;
  private final SeriesCatalog catalog;
  private final Layouts known;
  private final Placer placer;
  private final WhySpans why;
  private final Numbers seriesNumbers;
  private final Numbers layoutNumbers;

  /** How the last stored reading of each source was laid out. */
  private final Map<SourceKey, Integer> laidOut = new ConcurrentHashMap<>();

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
    this.known = new Layouts();
    this.factory = writing;
    this.mapper = watching.getMapper(ReadingMapper.class);
    this.chunkMapper = watching.getMapper(ChunkMapper.class);
    this.watched = new Windows(writing, known);
    this.asked = new Windows(asking, known);
    this.seriesMapper = watching.getMapper(SeriesMapper.class);
    this.seriesNumbers = new Numbers(SERIES_AHEAD, seriesMapper::reserve);
    this.layoutNumbers = new Numbers(LAYOUTS_AHEAD, mapper::reserveLayouts);
    Registrar direct = new Direct();
    this.catalog = new SeriesCatalog(seriesMapper, seriesNumbers, direct);
    this.placer = new Placer(catalog, layoutNumbers, direct);
    this.why = new WhySpans(seriesMapper);
    this.days = new Days(writing, sealed);
    this.retention = new Retention(writing);
    this.sealer = new Sealer(writing, known, sealed, days, catalog, away);
  }

  public static void addMapper(Configuration configuration) {
    configuration.addMapper(ReadingMapper.class);
    configuration.addMapper(ChunkMapper.class);
    configuration.addMapper(StepMapper.class);
  }

  /** Stores what was given a number at once. */
  private final class Direct implements Registrar {
    @Override
    public void series(List<SeriesRow> rows, Instant at) {
      try (SqlSession batch = factory.openSession(ExecutorType.BATCH, false)) {
        addSeries(batch, rows, at);
        batch.commit();
      }
    }

    @Override
    public void layout(LayoutRow row) {
      mapper.addLayout(row);
    }
  }

  /** From now on what is given a number is kept by somebody else, and brought here later. */
  public void keepNumbers(Registrar registrar) {
    catalog.registrar(registrar);
    placer.registrar(registrar);
  }

  /** Sees to it that new series can be given numbers for a time without the database. */
  public void stockUp() {
    seriesNumbers.stockUp();
    layoutNumbers.stockUp();
  }

  /** Takes up what is known of an instance, so that its readings need no database after that. */
  public void prepare(int instance) {
    catalog.ids(instance, List.of(), Instant.EPOCH);
    mapper.latestLayouts(instance, LAYOUTS_OF_ONE).forEach(placer::knows);
  }

  /** Lays a reading out as it is stored; new series are given numbers first. */
  public LaidOut lay(KeptReading reading) {
    return placer.lay(reading);
  }

  /** Writes new series, within a transaction. */
  public void addSeries(SqlSession batch, List<SeriesRow> rows, Instant at) {
    SeriesMapper to = batch.getMapper(SeriesMapper.class);
    rows.forEach(row -> to.add(row, LabelsHandler.text(row.labels()), at));
    catalog.learn(rows);
  }

  /** Writes a new layout, within a transaction. */
  public void addLayout(SqlSession batch, LayoutRow row) {
    batch.getMapper(ReadingMapper.class).addLayout(row);
    known.learn(row);
  }

  /**
   * Writes readings in one transaction: all or none.
   *
   * @return per reading the numbers of its series, in its order
   */
  public List<int[]> write(List<KeptReading> readings) {
    List<LaidOut> laid = readings.stream().map(this::lay).toList();
    bring(
        laid,
        work -> {
          try (SqlSession batch = factory.openSession(ExecutorType.BATCH, false)) {
            batch.getMapper(ReadingMapper.class).needNotWait();
            work.accept(batch);
            batch.commit();
          }
          return true;
        });
    return laid.stream().map(reading -> known.of(mapper, reading.row().layout()).series()).toList();
  }

  /** A transaction, of which the readings are a part. */
  @FunctionalInterface
  public interface Within {
    /**
     * @param work writes the readings
     * @return whether it was committed
     */
    boolean run(Consumer<SqlSession> work);
  }

  /**
   * Brings readings in, within a transaction of somebody else.
   *
   * @return whether it was committed
   */
  public boolean bring(List<LaidOut> readings, Within transaction) {
    sealed.writing().lock();
    boolean committed = false;
    try {
      Set<Instant> ready = new HashSet<>();
      for (LaidOut reading : readings) {
        ReadingRow row = reading.row();
        if (ready.add(row.at().truncatedTo(ChronoUnit.DAYS))) {
          days.make(row.at());
        }
        begins(new SourceKey(row.instance(), row.source()), row.at());
      }
      WhySpans.Changes[] changes = new WhySpans.Changes[1];
      committed =
          transaction.run(
              batch -> {
                changes[0] = why.changes(batch.getMapper(SeriesMapper.class));
                bring(batch, readings, changes[0]);
              });
      if (committed && changes[0] != null) {
        changes[0].committed();
      }
      return committed;
    } finally {
      if (!committed) {
        // what was taken for written may not be there
        laidOut.clear();
        why.forget();
      }
      sealed.writing().unlock();
    }
  }

  private void bring(SqlSession batch, List<LaidOut> readings, WhySpans.Changes changes) {
    ReadingMapper writer = batch.getMapper(ReadingMapper.class);
    ChunkMapper chunks = batch.getMapper(ChunkMapper.class);
    SeriesMapper series = batch.getMapper(SeriesMapper.class);
    readings.forEach(reading -> writer.add(reading.row()));
    Map<SourceKey, TotalsRow> totals = new LinkedHashMap<>();
    for (LaidOut reading : readings) {
      ReadingRow row = reading.row();
      SourceKey source = new SourceKey(row.instance(), row.source());
      if (sealed.isLate(source, row.at())) {
        tellLate(chunks, row);
      }
      totals.put(source, reading.totals());
    }
    totals.values().forEach(writer::keepTotals);
    for (LaidOut reading : readings) {
      ReadingRow row = reading.row();
      SourceKey source = new SourceKey(row.instance(), row.source());
      LayoutRow now = known.of(mapper, row.layout());
      Integer before = laidOut.get(source);
      int[] gone = NONE;
      if (before == null || before != row.layout()) {
        int[] there =
            before == null
                ? lastSeries(row.instance(), row.source())
                : known.of(mapper, before).series();
        gone = gone(there, now);
        if (gone.length > 0) {
          series.retire(gone, row.at());
          catalog.retired(gone);
        }
        if (now.series().length > 0) {
          series.comeBack(now.series());
          catalog.there(row.instance(), now.series());
        }
        laidOut.put(source, row.layout());
      }
      changes.note(reading, now.series(), gone);
    }
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

  /** What brings in readings of long ago. */
  public Import old() {
    return new Import(factory, known, catalog);
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

  /** From when on anything of some instances is kept, in whatever form; empty where nothing is. */
  public Optional<Instant> first(int[] instances) {
    return Optional.ofNullable(mapper.first(instances));
  }

  public StoreSize size() {
    return new StoreSize(
        mapper.bytes(),
        mapper.rowBytes(),
        mapper.setAside(),
        Optional.ofNullable(chunkMapper.allSealed()));
  }

  /** A source that is read for the first time has nothing sealed. */
  private void begins(SourceKey source, Instant at) {
    if (!sealed.knows(source)) {
      // as the rows are stored
      Instant from = at.truncatedTo(ChronoUnit.MICROS);
      mapper.begins(source.instance(), source.source(), from);
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
    return asked.steps(series, minutes, from, to, StepRow::steps);
  }

  /** As above, without the least and the greatest of each step. */
  public Map<Integer, List<Steps>> means(int[] series, int minutes, Instant from, Instant to) {
    return asked.steps(series, minutes, from, to, StepRow::means);
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
  private int[] gone(int[] before, LayoutRow now) {
    Set<Integer> there = new HashSet<>();
    Arrays.stream(now.series()).forEach(there::add);
    Set<String> whole = Set.of(now.counters());
    return Arrays.stream(before)
        .filter(id -> !there.contains(id))
        .filter(id -> catalog.key(id).map(key -> whole.contains(key.counter())).orElse(false))
        .toArray();
  }
}
