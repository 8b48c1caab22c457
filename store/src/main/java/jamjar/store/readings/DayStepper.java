package jamjar.store.readings;

import jamjar.core.chart.Samples;
import jamjar.core.chart.Stepping;
import jamjar.core.chunk.StepChunk;
import jamjar.core.chunk.ValueWriter;
import jamjar.core.counter.Shape;
import jamjar.store.steps.StepMapper;
import jamjar.store.steps.StepRow;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import org.apache.ibatis.session.SqlSession;

/** Makes the steps of a sealed day: some series at a time, so that the heap holds few days. */
final class DayStepper {
  private static final int AT_ONCE = 16;
  private static final int[] WIDTHS = {1, 15};
  private static final long MINUTE = 60_000;

  /** What lies this many intervals beyond an edge may reach over it. */
  private static final int MARGIN = 3;

  private final ValueWriter writer = new ValueWriter();
  private final Windows windows;

  DayStepper(Windows windows) {
    this.windows = windows;
  }

  /**
   * Makes them anew, within a transaction.
   *
   * @param layouts those of the day
   * @param shapes per series level or total; empty for one that gets no steps
   */
  void make(
      SqlSession session,
      int instance,
      int source,
      Instant day,
      Map<Integer, LayoutRow> layouts,
      int[] series,
      IntFunction<Optional<Shape>> shapes) {
    int interval = layouts.values().stream().mapToInt(LayoutRow::intervalS).max().orElse(0);
    Duration margin = Duration.ofSeconds((long) MARGIN * interval);
    StepMapper steps = session.getMapper(StepMapper.class);
    steps.remove(series, source, day);
    int[] with = Arrays.stream(series).filter(id -> shapes.apply(id).isPresent()).toArray();
    for (int from = 0; from < with.length; from += AT_ONCE) {
      int[] some = Arrays.copyOfRange(with, from, Math.min(with.length, from + AT_ONCE));
      List<int[]> groups = Arrays.stream(some).mapToObj(id -> new int[] {id}).toList();
      List<Samples> samples =
          windows.samples(
              session,
              instance,
              groups,
              day.minus(margin),
              day.plus(1, ChronoUnit.DAYS).plus(margin));
      for (int i = 0; i < some.length; i++) {
        add(steps, some[i], source, day, samples.get(i), shapes.apply(some[i]).orElseThrow());
      }
    }
  }

  private void add(
      StepMapper to, int series, int source, Instant day, Samples samples, Shape shape) {
    long slowest = Arrays.stream(samples.interval()).max().orElse(0);
    for (int minutes : WIDTHS) {
      long width = minutes * MINUTE;
      // those of a minute are not finer than what they are made of; the others outlive that
      if (slowest <= width || minutes > 1) {
        int count = (int) (Duration.ofDays(1).toMillis() / width);
        byte[] body =
            StepChunk.write(Stepping.of(shape, samples, day.toEpochMilli(), width, count), writer);
        to.add(new StepRow(series, source, minutes, day, body));
      }
    }
  }
}
