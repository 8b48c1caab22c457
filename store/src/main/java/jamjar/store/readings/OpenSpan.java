package jamjar.store.readings;

import jamjar.core.chunk.ReadingTimes;
import jamjar.core.chunk.ValueReader;
import jamjar.store.chunks.ChunkMapper;
import jamjar.store.chunks.ChunkRow;
import jamjar.store.chunks.SpanRow;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/** A sealed span, opened: its readings one after the other with the values of some series. */
final class OpenSpan {
  private final SpanRow span;
  private final ReadingTimes times;
  private final Map<Integer, LayoutRow> layouts;
  private final Map<Integer, double[]> values;

  private OpenSpan(SpanRow span, Map<Integer, LayoutRow> layouts, Map<Integer, double[]> values) {
    this.span = span;
    this.times = ReadingTimes.read(span.times());
    this.layouts = layouts;
    this.values = values;
  }

  /**
   * Spans with all that they hold.
   *
   * @param layouts at least all of theirs
   */
  static List<OpenSpan> whole(
      List<SpanRow> spans, Map<Integer, LayoutRow> layouts, ChunkMapper through) {
    return of(spans, layouts, series(spans, layouts), through);
  }

  /** All series of the spans. */
  static int[] series(List<SpanRow> spans, Map<Integer, LayoutRow> layouts) {
    return spans.stream()
        .flatMapToInt(span -> IntStream.of(span.layouts()))
        .distinct()
        .flatMap(id -> IntStream.of(layouts.get(id).series()))
        .distinct()
        .toArray();
  }

  /**
   * @param spans in order of time
   */
  static List<OpenSpan> of(
      List<SpanRow> spans, Map<Integer, LayoutRow> layouts, int[] series, ChunkMapper through) {
    if (spans.isEmpty()) {
      return List.of();
    }
    record Of(int source, boolean day, java.time.Instant from) {}
    Map<Of, Map<Integer, double[]>> values = new HashMap<>();
    ValueReader reader = new ValueReader();
    for (ChunkRow chunk :
        through.chunks(series, spans.get(0).fromAt(), spans.get(spans.size() - 1).fromAt())) {
      values
          .computeIfAbsent(
              new Of(chunk.source(), chunk.day(), chunk.fromAt()), of -> new HashMap<>())
          .put(chunk.series(), chunk.values(reader));
    }
    List<OpenSpan> open = new ArrayList<>(spans.size());
    for (SpanRow span : spans) {
      Of of = new Of(span.source(), span.day(), span.fromAt());
      open.add(new OpenSpan(span, layouts, values.getOrDefault(of, Map.of())));
    }
    return open;
  }

  SpanRow row() {
    return span;
  }

  /** All of its readings, those stamped by another clock too; opened with all of its series. */
  List<RawRow> rows() {
    List<RawRow> rows = new ArrayList<>(times.size());
    Map<Integer, int[]> next = new HashMap<>();
    for (int run = 0; run < span.layouts().length; run++) {
      LayoutRow layout = layouts.get(span.layouts()[run]);
      int n = layout.series().length;
      double[][] columns = new double[n][];
      int[][] at = new int[n][];
      for (int s = 0; s < n; s++) {
        columns[s] = values.get(layout.series()[s]);
        at[s] = next.computeIfAbsent(layout.series()[s], id -> new int[1]);
      }
      for (int i = 0; i < span.counts()[run]; i++) {
        double[] here = new double[n];
        for (int s = 0; s < n; s++) {
          here[s] = columns[s][at[s][0]++];
        }
        rows.add(RawRow.of(times, rows.size(), span.source(), layout.id(), here));
      }
    }
    return rows;
  }

  /**
   * Adds the readings that have all of some series.
   *
   * @param from epoch µs, inclusive, as is the end
   */
  void addTo(Columns columns, long from, long to) {
    int[] ids = columns.ids();
    double[][] of = new double[ids.length][];
    for (int k = 0; k < ids.length; k++) {
      of[k] = values.get(ids[k]);
      if (of[k] == null) {
        return;
      }
    }
    int[] next = new int[ids.length];
    int first = 0;
    for (int run = 0; run < span.layouts().length; run++) {
      LayoutRow layout = layouts.get(span.layouts()[run]);
      int count = span.counts()[run];
      boolean all = true;
      boolean[] there = new boolean[ids.length];
      for (int k = 0; k < ids.length; k++) {
        there[k] = layout.place(ids[k]) > 0;
        all &= there[k];
      }
      for (int i = 0; all && i < count; i++) {
        long at = times.at()[first + i];
        if (at >= from && at <= to && times.marks()[first + i] == 0) {
          columns.add(Micros.millis(at), times.elapsed()[first + i], 1000L * layout.intervalS());
          for (int k = 0; k < ids.length; k++) {
            columns.value(k, of[k][next[k] + i]);
          }
        }
      }
      for (int k = 0; k < ids.length; k++) {
        next[k] += there[k] ? count : 0;
      }
      first += count;
    }
  }
}
