package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.store.chunks.ChunkMapper;
import jamjar.store.chunks.Packing;
import jamjar.store.chunks.Packing.Packed;
import jamjar.store.chunks.SpanRow;
import jamjar.store.keeping.Keeping;
import jamjar.store.keeping.KeepingMapper;
import jamjar.store.steps.StepMapper;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.apache.ibatis.session.ExecutorType;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;

/**
 * Brings in what was read long ago, a day of a source at a time, or two hours of a day that is not
 * over: packed at once. Only where nothing of that time is there, and up to where the source is
 * packed already. One for each thread.
 */
public final class Import {
  private final SqlSessionFactory factory;
  private final Layouts layouts;
  private final MonthTables months;
  private final DayStepper stepper;

  Import(SqlSessionFactory factory, Layouts layouts, SeriesCatalog catalog) {
    this.factory = factory;
    this.layouts = layouts;
    this.months = new MonthTables(factory);
    this.stepper = new DayStepper(new Windows(factory, layouts), catalog);
  }

  /** Up to when a source is packed: what is brought in lies before that. Empty for a new one. */
  public Optional<Instant> until(int instance, int source) {
    try (SqlSession session = factory.openSession(true)) {
      return session.getMapper(ChunkMapper.class).sealed(instance).stream()
          .filter(row -> row.source() == source)
          .map(ChunkMapper.Until::untilAt)
          .findFirst();
    }
  }

  /** The day, or the two hours of today, that a moment lies in. */
  public static Instant begin(Instant at, boolean wholeDay) {
    return wholeDay ? at.truncatedTo(ChronoUnit.DAYS) : Sealer.floor(at);
  }

  /**
   * Brings in what was read on a day.
   *
   * @param until where that is all there is of the day: it is brought in two hours at a time
   */
  public void addDay(Instant day, Optional<Instant> until, List<LaidOut> readings) {
    if (until.isEmpty()) {
      add(day, true, readings);
      return;
    }
    for (Instant span = begin(until.get(), false);
        !span.isBefore(day);
        span = begin(span.minusSeconds(1), false)) {
      add(span, false, readings);
    }
  }

  /**
   * Brings in a day, or two hours.
   *
   * @param wholeDay whether it is a day
   * @param readings of one source, in order of time. Those outside of it only tell how the first
   *     and the last within it go on
   * @return whether it was taken: not where there is something of that time
   */
  public boolean add(Instant from, boolean wholeDay, List<LaidOut> readings) {
    Instant to = from.plus(wholeDay ? Duration.ofDays(1) : Sealer.SPAN);
    if (readings.isEmpty()) {
      return false;
    }
    int instance = readings.get(0).row().instance();
    int source = readings.get(0).row().source();
    try (SqlSession session = factory.openSession(ExecutorType.BATCH, false)) {
      int keep = session.getMapper(KeepingMapper.class).of(instance);
      months.make(from, keep);
      // what is lost is lost as a whole and brought in again
      session.getMapper(ReadingMapper.class).needNotWait();
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      Optional<Instant> until = chunks.lock(instance, source);
      Instant end = until.filter(u -> u.isBefore(to)).orElse(to);
      if (until.isEmpty()
          || wholeDay && end.isBefore(to)
          || !Sealer.spans(chunks, instance, source, from, to).isEmpty()) {
        return false;
      }
      List<LaidOut> within =
          readings.stream()
              .filter(one -> !one.row().at().isBefore(from) && one.row().at().isBefore(end))
              .toList();
      if (within.isEmpty()) {
        return false;
      }
      Packed packed =
          pack(session, within)
              .pack(instance, source, wholeDay, from, to, 1, wholeDay ? keep : Keeping.USUAL);
      packed.add(chunks);
      if (wholeDay) {
        step(session, packed.span(), readings);
      }
      session.commit();
      return true;
    }
  }

  private Packing pack(SqlSession session, List<LaidOut> readings) {
    Packing packing = new Packing();
    Sealer.add(
        packing,
        readings.stream().map(LaidOut::row).map(RawRow::of).toList(),
        layouts,
        session.getMapper(ReadingMapper.class));
    return packing;
  }

  private void step(SqlSession session, SpanRow day, List<LaidOut> readings) {
    ReadingMapper through = session.getMapper(ReadingMapper.class);
    StepMapper steps = session.getMapper(StepMapper.class);
    Map<Integer, Gathered> bySeries = new HashMap<>();
    Set<LayoutRow> used = new HashSet<>();
    LayoutRow layout = null;
    Gathered[] into = {};
    for (LaidOut reading : readings) {
      ReadingRow row = reading.row();
      // most are laid out as the one before
      if (layout == null || layout.id() != row.layout()) {
        layout = layouts.of(through, row.layout());
        used.add(layout);
        into =
            IntStream.of(layout.series())
                .mapToObj(s -> bySeries.computeIfAbsent(s, id -> new Gathered(readings.size())))
                .toArray(Gathered[]::new);
      }
      for (int i = 0; i < into.length; i++) {
        into[i].add(row, 1000L * layout.intervalS(), row.vals()[i]);
      }
    }
    Set<String> totals = stepper.totals(new ArrayList<>(used));
    DayStepper.Made made = stepper.new Made(day, totals);
    bySeries.forEach((series, values) -> made.add(series, values.samples()));
    made.write(steps);
  }

  /** The readings of one series. */
  private static final class Gathered {
    private final long[] at;
    private final long[] elapsed;
    private final long[] interval;
    private final double[] value;
    private int n;

    Gathered(int most) {
      at = new long[most];
      elapsed = new long[most];
      interval = new long[most];
      value = new double[most];
    }

    void add(ReadingRow row, long every, double now) {
      at[n] = Micros.millis(Micros.of(row.at()));
      elapsed[n] = row.elapsedMs();
      interval[n] = every;
      value[n++] = now;
    }

    Samples samples() {
      return new Samples(
          Arrays.copyOf(at, n),
          Arrays.copyOf(elapsed, n),
          Arrays.copyOf(interval, n),
          Arrays.copyOf(value, n),
          List.of());
    }
  }
}
