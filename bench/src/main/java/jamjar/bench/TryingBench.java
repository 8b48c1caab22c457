package jamjar.bench;

import jamjar.core.chart.Samples;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Limit;
import jamjar.core.limit.PastJudgings;
import jamjar.core.limit.Threshold;
import jamjar.core.limit.Trying;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.function.Supplier;

/** What it costs to try a limit on six weeks of one series at 10 s, once it is read and decoded. */
final class TryingBench {
  private static final long STEP = 10_000;
  private static final int READINGS = 42 * 8_640;
  private static final int ROUNDS = 21;
  private static final int NUMBERS = 50;

  private TryingBench() {}

  static void run(CounterDefinition counter) {
    SplittableRandom random = new SplittableRandom(4);
    double[] values = new double[READINGS];
    double level = 20;
    for (int i = 0; i < values.length; i++) {
      double wave = 15 * Math.sin(i * 2 * Math.PI / 8_640);
      level = 0.9 * level + 0.1 * (20 + wave) + random.nextDouble() * 4 - 2;
      // a burst each eight hours
      values[i] = level + (i % 2_880 < 12 ? 30 * random.nextDouble() : 0);
    }
    long[] at = new long[READINGS];
    long[] same = new long[READINGS];
    Arrays.setAll(at, i -> (i + 1) * STEP);
    Arrays.fill(same, STEP);
    Samples samples = new Samples(at, same, same, values, List.of());
    Limit limit =
        new Limit(
            Condition.ABOVE,
            Worse.UP,
            new Threshold(40, 38, 3, 3),
            new Threshold(60, 55, 3, 3),
            60_000,
            STEP);
    PastJudgings past = PastJudgings.of(counter, Shape.LEVEL, samples, STEP);
    Trying.Past tried = new Trying.Past(past, limit, List.of(), List.of(), ZoneOffset.UTC);
    double gather = median(() -> PastJudgings.of(counter, Shape.LEVEL, samples, STEP).size());
    double replay = median(() -> past.alerts(limit).size());
    double sweep =
        median(
            () -> {
              Trying trying = new Trying(List.of(tried), READINGS * STEP);
              return trying.sweep(trying.numbers(NUMBERS)).size();
            });
    System.out.printf(
        "a limit tried on %,d readings, median of %d: gathered %.1f ms, replayed %.1f ms (%d"
            + " alerts), %d numbers %.1f ms%n",
        READINGS, ROUNDS, gather, replay, past.alerts(limit).size(), NUMBERS, sweep);
  }

  /** In ms. */
  private static double median(Supplier<Integer> doing) {
    double[] took = new double[ROUNDS];
    for (int i = 0; i < ROUNDS; i++) {
      long began = System.nanoTime();
      doing.get();
      took[i] = (System.nanoTime() - began) / 1e6;
    }
    Arrays.sort(took);
    return took[ROUNDS / 2];
  }
}
