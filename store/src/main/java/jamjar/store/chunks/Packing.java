package jamjar.store.chunks;

import jamjar.core.chunk.ReadingTimes;
import jamjar.core.chunk.ValueReader;
import jamjar.core.chunk.ValueWriter;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Gathers the readings of one source in order of time, or the spans of a day, and packs them into
 * one span with a chunk for each series.
 */
public final class Packing {
  private final ValueWriter writer = new ValueWriter();
  private final Map<Integer, Column> columns = new LinkedHashMap<>();
  private final List<ReadingTimes> times = new ArrayList<>();
  private int[] layouts = new int[8];
  private int[] counts = new int[8];
  private int runs;

  /**
   * A span with its chunks.
   *
   * @param series of which they are
   * @param bodies in their order: {@link ValueWriter}
   */
  public record Packed(SpanRow span, int[] series, byte[][] bodies) {
    private static final int AT_ONCE = 256;

    private Packed(SpanRow span, int chunks) {
      this(span, new int[chunks], new byte[chunks][]);
    }

    /** Writes it, within a transaction. */
    public void add(ChunkMapper to) {
      to.addSpan(span);
      for (int from = 0; from < series.length; from += AT_ONCE) {
        int end = Math.min(series.length, from + AT_ONCE);
        to.addChunks(
            span, Arrays.copyOfRange(series, from, end), Arrays.copyOfRange(bodies, from, end));
      }
    }
  }

  private static final class Column {
    private double[] values;
    private int n;

    Column(int atFirst) {
      values = new double[Math.max(1, atFirst)];
    }

    void add(double value) {
      if (n == values.length) {
        values = Arrays.copyOf(values, 2 * n);
      }
      values[n++] = value;
    }
  }

  /**
   * Readings that follow those before.
   *
   * @param when when they were taken
   * @param layout the layout of all of them
   * @param series the numbers of its series
   * @param values per reading the values in the order of the series
   */
  public void add(ReadingTimes when, int layout, int[] series, List<double[]> values) {
    times.add(when);
    run(layout, values.size());
    Column[] into = new Column[series.length];
    for (int i = 0; i < series.length; i++) {
      into[i] = columns.computeIfAbsent(series[i], s -> new Column(values.size()));
    }
    for (double[] reading : values) {
      for (int i = 0; i < into.length; i++) {
        into[i].add(reading[i]);
      }
    }
  }

  private void run(int layout, int count) {
    if (runs > 0 && layouts[runs - 1] == layout) {
      counts[runs - 1] += count;
      return;
    }
    if (runs == layouts.length) {
      layouts = Arrays.copyOf(layouts, 2 * runs);
      counts = Arrays.copyOf(counts, 2 * runs);
    }
    layouts[runs] = layout;
    counts[runs++] = count;
  }

  public boolean isEmpty() {
    return runs == 0;
  }

  /**
   * All of it as one span.
   *
   * @param keep how long it is to be kept: the number of the class
   */
  public Packed pack(
      int instance, int source, boolean day, Instant from, Instant to, int revision, int keep) {
    SpanRow span = span(instance, source, day, from, to, revision, keep);
    Packed packed = new Packed(span, columns.size());
    int i = 0;
    for (Map.Entry<Integer, Column> one : columns.entrySet()) {
      packed.series[i] = one.getKey();
      packed.bodies[i++] = writer.write(one.getValue().values, one.getValue().n);
    }
    return packed;
  }

  private SpanRow span(
      int instance, int source, boolean day, Instant from, Instant to, int revision, int keep) {
    return new SpanRow(
        instance,
        source,
        day,
        from,
        to,
        revision,
        Arrays.copyOf(layouts, runs),
        Arrays.copyOf(counts, runs),
        ReadingTimes.together(times).write(),
        keep);
  }

  /**
   * Spans that follow each other as one: one series after the other, so that a day of a series is
   * all that is open at a time.
   *
   * @param spans in order of time
   * @param chunks all of theirs, in order of time
   * @param keep as above
   */
  public static Packed merged(
      List<SpanRow> spans, List<ChunkRow> chunks, Instant from, Instant to, int keep) {
    Packing packing = new Packing();
    int revision = 1;
    for (SpanRow span : spans) {
      packing.times.add(ReadingTimes.read(span.times()));
      for (int i = 0; i < span.layouts().length; i++) {
        packing.run(span.layouts()[i], span.counts()[i]);
      }
      revision = Math.max(revision, span.revision());
    }
    SpanRow first = spans.get(0);
    SpanRow whole = packing.span(first.instance(), first.source(), true, from, to, revision, keep);
    Map<Integer, List<ChunkRow>> bySeries = new LinkedHashMap<>();
    chunks.forEach(
        chunk -> bySeries.computeIfAbsent(chunk.series(), s -> new ArrayList<>()).add(chunk));
    ValueReader reader = new ValueReader();
    Packed packed = new Packed(whole, bySeries.size());
    int i = 0;
    for (Map.Entry<Integer, List<ChunkRow>> one : bySeries.entrySet()) {
      double[] values = together(one.getValue().stream().map(c -> c.values(reader)).toList());
      packed.series[i] = one.getKey();
      packed.bodies[i++] = packing.writer.write(values, values.length);
    }
    return packed;
  }

  private static double[] together(List<double[]> parts) {
    double[] all = new double[parts.stream().mapToInt(part -> part.length).sum()];
    int from = 0;
    for (double[] part : parts) {
      System.arraycopy(part, 0, all, from, part.length);
      from += part.length;
    }
    return all;
  }
}
