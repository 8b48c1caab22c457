package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Stepping;
import jamjar.core.chunk.StepChunk;
import jamjar.core.chunk.ValueWriter;
import jamjar.core.counter.Shape;
import jamjar.core.reading.SeriesKey;
import jamjar.store.chunks.SpanRow;
import jamjar.store.steps.StepMapper;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.apache.ibatis.session.SqlSession;

/**
 * Makes the steps of a sealed day: some series at a time, so that the heap holds few days. For
 * several threads at once.
 */
final class DayStepper {
  private static final int AT_ONCE = 16;
  private static final int[] WIDTHS = {1, 15, 360};
  private static final long MINUTE = 60_000;

  /** What lies this many intervals beyond an edge may reach over it. */
  private static final int MARGIN = 3;

  private final Windows windows;
  private final SeriesCatalog catalog;

  DayStepper(Windows windows, SeriesCatalog catalog) {
    this.windows = windows;
    this.catalog = catalog;
  }

  /**
   * Makes them anew, within a transaction.
   *
   * @param layouts those of the day
   */
  void make(SqlSession session, SpanRow of, Map<Integer, LayoutRow> layouts, int[] series) {
    int source = of.source();
    Instant day = of.fromAt();
    int interval = layouts.values().stream().mapToInt(LayoutRow::intervalS).max().orElse(0);
    Duration margin = Duration.ofSeconds((long) MARGIN * interval);
    StepMapper steps = session.getMapper(StepMapper.class);
    steps.remove(series, source, day);
    Set<String> totals = totals(layouts.values());
    for (int from = 0; from < series.length; from += AT_ONCE) {
      int[] some = Arrays.copyOfRange(series, from, Math.min(series.length, from + AT_ONCE));
      List<int[]> groups = Arrays.stream(some).mapToObj(id -> new int[] {id}).toList();
      List<Samples> samples =
          windows.samples(
              session,
              of.instance(),
              groups,
              day.minus(margin),
              day.plus(1, ChronoUnit.DAYS).plus(margin));
      Made made = new Made(of, totals);
      for (int i = 0; i < some.length; i++) {
        made.add(some[i], samples.get(i));
      }
      made.write(steps);
    }
  }

  /**
   * The counters that are totals, as the layouts tell: what they were read as then, whatever their
   * recipe says now.
   */
  Set<String> totals(Collection<LayoutRow> layouts) {
    return layouts.stream()
        .flatMapToInt(layout -> IntStream.of(layout.totals()))
        .distinct()
        .mapToObj(this::counter)
        .flatMap(Optional::stream)
        .collect(Collectors.toSet());
  }

  private Optional<String> counter(int series) {
    return catalog.key(series).map(SeriesKey::counter);
  }

  /** The steps of some series of a day. */
  final class Made {
    private final ValueWriter writer = new ValueWriter();
    private final SpanRow of;
    private final Set<String> totals;
    private final List<Integer> series = new ArrayList<>();
    private final List<Integer> minutes = new ArrayList<>();
    private final List<byte[]> bodies = new ArrayList<>();

    /**
     * @param totals the counters that are totals
     */
    Made(SpanRow of, Set<String> totals) {
      this.of = of;
      this.totals = totals;
    }

    /**
     * Makes those of one series.
     *
     * @param samples of the day, with some more on either side
     */
    void add(int id, Samples samples) {
      boolean total = counter(id).filter(totals::contains).isPresent();
      Shape shape = total ? Shape.TOTAL : Shape.LEVEL;
      long slowest = Arrays.stream(samples.interval()).max().orElse(0);
      for (int wide : WIDTHS) {
        long width = wide * MINUTE;
        // those of a minute are not finer than what they are made of; the others outlive that
        if (slowest <= width || wide > 1) {
          int count = (int) (Duration.ofDays(1).toMillis() / width);
          series.add(id);
          minutes.add(wide);
          bodies.add(
              StepChunk.write(
                  Stepping.of(shape, samples, of.fromAt().toEpochMilli(), width, count), writer));
        }
      }
    }

    /** Writes them, within a transaction; there are none after that. */
    void write(StepMapper to) {
      if (!series.isEmpty()) {
        to.add(of, ints(series), ints(minutes), bodies.toArray(byte[][]::new));
      }
      series.clear();
      minutes.clear();
      bodies.clear();
    }

    private static int[] ints(List<Integer> list) {
      return list.stream().mapToInt(Integer::intValue).toArray();
    }
  }
}
