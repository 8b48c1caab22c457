package jamjar.core.chart;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.value.Value;
import java.util.ArrayList;
import java.util.List;

/** What readings and steps cover, and with how much. */
final class Spans {
  private static final double MILLIS = 1000;

  private Spans() {}

  /**
   * @param partShape the shape of what was read: of a quotient that of its parts, else its own
   */
  static List<Span> of(CounterDefinition counter, Shape partShape, Samples samples) {
    boolean quotient = counter.shape() == Shape.QUOTIENT;
    List<Span> spans = new ArrayList<>(samples.size());
    for (int i = 0; i < samples.size(); i++) {
      long at = samples.at()[i];
      long interval = samples.interval()[i];
      if (partShape == Shape.LEVEL) {
        long held = at + Value.holds(interval);
        long end = i + 1 < samples.size() ? Math.min(samples.at()[i + 1], held) : held;
        double seconds = (end - at) / MILLIS;
        double below = quotient ? samples.below(i) * seconds : seconds;
        spans.add(new Span(at, at, end, samples.value()[i] * seconds, below));
      } else {
        long elapsed = samples.elapsed()[i];
        boolean usable = elapsed > 0 && Value.covers(elapsed, interval);
        double below = quotient ? samples.below(i) : elapsed / MILLIS;
        spans.add(new Span(at, at - elapsed, at, usable ? samples.value()[i] : Double.NaN, below));
      }
    }
    return spans;
  }

  /** As above; a reading of a stretch counts with what of it lies in the stretch. */
  static List<Span> of(CounterDefinition counter, Shape partShape, Stepped stepped) {
    List<Span> spans = new ArrayList<>();
    int days = stepped.parts().isEmpty() ? 0 : stepped.parts().get(0).size();
    for (int day = 0; day < days; day++) {
      addSteps(spans, counter, partShape, stepped.parts(), day);
    }
    for (Stepped.Stretch stretch : stepped.rest()) {
      addStretch(spans, counter, partShape, stretch);
    }
    return spans;
  }

  /** What was read in a stretch, and of what reaches beyond it the part within. */
  static void addStretch(
      List<Span> spans, CounterDefinition counter, Shape partShape, Stepped.Stretch stretch) {
    for (Span span : of(counter, partShape, stretch.samples())) {
      if (span.to() > stretch.from() && span.from() < stretch.to()) {
        spans.add(span.within(stretch.from(), stretch.to()));
      }
    }
  }

  /** Takes what one step after the other covers, and with how much. */
  @FunctionalInterface
  interface TakingStep {
    /**
     * @param s its place among the steps
     * @param above what stands above the line
     * @param below what stands below it
     * @param covered ms
     */
    void take(int s, double above, double below, double covered);
  }

  /**
   * The steps of a day of which all parts are there.
   *
   * @param from the first step whose end lies after that, epoch ms
   * @param to up to the last one that begins before it
   */
  static void steps(
      CounterDefinition counter,
      Shape partShape,
      List<List<Steps>> parts,
      int day,
      long from,
      long to,
      TakingStep taking) {
    Steps above = parts.get(0).get(day);
    boolean quotient = counter.shape() == Shape.QUOTIENT;
    int first = (int) Math.max(0, Math.floorDiv(from - above.from(), above.width()));
    long end = Math.min(above.size(), -Math.floorDiv(above.from() - to, above.width()));
    for (int s = first; s < end; s++) {
      double covered = above.covered()[s];
      if (covered > 0) {
        double seconds = covered / MILLIS;
        double below = quotient ? 0 : seconds;
        for (int part = 1; quotient && part < parts.size(); part++) {
          below += area(partShape, parts.get(part).get(day), s, seconds);
        }
        double worth = area(partShape, above, s, seconds);
        if (!Double.isNaN(worth) && !Double.isNaN(below)) {
          taking.take(s, worth, below, covered);
        }
      }
    }
  }

  private static void addSteps(
      List<Span> spans,
      CounterDefinition counter,
      Shape partShape,
      List<List<Steps>> parts,
      int day) {
    Steps first = parts.get(0).get(day);
    boolean quotient = counter.shape() == Shape.QUOTIENT;
    steps(
        counter,
        partShape,
        parts,
        day,
        first.from(),
        first.to(),
        (s, above, below, covered) -> {
          long from = first.from() + s * first.width();
          spans.add(
              new Span(
                  from,
                  from,
                  from + first.width(),
                  above,
                  below,
                  covered,
                  quotient ? Double.NaN : first.least()[s],
                  quotient ? Double.NaN : first.greatest()[s]));
        });
  }

  /** Of a level its area over what the first part covers; of a total its increase. */
  private static double area(Shape partShape, Steps steps, int s, double seconds) {
    return partShape == Shape.LEVEL ? steps.amount()[s] * seconds : steps.amount()[s];
  }
}
