package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.store.chunks.ChunkMapper;
import jamjar.store.chunks.SpanRow;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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

  /** The readings that have all of some series; both ends inclusive. */
  Samples samples(int instance, int[] ids, Instant from, Instant to) {
    Columns columns = new Columns(ids.length);
    try (SqlSession session = factory.openSession(TransactionIsolationLevel.REPEATABLE_READ)) {
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
      List<SpanRow> spans = chunks.touching(instance, from, to);
      Map<Integer, LayoutRow> theirs = layouts.of(rows, layoutsOf(spans));
      List<SpanRow> with = spans.stream().filter(span -> holds(span, theirs, ids)).toList();
      for (OpenSpan span : OpenSpan.of(with, theirs, ids, chunks)) {
        span.addTo(columns, ids, Micros.of(from), Micros.of(to));
      }
      addRows(columns, rows, new Sealed(chunks, instance), ids, from, to);
    }
    return columns.samples();
  }

  private static boolean holds(SpanRow span, Map<Integer, LayoutRow> layouts, int[] ids) {
    return IntStream.of(span.layouts()).anyMatch(id -> places(layouts.get(id), ids).length > 0);
  }

  private void addRows(
      Columns columns, ReadingMapper through, Sealed sealed, int[] ids, Instant from, Instant to) {
    Instant first = later(from, sealed.first());
    int[] used = through.layoutsOf(sealed.instance(), first, to);
    for (LayoutRow layout : layouts.of(through, IntStream.of(used)).values()) {
      int[] places = places(layout, ids);
      if (places.length > 0) {
        Instant begin = later(from, sealed.of(layout.source()));
        List<Integer> boxed = IntStream.of(places).boxed().toList();
        for (PlacedRow row :
            through.placed(sealed.instance(), layout.source(), layout.id(), boxed, begin, to)) {
          columns.add(Micros.millis(row.at()), row.elapsedMs(), 1000L * layout.intervalS());
          for (int k = 0; k < ids.length; k++) {
            columns.value(k, row.vals()[k]);
          }
        }
      }
    }
  }

  /** Where the ids stand, from 1; empty unless all of them do. */
  private static int[] places(LayoutRow layout, int[] ids) {
    int[] places = IntStream.of(ids).map(layout::place).toArray();
    return IntStream.of(places).allMatch(place -> place > 0) ? places : new int[0];
  }

  /** Whole readings; both ends inclusive. */
  Readings readings(int instance, Instant from, Instant to) {
    List<StoredReading> found = new ArrayList<>();
    try (SqlSession session = factory.openSession(TransactionIsolationLevel.REPEATABLE_READ)) {
      ChunkMapper chunks = session.getMapper(ChunkMapper.class);
      ReadingMapper rows = session.getMapper(ReadingMapper.class);
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
    return new Readings(found);
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
