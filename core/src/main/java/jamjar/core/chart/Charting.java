package jamjar.core.chart;

import jamjar.core.baseline.Quantiles;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.value.Value;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * From kept readings to what a chart draws.
 *
 * <p>A level holds until the next reading, at most 1.5 intervals. An increase is spread evenly over
 * its elapsed. An increase that covers more than 2.5 intervals enters sums only: the chart sees a
 * gap. A quotient is Σ numerator / Σ denominator over the step; of two levels, area / area. Where
 * there are more readings than points wanted, each point is the mean of an equal step of time, with
 * the least and the greatest reading that touches it, so that a one-reading spike stays visible; a
 * reading across an edge is split by seconds.
 */
public final class Charting {
  /** A step that is covered less is thin. */
  private static final double THIN = 0.5;

  private static final int FIGURE_STEPS = 400;
  private static final double P95 = 0.95;

  private Charting() {}

  /**
   * @param counter what is charted
   * @param partShape the shape of what was read: of a quotient that of its parts, else its own
   * @param samples the readings, with one more on either side of the window where there is one
   * @param from start of the window, epoch ms
   * @param to end of the window, epoch ms, later than from
   * @param maxPoints the most points wanted, at least 1
   */
  public static Points points(
      CounterDefinition counter,
      Shape partShape,
      Samples samples,
      long from,
      long to,
      int maxPoints) {
    List<Span> spans = Spans.of(counter, partShape, samples);
    long inWindow = spans.stream().filter(span -> span.at() >= from && span.at() <= to).count();
    if (inWindow > maxPoints) {
      return inSteps(counter, spans, from, to, maxPoints, 0);
    }
    return counter.shape() == Shape.QUOTIENT && partShape == Shape.TOTAL && isFine(samples)
        ? asJudged(counter, spans, from, to)
        : asRead(counter, samples, spans, from, to);
  }

  /**
   * As above, of a series of which whole days may be in steps: then always in so many points.
   *
   * @param stepped in steps that are shorter than the way from one point to the next
   */
  public static Points points(
      CounterDefinition counter,
      Shape partShape,
      Stepped stepped,
      long from,
      long to,
      int maxPoints) {
    return stepped.parts().isEmpty() && stepped.rest().size() == 1
        ? points(counter, partShape, stepped.rest().get(0).samples(), from, to, maxPoints)
        : inSteps(counter, Spans.of(counter, partShape, stepped), from, to, maxPoints, 0);
  }

  /**
   * The value at a moment, as shown: of the reading, or else of the step, that covers it; NaN where
   * none does. A level holds from when it was read, an increase covers the time before.
   */
  public static double at(
      CounterDefinition counter, Shape partShape, Stepped stepped, long moment) {
    List<Span> spans =
        new ArrayList<>(Spans.of(counter, partShape, new Stepped(stepped.parts(), List.of())));
    // a moment has no length that could be cut
    stepped
        .rest()
        .forEach(stretch -> spans.addAll(Spans.of(counter, partShape, stretch.samples())));
    double value = Double.NaN;
    for (Span span : spans) {
      boolean covers =
          span.at() == span.from()
              ? span.from() <= moment && moment < span.to()
              : span.from() < moment && moment <= span.to();
      if (covers && !span.empty()) {
        value = Value.shown(counter, span.numerator(), span.denominator());
      }
    }
    return value;
  }

  /** Whether it is read more often than it is judged. */
  private static boolean isFine(Samples samples) {
    return samples.size() > 0 && samples.interval()[samples.size() - 1] < Value.LEAST_STEP;
  }

  /**
   * A quotient of increases in the steps in which it is judged: one reading of a second may be too
   * few where ten of them are not.
   */
  private static Points asJudged(CounterDefinition counter, List<Span> spans, long from, long to) {
    long first = Math.floorDiv(from, Value.LEAST_STEP) * Value.LEAST_STEP;
    int count = (int) Math.max(1, -Math.floorDiv(first - to, Value.LEAST_STEP));
    return inSteps(counter, spans, first, first + count * Value.LEAST_STEP, count, 0);
  }

  /**
   * The mean of each of a row of equal steps, for learning from; NaN for a step without a value or
   * covered less than half.
   *
   * @param from start of the first step, epoch ms
   * @param width of a step, ms
   */
  public static double[] steps(
      CounterDefinition counter,
      Shape partShape,
      Stepped stepped,
      long from,
      long width,
      int count) {
    Row row = new Row(from, from + width * count, count);
    List<Span> spans = new ArrayList<>();
    int days = stepped.parts().isEmpty() ? 0 : stepped.parts().get(0).size();
    for (int day = 0; day < days; day++) {
      Steps theirs = stepped.parts().get(0).get(day);
      long ahead = theirs.from() - from;
      boolean same = theirs.width() == width && ahead % width == 0;
      int place = (int) (ahead / width);
      Spans.steps(
          counter,
          partShape,
          stepped.parts(),
          day,
          from,
          from + width * count,
          (s, above, below, covered) -> {
            if (!same) {
              long begin = theirs.from() + s * theirs.width();
              row.add(begin, begin + theirs.width(), above, below, covered);
            } else if (place + s >= 0 && place + s < count) {
              row.add(place + s, above, below, covered);
            }
          });
    }
    stepped.rest().forEach(stretch -> Spans.addStretch(spans, counter, partShape, stretch));
    spans.forEach(row::add);
    double[] means = new double[count];
    for (int step = 0; step < count; step++) {
      means[step] = row.mean(counter, step, THIN);
    }
    return means;
  }

  /**
   * All of a window in one: its mean, its greatest reading, and of a total its sum.
   *
   * @param counter as for {@link #points}, as are the others
   */
  public static Summary summary(
      CounterDefinition counter, Shape partShape, Stepped stepped, long from, long to) {
    Points whole = inSteps(counter, Spans.of(counter, partShape, stepped), from, to, 1, 0);
    double sum =
        counter.shape() == Shape.TOTAL ? Sums.of(stepped, from, to) * counter.factor() : Double.NaN;
    return new Summary(whole.mean()[0], whole.max()[0], sum);
  }

  /**
   * The figures of a window.
   *
   * @param counter as for {@link #points}, as are the others
   */
  public static Figures figures(
      CounterDefinition counter, Shape partShape, Stepped stepped, long from, long to) {
    List<Span> spans = Spans.of(counter, partShape, stepped);
    Points whole = inSteps(counter, spans, from, to, 1, 0);
    int count = (int) Math.max(1, Math.min(FIGURE_STEPS, to - from));
    double[] means =
        Arrays.stream(inSteps(counter, spans, from, to, count, 0).mean())
            .filter(mean -> !Double.isNaN(mean))
            .toArray();
    double p95 = Quantiles.of(new double[][] {means}, new double[] {1}, P95)[0];
    Summary summary = summary(counter, partShape, stepped, from, to);
    return new Figures(whole.min()[0], summary.mean(), p95, summary.max(), summary.sum());
  }

  private static Points asRead(
      CounterDefinition counter, Samples samples, List<Span> spans, long from, long to) {
    Builder points = new Builder(spans.size() * 2);
    for (int i = 0; i < spans.size(); i++) {
      Span span = spans.get(i);
      if (i > 0) {
        long before = spans.get(i - 1).at();
        long longest = Value.longest(samples.interval()[i]);
        if (span.at() - before > longest && before >= from && span.at() <= to) {
          points.add((before + span.at()) / 2, Double.NaN, Double.NaN, Double.NaN);
        }
      }
      if (span.at() >= from && span.at() <= to) {
        double value =
            span.empty() ? Double.NaN : Value.shown(counter, span.numerator(), span.denominator());
        points.add(span.at(), value, value, value);
      }
    }
    return points.build();
  }

  private static Points inSteps(
      CounterDefinition counter,
      List<Span> spans,
      long from,
      long to,
      int maxPoints,
      double leastCovered) {
    Row row = new Row(from, to, maxPoints);
    double[] min = new double[maxPoints];
    double[] max = new double[maxPoints];
    Arrays.fill(min, Double.NaN);
    Arrays.fill(max, Double.NaN);
    for (Span span : spans) {
      if (span.empty()) {
        continue;
      }
      double value = Value.shown(counter, span.numerator(), span.denominator());
      boolean one = Double.isNaN(span.least());
      double low = one ? value : span.least() * counter.factor();
      double high = one ? value : span.greatest() * counter.factor();
      for (int step = row.first(span.from()); step <= row.last(span.to()); step++) {
        if (row.share(step, span.from(), span.to()) > 0) {
          min[step] = Double.isNaN(min[step]) || low < min[step] ? low : min[step];
          max[step] = Double.isNaN(max[step]) || high > max[step] ? high : max[step];
        }
      }
      row.add(span);
    }
    Builder points = new Builder(maxPoints);
    for (int step = 0; step < maxPoints; step++) {
      double mean = row.mean(counter, step, leastCovered);
      boolean nothing = Double.isNaN(mean);
      // where each reading by itself is too few there is no least and no greatest but the mean
      points.add(
          Math.round(from + (step + 0.5) * row.width),
          mean,
          nothing || Double.isNaN(min[step]) ? mean : min[step],
          nothing || Double.isNaN(max[step]) ? mean : max[step]);
    }
    return points.build();
  }

  /** A row of equal steps of time, with what is covered of each and with how much. */
  private static final class Row {
    private final long from;
    private final double width;
    private final double[] above;
    private final double[] below;
    private final double[] covered;

    Row(long from, long to, int count) {
      this.from = from;
      width = (double) (to - from) / count;
      above = new double[count];
      below = new double[count];
      covered = new double[count];
    }

    void add(Span span) {
      if (!span.empty()) {
        add(span.from(), span.to(), span.numerator(), span.denominator(), span.covered());
      }
    }

    /** Spreads what a stretch of time is worth over the steps that it touches. */
    void add(long begin, long end, double worth, double under, double ms) {
      for (int step = first(begin); step <= last(end); step++) {
        double share = share(step, begin, end);
        if (share > 0) {
          add(step, worth * share, under * share, ms * share);
        }
      }
    }

    void add(int step, double worth, double under, double ms) {
      above[step] += worth;
      below[step] += under;
      covered[step] += ms;
    }

    int first(long begin) {
      return (int) Math.max(0, Math.floor((begin - from) / width));
    }

    int last(long end) {
      return (int) Math.min(above.length - 1, Math.ceil((end - from) / width) - 1);
    }

    /** The part of a stretch of time that lies in a step. */
    double share(int step, long begin, long end) {
      double start = from + step * width;
      return (Math.min(end, start + width) - Math.max(begin, start)) / (end - begin);
    }

    /** NaN where less than that part of the step is covered. */
    double mean(CounterDefinition counter, int step, double leastCovered) {
      boolean enough = covered[step] > 0 && covered[step] >= leastCovered * width;
      return enough ? Value.shown(counter, above[step], below[step]) : Double.NaN;
    }
  }

  private static final class Builder {
    private final long[] at;
    private final double[] mean;
    private final double[] min;
    private final double[] max;
    private int size;

    Builder(int capacity) {
      at = new long[capacity];
      mean = new double[capacity];
      min = new double[capacity];
      max = new double[capacity];
    }

    void add(long when, double average, double least, double greatest) {
      at[size] = when;
      mean[size] = average;
      min[size] = least;
      max[size++] = greatest;
    }

    Points build() {
      return new Points(
          Arrays.copyOf(at, size),
          Arrays.copyOf(mean, size),
          Arrays.copyOf(min, size),
          Arrays.copyOf(max, size));
    }
  }
}
