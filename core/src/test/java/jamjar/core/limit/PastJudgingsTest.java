package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.Recipes;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.chart.Samples;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.limit.PastJudgings.Alert;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class PastJudgingsTest {
  private static final long STEP = 10_000;
  private static final long FROM = 1_000_000_000_000L;

  /** 5 warns, 8 is critical, 4 and less is calm; three of three, a minute. */
  private static Limit limit(Condition condition) {
    return new Limit(
        condition,
        Worse.UP,
        new Threshold(5, 4, 3, 3),
        new Threshold(8, 7, 2, 3),
        60_000,
        condition == Condition.OUTSIDE ? 60_000 : STEP);
  }

  private static Samples every(long interval, double... values) {
    long[] at = new long[values.length];
    long[] same = new long[values.length];
    Arrays.setAll(at, i -> FROM + (i + 1) * interval);
    Arrays.fill(same, interval);
    return new Samples(at, same, same.clone(), values, List.of());
  }

  private static List<Alert> alerts(Samples samples) {
    return PastJudgings.of(Recipes.USED, Shape.LEVEL, samples, STEP).alerts(limit(Condition.ABOVE));
  }

  @Test
  void it_rises_by_its_hold_and_is_over_a_minute_after_it_was_clear() {
    double[] values = new double[20];
    Arrays.fill(values, 3, 7, 6);
    values[6] = 7;
    assertThat(alerts(every(STEP, values)))
        .containsExactly(
            new Alert(FROM + 40_000, FROM + 60_000, FROM + 140_000, Severity.WARNING, 7));
  }

  @Test
  void one_that_is_still_open_lasts_until_the_end() {
    assertThat(alerts(every(STEP, 0, 9, 9, 9, 9)))
        .containsExactly(
            new Alert(FROM + 20_000, FROM + 30_000, FROM + 50_000, Severity.CRITICAL, 9));
  }

  @Test
  void a_reading_of_a_minute_stands_for_the_judgings_that_it_covers() {
    // its hold of three times ten seconds is met by one of them
    assertThat(alerts(every(60_000, 0, 6, 0, 0)))
        .containsExactly(
            new Alert(FROM + 120_000, FROM + 120_000, FROM + 240_000, Severity.WARNING, 6));
    PastJudgings past = PastJudgings.of(Recipes.USED, Shape.LEVEL, every(60_000, 1, 2), STEP);
    assertThat(past.judged()).isEqualTo(120_000);
    assertThat(past.from()).isEqualTo(FROM);
    assertThat(past.to()).isEqualTo(FROM + 120_000);
  }

  @Test
  void readings_between_two_edges_are_judged_together_and_increases_over_too_long_are_none() {
    PastJudgings quick = PastJudgings.of(Recipes.USED, Shape.LEVEL, every(5_000, 1, 3, 5, 9), STEP);
    assertThat(quick.held(Condition.ABOVE)).containsExactly(2, 7);
    Samples total =
        new Samples(
            new long[] {FROM + 10_000, FROM + 20_000, FROM + 60_000},
            new long[] {10_000, 10_000, 40_000},
            new long[] {10_000, 10_000, 10_000},
            new double[] {50, 70, 400},
            List.of());
    assertThat(PastJudgings.of(Recipes.COMMITS, Shape.TOTAL, total, STEP).held(Condition.ABOVE))
        .containsExactly(5, 7);
  }

  /** The same as what runs live, whatever is read; from the hundredth on alerts last long. */
  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 100, 101, 102, 103, 104, 105})
  void it_is_what_would_have_been_judged_live(long seed) {
    Random random = new Random(seed);
    int n = 3_000;
    double[] values = new double[n];
    double level = 3;
    for (int i = 0; i < n; i++) {
      double by = seed < 100 ? 1 : 0.15;
      level = Math.max(0, Math.min(10, level + by * random.nextGaussian()));
      values[i] = random.nextInt(seed < 100 ? 40 : 700) == 0 ? Double.NaN : level;
    }
    for (Condition condition : List.of(Condition.ABOVE, Condition.OUTSIDE)) {
      CounterDefinition counter = Recipes.USED;
      Normal normal = new Normal(0, 0.2, 0.5, 0.8, 1, 75, Basis.SLOT);
      Limit limit = limit(condition);
      PastJudgings past =
          PastJudgings.of(counter, Shape.LEVEL, every(STEP, values), limit.stepMillis())
              .against(counter, at -> normal);
      assertThat(past.alerts(limit).stream().map(a -> a.severity() + " " + a.worst()).toList())
          .as(condition.words())
          .isEqualTo(live(counter, limit, normal, values));
    }
  }

  private static List<String> live(
      CounterDefinition counter, Limit limit, Normal normal, double[] values) {
    Rule rule =
        new Rule(
            1,
            counter.key(),
            Map.of(),
            new Scope(Scope.Reach.KIND, "test"),
            limit.condition(),
            5.0,
            8.0,
            null,
            null,
            null,
            null,
            null,
            true);
    Docket docket =
        new Docket(
            List.of(new Entry(7, counter, new InForce(limit, rule, rule, rule))),
            Map.of(),
            FROM,
            FROM,
            (series, at) -> normal);
    List<String> told = new ArrayList<>();
    Severity severity = Severity.NONE;
    double worst = Double.NaN;
    SeriesKey key = SeriesKey.of(counter.key());
    for (int i = 0; i <= values.length; i++) {
      long at = FROM + (i + 1) * STEP;
      List<Docket.Change> changes =
          i == values.length
              ? docket.time(FROM + (i + 20) * STEP)
              : docket.read(
                  at, at, new int[] {7}, List.of(new Shown(key, values[i], null, values[i], 1)));
      for (Docket.Change change : changes) {
        if (change.after().open()) {
          severity =
              change.after().standing().severity().compareTo(severity) > 0
                  ? change.after().standing().severity()
                  : severity;
          worst = change.after().worst();
        } else if (severity != Severity.NONE) {
          told.add(severity + " " + worst);
          severity = Severity.NONE;
        }
      }
    }
    if (severity != Severity.NONE) {
      told.add(severity + " " + worst);
    }
    return told;
  }
}
