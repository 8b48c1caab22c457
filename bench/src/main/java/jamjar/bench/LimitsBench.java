package jamjar.bench;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Judge;
import jamjar.core.limit.Judging;
import jamjar.core.limit.Limit;
import jamjar.core.limit.LimitState;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Scope;
import jamjar.core.limit.Threshold;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import java.lang.management.ManagementFactory;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;

/**
 * What judging costs: one judgement on one core, 1,000 instances with 20 limits each at 10 s, what
 * it costs to try a limit on six weeks, and whether a kill -9 loses or doubles a transition.
 */
final class LimitsBench {
  private static final int INSTANCES = 1000;
  private static final int LIMITS = 20;
  private static final int ROUNDS = 60;
  private static final long STEP = 10_000;

  private LimitsBench() {}

  static void run(String[] options) throws Exception {
    int kills = Bench.minutes(options, 20);
    judgements();
    estate();
    TryingBench.run(counter("tried"));
    if (kills > 0) {
      Path jar =
          Path.of(System.getProperty("jamjar.home", "."), "server/target/server-0.1.0-exec.jar");
      try (KilledJudging killed = new KilledJudging(jar, 42)) {
        KilledJudging.Outcome outcome = killed.run(kills);
        System.out.printf(
            "kill -9 at %d random moments: %d transitions stored, %d replayed, %s%n",
            outcome.kills(),
            outcome.stored().size(),
            outcome.replayed().size(),
            outcome.equal() ? "equal" : "NOT EQUAL");
        outcome.stored().stream()
            .filter(t -> !outcome.replayed().contains(t))
            .forEach(t -> System.out.println("stored only:   " + t));
        outcome.replayed().stream()
            .filter(t -> !outcome.stored().contains(t))
            .forEach(t -> System.out.println("replayed only: " + t));
      }
    }
  }

  /** As a docket does it: lookup, distance to the numbers, state; normal for what is not calm. */
  private static void judgements() {
    int series = 1024;
    SplittableRandom random = new SplittableRandom(1);
    Limit[] limits = new Limit[series];
    LimitState[] states = new LimitState[series];
    Baseline[] baselines = new Baseline[series];
    double[] values = new double[series * 64];
    for (int i = 0; i < series; i++) {
      limits[i] =
          new Limit(
              Condition.ABOVE,
              Worse.UP,
              new Threshold(95 + i % 5, 90, 3, 3),
              new Threshold(120, 110, 3, 3),
              60_000,
              STEP);
      states[i] = LimitState.calm(0);
      baselines[i] = baseline(random);
    }
    for (int i = 0; i < values.length; i++) {
      // one in a hundred is at or beyond its number
      values[i] = random.nextInt(100) == 0 ? 100 : random.nextDouble() * 90;
    }
    double best = 0;
    long told = 0;
    for (int round = 0; round < 8; round++) {
      long[] transitions = new long[1];
      long began = System.nanoTime();
      int done = 0;
      for (int pass = 0; pass < 20_000; pass++) {
        long edge = (1L + pass + round * 20_000L) * STEP;
        int slot = (int) (edge / 900_000 % Timeline.SLOTS);
        int offset = (pass & 63) * series;
        LimitState calm = LimitState.calm(edge);
        for (int i = 0; i < series; i++) {
          double value = values[offset + i];
          Limit limit = limits[i];
          if (Judge.staysCalm(limit, states[i], limit.badness(value))) {
            states[i] = calm;
          } else {
            Normal normal = baselines[i].at(slot);
            Judging judging =
                new Judging(
                    edge,
                    edge,
                    edge,
                    Judging.Outcome.VALUE,
                    value,
                    normal,
                    normal.distance(value, 1, 0),
                    1);
            states[i] = Judge.judge(limit, states[i], judging, t -> transitions[0]++);
          }
          done++;
        }
      }
      double perSecond = done / ((System.nanoTime() - began) / 1e9);
      best = Math.max(best, perSecond);
      told += transitions[0];
    }
    System.out.printf(
        "one judgement on one core (lookup, distance to the numbers, state): %.1f million a"
            + " second, best of 8 rounds of %.0f million; %,d transitions on the way%n",
        best / 1e6, 20_000 * series / 1e6, told);
  }

  private static Baseline baseline(SplittableRandom random) {
    int minutes = 120;
    double[] values = random.doubles(minutes).map(v -> v * 90).toArray();
    return Baseline.learn(new Timeline(0, minutes, ZoneOffset.UTC, Set.of(), List.of()), values, 1);
  }

  /** Gathering and judging of an estate as the server does it, without the store. */
  private static void estate() {
    SplittableRandom random = new SplittableRandom(2);
    List<Docket> dockets = new ArrayList<>();
    int[] ids = new int[LIMITS];
    List<SeriesKey> keys = new ArrayList<>();
    List<CounterDefinition> counters = new ArrayList<>();
    for (int s = 0; s < LIMITS; s++) {
      ids[s] = s + 1;
      keys.add(SeriesKey.of("counter." + s));
      counters.add(counter("counter." + s));
    }
    Baseline[] baselines = new Baseline[LIMITS];
    for (int s = 0; s < LIMITS; s++) {
      baselines[s] = baseline(random);
    }
    for (int i = 0; i < INSTANCES; i++) {
      List<Docket.Entry> entries = new ArrayList<>();
      for (int s = 0; s < LIMITS; s++) {
        entries.add(new Docket.Entry(ids[s], counters.get(s), inForce(counters.get(s).key())));
      }
      dockets.add(
          new Docket(
              entries,
              Map.of(),
              0,
              0,
              (series, at) -> baselines[series - 1].at((int) (at / 900_000 % Timeline.SLOTS))));
    }
    var threads = ManagementFactory.getThreadMXBean();
    double least = Double.MAX_VALUE;
    long changes = 0;
    for (int trial = 0; trial < 3; trial++) {
      long cpu = 0;
      for (int round = 1; round <= ROUNDS; round++) {
        long at = (trial * ROUNDS + round) * STEP + 3_000;
        for (Docket docket : dockets) {
          List<Shown> shown = new ArrayList<>(LIMITS);
          for (int s = 0; s < LIMITS; s++) {
            double value = random.nextInt(200) == 0 ? 100 : random.nextDouble() * 90;
            shown.add(new Shown(keys.get(s), value, null, value, 1));
          }
          long before = threads.getCurrentThreadCpuTime();
          changes += docket.read(at, at + 5, ids, shown).size();
          cpu += threads.getCurrentThreadCpuTime() - before;
        }
      }
      least = Math.min(least, cpu / 1e9 / (ROUNDS * STEP / 1000.0));
    }
    System.out.printf(
        "%,d instances × %d limits at 10 s: judging takes %.2f %% of a core (best of 3 × %d rounds;"
            + " %,d changes of state)%n",
        INSTANCES, LIMITS, 100 * least, ROUNDS, changes);
  }

  private static InForce inForce(String counter) {
    Rule rule =
        new Rule(
            1,
            counter,
            Map.of(),
            new Scope(Scope.Reach.KIND, "bench"),
            Condition.ABOVE,
            95.0,
            120.0,
            null,
            null,
            null,
            null,
            null,
            true);
    return new InForce(
        new Limit(
            Condition.ABOVE,
            Worse.UP,
            new Threshold(95, 90, 3, 3),
            new Threshold(120, 110, 3, 3),
            60_000,
            STEP),
        rule,
        rule,
        rule);
  }

  private static CounterDefinition counter(String key) {
    return new CounterDefinition(
        key,
        key,
        "g",
        "",
        Shape.LEVEL,
        "",
        false,
        0,
        1,
        0,
        Worse.UP,
        false,
        "",
        "",
        List.of(),
        List.of(),
        "",
        List.of(),
        1,
        20);
  }
}
