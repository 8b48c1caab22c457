package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Steps;
import jamjar.core.chunk.ValueReader;
import jamjar.store.chunks.ChunkMapper;
import jamjar.store.chunks.SpanRow;
import jamjar.store.steps.StepMapper;
import jamjar.store.steps.StepRow;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.BiFunction;
import java.util.stream.IntStream;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.apache.ibatis.session.TransactionIsolationLevel;

/**
 * Reads windows of time, from chunks as far as all is sealed and from rows beyond: at one moment of
 * the database, so that what is being sealed meanwhile is seen once.
 */
final class Windows {
  private final SqlSessionFactory factory;
  private final Layouts layouts;

  Windows(SqlSessionFactory factory, Layouts layouts) {
    this.factory = factory;
    this.layouts = layouts;
  }

  /**
   * Per group of series the readings that have all of it; both ends inclusive.
   *
   * @param groups the series, or the parts of a quotient
   */
  List<Samples> samples(int instance, List<int[]> groups, Instant from, Instant to) {
    try (SqlSession session = factory.openSession(TransactionIsolationLevel.REPEATABLE_READ)) {
      session.getMapper(ReadingMapper.class).holdDays();
      return samples(session, instance, groups, from, to);
    }
  }

  /** As above, as seen by a transaction. */
  List<Samples> samples(
      SqlSession session, int instance, List<int[]> groups, Instant from, Instant to) {
    List<Columns> columns = groups.stream().map(Columns::new).toList();
    int[] ids = groups.stream().flatMapToInt(IntStream::of).distinct().toArray();
    ChunkMapper chunks = session.getMapper(ChunkMapper.class);
    ReadingMapper rows = session.getMapper(ReadingMapper.class);
    List<SpanRow> spans = chunks.touching(instance, from, to);
    Map<Integer, LayoutRow> theirs = layouts.of(rows, layoutsOf(spans));
    List<SpanRow> with = spans.stream().filter(span -> holds(span, theirs, ids)).toList();
    for (OpenSpan span : OpenSpan.of(with, theirs, ids, chunks)) {
      columns.forEach(some -> span.addTo(some, Micros.of(from), Micros.of(to)));
    }
    addRows(columns, ids, rows, new Sealed(chunks, instance), from, to);
    return columns.stream().map(Columns::samples).toList();
  }

  /**
   * Per series its days in steps of so many minutes that touch a window, in order of time.
   *
   * @param opening how much of each is wanted
   */
  Map<Integer, List<Steps>> steps(
      int[] series,
      int minutes,
      Instant from,
      Instant to,
      BiFunction<StepRow, ValueReader, Steps> opening) {
    Map<Integer, Map<Long, Steps>> found = new HashMap<>();
    ValueReader reader = new ValueReader();
    Instant first = from.truncatedTo(ChronoUnit.DAYS);
    try (SqlSession session = factory.openSession(true)) {
      for (StepRow row :
          session
              .getMapper(StepMapper.class)
              .touching(series, minutes, Months.begin(from), first, to)) {
        Steps whole = opening.apply(row, reader);
        Map<Long, Steps> days = found.computeIfAbsent(row.series(), id -> new TreeMap<>());
        if (whole.to() - whole.from() <= Months.DAY) {
          // a day that is there by itself was made later than its month
          days.put(whole.from(), whole);
          continue;
        }
        long end = Math.min(whole.to(), to.toEpochMilli() + 1);
        for (long at = Math.max(whole.from(), first.toEpochMilli()); at < end; at += Months.DAY) {
          Steps day = whole.within(at, at + Months.DAY);
          if (!day.empty()) {
            days.put(at, day);
          }
        }
      }
    }
    Map<Integer, List<Steps>> inOrder = new HashMap<>();
    found.forEach((id, days) -> inOrder.put(id, List.copyOf(days.values())));
    return inOrder;
  }

  /** Whether it holds any of them. */
  private static boolean holds(SpanRow span, Map<Integer, LayoutRow> layouts, int[] ids) {
    return IntStream.of(span.layouts())
        .mapToObj(layouts::get)
        .anyMatch(layout -> IntStream.of(ids).anyMatch(id -> layout.place(id) > 0));
  }

  private void addRows(
      List<Columns> columns,
      int[] ids,
      ReadingMapper through,
      Sealed sealed,
      Instant from,
      Instant to) {
    Instant first = later(from, sealed.first());
    int[] used = through.layoutsOf(sealed.instance(), first, to);
    for (LayoutRow layout : layouts.of(through, IntStream.of(used)).values()) {
      int[] here = IntStream.of(ids).filter(id -> layout.place(id) > 0).toArray();
      if (here.length > 0) {
        List<Integer> places = IntStream.of(here).map(layout::place).boxed().toList();
        List<PlacedRow> rows =
            through.placed(
                sealed.instance(),
                layout.source(),
                layout.id(),
                places,
                later(from, sealed.of(layout.source())),
                to);
        columns.forEach(some -> some.add(rows, here, 1000L * layout.intervalS()));
      }
    }
  }

  /** Whole readings in order of time; both ends inclusive. */
  List<StoredReading> readings(int instance, Instant from, Instant to) {
    List<StoredReading> found = new ArrayList<>();
    try (SqlSession session = factory.openSession(TransactionIsolationLevel.REPEATABLE_READ)) {
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      rows.holdDays();
      List<SpanRow> spans = chunks.touching(instance, from, to);
      Map<Integer, LayoutRow> theirs = layouts.of(rows, layoutsOf(spans));
      for (OpenSpan span : OpenSpan.whole(spans, theirs, chunks)) {
        add(found, span.rows(), rows, from, to);
      }
      Sealed sealed = new Sealed(chunks, instance);
      List<RawRow> unsealed = new ArrayList<>(rows.rows(instance, later(from, sealed.first()), to));
      unsealed.removeIf(row -> row.at().isBefore(sealed.of(row.source())));
      add(found, unsealed, rows, from, to);
    }
    found.sort(Comparator.comparing(StoredReading::at).thenComparingInt(StoredReading::source));
    return found;
  }

  private void add(
      List<StoredReading> found,
      List<RawRow> rows,
      ReadingMapper through,
      Instant from,
      Instant to) {
    for (RawRow row : rows) {
      if (!row.overlapped() && !row.at().isBefore(from) && !row.at().isAfter(to)) {
        LayoutRow layout = layouts.of(through, row.layout());
        found.add(
            new StoredReading(
                row.at(),
                row.arrived(),
                row.elapsedMs(),
                row.source(),
                layout.intervalS(),
                layout.series(),
                row.vals()));
      }
    }
  }

  static IntStream layoutsOf(List<SpanRow> spans) {
    return spans.stream().flatMapToInt(span -> IntStream.of(span.layouts()));
  }

  private static Instant later(Instant a, Instant b) {
    return a.isAfter(b) ? a : b;
  }

  /** Up to when the sources of an instance are sealed. */
  private static final class Sealed {
    private final int instance;
    private final Map<Integer, Instant> until = new HashMap<>();

    Sealed(ChunkMapper through, int instance) {
      this.instance = instance;
      through.sealed(instance).forEach(row -> until.put(row.source(), row.untilAt()));
    }

    int instance() {
      return instance;
    }

    Instant of(int source) {
      return until.getOrDefault(source, Instant.EPOCH);
    }

    /** Before this there is no row of any source that is not sealed. */
    Instant first() {
      return until.values().stream().min(Comparator.naturalOrder()).orElse(Instant.EPOCH);
    }
  }
}
