package jamjar.core.baseline;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.Recipes;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.function.IntToDoubleFunction;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class BaselineTest {
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final int WEEK = 7 * 1440;
  private static final double MATTERS = 0.5;

  @ParameterizedTest(name = "{0} for {1} minutes in {2}, {3}")
  @CsvSource({
    // five weeks that hold the repeated hour of autumn, the skipped one of spring, neither
    "2026-10-05T00:00, 50400, Europe/Oslo, any",
    "2026-03-09T00:00, 50400, Europe/Oslo, any",
    "2026-05-04T13:07, 50400, Europe/Oslo, any",
    "2026-10-05T00:00, 50400, Europe/Oslo, ties",
    "2026-10-05T00:00, 50400, Europe/Oslo, gaps",
    "2026-10-05T00:00, 50400, Europe/Oslo, equal",
    "2026-10-05T00:00, 50400, Europe/Oslo, zeros",
    "2026-10-05T00:00, 12000, Europe/Oslo, any",
    "2026-10-05T00:00, 4400, Europe/Oslo, any",
    "2026-10-05T00:00, 90, Europe/Oslo, any",
    "2026-10-05T00:00, 59, Europe/Oslo, any",
    "2026-10-05T00:00, 50400, Europe/Oslo, one value",
    "2026-10-05T00:00, 50400, Europe/Oslo, a bad week",
    "2026-10-05T00:00, 50400, Europe/Oslo, two weeks that agree",
    "2026-10-05T00:00, 50400, Europe/Oslo, wild weeks",
    "2026-10-05T00:00, 30240, Europe/Oslo, a bad week",
    "2026-10-05T00:00, 50400, Europe/Oslo, nothing",
    // five hours and three quarters before noon of Greenwich, and where clocks are set by half an
    // hour
    "2026-10-05T00:00, 50400, Asia/Kathmandu, any",
    "2026-09-07T00:00, 50400, Australia/Lord_Howe, any",
    "2026-10-12T00:00, 50400, America/New_York, a bad week",
  })
  void equals_a_reference_written_from_the_definition(
      String from, int minutes, ZoneId zone, String kind) {
    long start = LocalDateTime.parse(from).atZone(zone).toInstant().toEpochMilli();
    double[] values = values(minutes, kind);
    Timeline timeline = new Timeline(start, minutes, zone, Set.of(), List.of());
    Baseline learned = Baseline.learn(timeline, values, MATTERS);
    Reference reference = new Reference(start, zone, values);
    for (int slot = 0; slot < 672; slot++) {
      Normal normal = learned.at(slot);
      double[] expected = reference.at(slot);
      double[] found = {normal.p05(), normal.p25(), normal.p50(), normal.p75(), normal.p95()};
      for (int q = 0; q < 5; q++) {
        if (Double.isNaN(expected[q])) {
          assertThat(found[q]).isNaN();
        } else {
          assertThat(found[q]).as("slot %d", slot).isCloseTo(expected[q], within(1e-9));
        }
      }
    }
  }

  @ParameterizedTest(name = "{0} for {1} minutes in {2}, {3}")
  @CsvSource({
    "2026-10-05T00:00, 50400, Europe/Oslo, any",
    "2026-03-09T13:07, 50400, Europe/Oslo, a bad week",
    "2026-10-05T00:00, 50400, Asia/Kathmandu, wild weeks",
    "2026-09-07T00:00, 50400, Australia/Lord_Howe, zeros",
    "2026-10-05T00:00, 50400, Europe/Oslo, nothing",
    "2026-10-05T00:00, 20160, Europe/Oslo, any",
  })
  void a_day_of_the_week_is_learned_alone_as_it_is_with_all(
      String from, int minutes, ZoneId zone, String kind) {
    LocalDateTime begin = LocalDateTime.parse(from);
    long start = begin.atZone(zone).toInstant().toEpochMilli();
    double[] values = values(minutes, kind);
    // a Thursday that counts as a Sunday, and some hours that teach nothing
    Timeline timeline =
        new Timeline(
            start,
            minutes,
            zone,
            Set.of(begin.toLocalDate().plusDays(10)),
            List.of(new Timeline.LeftOut(start + 900_000, start + 90_000_000, "incident")));
    Baseline all = Baseline.learn(timeline, values, MATTERS);
    int alone = 0;
    for (int weekday = 0; weekday < 7; weekday++) {
      Timeline.Weekday day = timeline.of(weekday);
      double[] theirs =
          day.stretches().stream()
              .flatMapToDouble(s -> Arrays.stream(values, s.first(), s.first() + s.count()))
              .toArray();
      Optional<Normal[]> slots = Baseline.learnDay(day, theirs, MATTERS);
      if (slots.isPresent()) {
        alone++;
        for (int i = 0; i < 96; i++) {
          assertThat(slots.get()[i]).isEqualTo(all.at(weekday * 96 + i));
        }
      } else {
        // other days serve one of its slots at least
        int first = weekday * 96;
        assertThat(IntStream.range(0, 96).mapToObj(i -> all.at(first + i).basis()))
            .anyMatch(basis -> basis != Basis.SLOT);
      }
    }
    assertThat(alone > 0).isEqualTo(!kind.equals("nothing") && minutes > 3 * WEEK);
  }

  @Test
  void of_what_is_good_at_zero_only_nothing_else_is_normal_however_often_it_comes_back() {
    ZoneId zone = ZoneId.of("Europe/Oslo");
    long start = LocalDateTime.parse("2026-10-26T00:00").atZone(zone).toInstant().toEpochMilli();
    Timeline timeline = new Timeline(start, 5 * WEEK, zone, Set.of(), List.of());
    double[] values = new double[5 * WEEK];
    // each night from 02:00 on nine wait for half an hour
    for (int i = 0; i < values.length; i++) {
      values[i] = i % 1440 >= 120 && i % 1440 < 150 ? 9 : 0;
    }
    int night = 8;
    assertThat(Baseline.learn(timeline, values, 1).at(night).p50()).isEqualTo(9);
    Normal trouble = Baseline.learn(timeline, values, Recipes.TROUBLE).at(night);
    assertThat(trouble).isEqualTo(new Normal(0, 0, 0, 0, 0, trouble.steps(), Basis.SLOT));
    assertThat(trouble.distance(9, 1, 0)).isEqualTo(9);
    Timeline.Weekday tuesday = timeline.of(1);
    double[] theirs =
        tuesday.stretches().stream()
            .flatMapToDouble(s -> Arrays.stream(values, s.first(), s.first() + s.count()))
            .toArray();
    assertThat(Baseline.learnDay(tuesday, theirs, Recipes.TROUBLE).orElseThrow())
        .containsOnly(trouble, Baseline.learn(timeline, values, Recipes.TROUBLE).at(96));
    // where nothing was learned nothing is known
    Timeline none = new Timeline(start, 30, zone, Set.of(), List.of());
    assertThat(Baseline.learn(none, new double[30], Recipes.TROUBLE).at(0)).isEqualTo(Normal.NONE);
  }

  @Test
  void walks_down_the_ladder_until_there_is_enough() {
    // Monday 5 October, 00:00 local
    assertThat(basis(59, 0)).isEqualTo(Basis.NONE);
    assertThat(basis(60, 0)).isEqualTo(Basis.ALL);
    // three days: Monday to Wednesday 00:00 is known of three working days, 13:00 of two
    assertThat(basis(2 * 1440 + 15, 0)).isEqualTo(Basis.DAYS);
    assertThat(basis(2 * 1440 + 15, 4 * 96)).isEqualTo(Basis.DAYS);
    assertThat(basis(2 * 1440 + 15, 52)).isEqualTo(Basis.ALL);
    // no weekend seen yet: of any day
    assertThat(basis(3 * 1440, 5 * 96)).isEqualTo(Basis.ANY_DAY);
    // three Mondays
    assertThat(basis(2 * WEEK + 15, 0)).isEqualTo(Basis.SLOT);
    assertThat(basis(2 * WEEK + 15, 1)).isEqualTo(Basis.DAYS);
  }

  @Test
  void the_first_and_the_last_slot_of_the_week_are_neighbours() {
    // zero everywhere but in the last slot of each week
    double[] values = values(5 * WEEK, i -> i % WEEK >= WEEK - 15 ? 100 : 0);
    Normal first = learn("2026-05-04", values).at(0);
    // 75 zeros at weight 1, 75 zeros and 75 hundreds at ½: the hundreds are 25 % of the weight
    assertThat(first.p50()).isZero();
    assertThat(first.p95()).isEqualTo(100);
  }

  @Test
  void what_is_left_out_teaches_nothing() {
    long start = LocalDate.of(2026, 5, 4).atStartOfDay(OSLO).toInstant().toEpochMilli();
    double[] values = values(120, i -> i < 60 ? 5 : 500);
    Timeline timeline =
        new Timeline(
            start,
            120,
            OSLO,
            Set.of(),
            List.of(
                new Timeline.LeftOut(
                    start + 60 * Timeline.MINUTE, start + 120 * Timeline.MINUTE, "incident")));
    assertThat(Baseline.learn(timeline, values, 1).at(0).p95()).isEqualTo(5);
  }

  @Test
  void a_bad_week_teaches_nothing_and_is_told_until_the_next_one_agrees() {
    // Monday 5 October at 10:00 local, in five weeks
    int slot = 40;
    double[] once = values(5 * WEEK, i -> 10 + i % 3);
    double[] twice = once.clone();
    for (int i = 0; i < 15; i++) {
      once[3 * WEEK + slot * 15 + i] = 90;
      twice[3 * WEEK + slot * 15 + i] = 90;
      twice[4 * WEEK + slot * 15 + i] = 91;
    }
    List<String> told = new ArrayList<>();
    Baseline without = learn("2026-09-07", once, told);
    assertThat(told).containsExactly("slot 40 of the week from 2026-09-28: 15 steps");
    Normal normal = without.at(slot);
    assertThat(new double[] {normal.p05(), normal.p50(), normal.p95()}).containsExactly(10, 11, 12);
    assertThat(normal.steps()).isEqualTo(60);
    told.clear();
    assertThat(learn("2026-09-07", twice, told).at(slot).p95()).isGreaterThan(80);
    assertThat(told).isEmpty();
  }

  private static Baseline learn(String monday, double[] values, List<String> told) {
    long start = LocalDate.parse(monday).atStartOfDay(OSLO).toInstant().toEpochMilli();
    return Baseline.learn(
        new Timeline(start, values.length, OSLO, Set.of(), List.of()),
        values,
        MATTERS,
        (slot, week, steps) ->
            told.add(
                "slot %d of the week from %s: %d steps"
                    .formatted(slot, LocalDate.ofEpochDay(week), steps)));
  }

  @Test
  void a_holiday_counts_as_a_sunday() {
    long whitMonday = Instant.parse("2026-05-25T10:00:00Z").toEpochMilli();
    assertThat(Timeline.slotOf(whitMonday, OSLO, Set.of())).isEqualTo(48);
    assertThat(Timeline.slotOf(whitMonday, OSLO, Set.of(LocalDate.of(2026, 5, 25))))
        .isEqualTo(6 * 96 + 48);
  }

  @Test
  void distance_is_in_spreads_of_its_own_side_and_signed() {
    Normal normal = new Normal(90, 95, 100, 110, 132.9, 300, Basis.SLOT);
    // above: (132.9 − 100) / 1.645 = 20; below: (100 − 90) / 1.645 = 6.079
    assertThat(normal.distance(140, 1, 0)).isCloseTo(2, within(1e-9));
    assertThat(normal.distance(87.84194528875380, 1, 0)).isCloseTo(-2, within(1e-9));
    assertThat(normal.distance(100, 1, 0)).isZero();
    // the least spread: what matters, 2 % of the middle, the resolution
    Normal flat = new Normal(100, 100, 100, 100, 100, 300, Basis.SLOT);
    assertThat(flat.distance(110, 5, 0)).isEqualTo(2);
    assertThat(flat.distance(110, 1, 0)).isEqualTo(5);
    assertThat(flat.distance(110, 1, 10)).isEqualTo(1);
    assertThat(Normal.NONE.distance(1, 1, 0)).isNaN();
  }

  private static Basis basis(int minutes, int slot) {
    return learn("2026-10-05", values(minutes, i -> i % 7)).at(slot).basis();
  }

  private static Baseline learn(String monday, double[] values) {
    long start = LocalDate.parse(monday).atStartOfDay(OSLO).toInstant().toEpochMilli();
    return Baseline.learn(
        new Timeline(start, values.length, OSLO, Set.of(), List.of()), values, MATTERS);
  }

  private static double[] values(int minutes, IntToDoubleFunction f) {
    return IntStream.range(0, minutes).mapToDouble(f).toArray();
  }

  private static double[] values(int minutes, String kind) {
    SplittableRandom random = new SplittableRandom(minutes);
    return values(
        minutes,
        i ->
            switch (kind) {
              case "ties" -> random.nextInt(3);
              case "gaps" -> random.nextInt(4) > 0 || i / 3000 % 2 == 1 ? Double.NaN : i % 97;
              case "equal" -> 42;
              case "zeros" -> random.nextInt(10) > 0 ? 0 : random.nextDouble();
              // the second week, in the hours after noon
              case "a bad week" ->
                  random.nextDouble() * 10
                      + (i / WEEK == 1 && i % 1440 > 720 && i % 1440 < 900 ? 60 : 0);
              case "two weeks that agree" -> random.nextDouble() * 10 + (i / WEEK >= 3 ? 60 : 0);
              // each of them somewhere else
              case "wild weeks" -> random.nextDouble() + new int[] {0, 70, 3, 9, 1}[i / WEEK];
              case "nothing" -> Double.NaN;
              case "one value" -> i == 777 ? 7 : Double.NaN;
              default -> random.nextDouble() * 100 + i / 1000.0;
            });
  }

  /** Written from the definition, sharing nothing with the code but the calendar of the JDK. */
  private static final class Reference {
    private final List<List<double[]>> slots = new ArrayList<>();

    Reference(long start, ZoneId zone, double[] values) {
      for (int s = 0; s < 672; s++) {
        slots.add(new ArrayList<>());
      }
      for (int i = 0; i < values.length; i++) {
        if (!Double.isNaN(values[i])) {
          ZonedDateTime local = Instant.ofEpochMilli(start + i * 60_000L).atZone(zone);
          int slot =
              (local.getDayOfWeek().getValue() - 1) * 96
                  + (local.getHour() * 60 + local.getMinute()) / 15;
          LocalDate monday = local.toLocalDate().minusDays(local.getDayOfWeek().getValue() - 1);
          slots
              .get(slot)
              .add(new double[] {values[i], local.toLocalDate().toEpochDay(), monday.toEpochDay()});
        }
      }
      slots.replaceAll(Reference::withoutBadWeeks);
    }

    /** A week whose median is far from those of the others, until two in a row agree. */
    private static List<double[]> withoutBadWeeks(List<double[]> steps) {
      TreeMap<Double, List<Double>> byWeek = new TreeMap<>();
      steps.forEach(s -> byWeek.computeIfAbsent(s[2], w -> new ArrayList<>()).add(s[0]));
      List<Double> weeks = new ArrayList<>(byWeek.keySet());
      if (weeks.size() < 3) {
        return steps;
      }
      List<Double> medians = weeks.stream().map(week -> middle(byWeek.get(week))).toList();
      Map<Double, Double> far = new HashMap<>();
      Map<Double, Double> away = new HashMap<>();
      for (int i = 0; i < weeks.size(); i++) {
        List<Double> others = new ArrayList<>(medians);
        others.remove(i);
        double usual = middle(others);
        double limit =
            Math.max(4 * middle(others.stream().map(m -> Math.abs(m - usual)).toList()), MATTERS);
        away.put(weeks.get(i), Math.abs(medians.get(i) - usual));
        if (Math.abs(medians.get(i) - usual) > limit) {
          far.put(weeks.get(i), limit);
        }
      }
      Set<Double> out = new HashSet<>(far.keySet());
      for (int i = 1; i < weeks.size(); i++) {
        Double one = weeks.get(i - 1);
        Double two = weeks.get(i);
        if (far.containsKey(one)
            && far.containsKey(two)
            && Math.abs(medians.get(i) - medians.get(i - 1))
                <= Math.max(
                    Math.min(away.get(one), away.get(two)) / 2,
                    Math.max(far.get(one), far.get(two)))) {
          out.remove(one);
          out.remove(two);
        }
      }
      return steps.stream().filter(s -> !out.contains(s[2])).toList();
    }

    private static double middle(List<Double> values) {
      List<Double> sorted = values.stream().sorted().toList();
      int n = sorted.size();
      return (sorted.get((n - 1) / 2) + sorted.get(n / 2)) / 2;
    }

    double[] at(int slot) {
      if (different(slots.get(slot), 2) >= 3) {
        List<double[]> weighted = new ArrayList<>();
        add(weighted, slots.get(slot), 1);
        add(weighted, slots.get((slot + 671) % 672), 0.5);
        add(weighted, slots.get((slot + 1) % 672), 0.5);
        return quantiles(weighted);
      }
      boolean weekend = slot >= 480;
      for (int[] range :
          new int[][] {weekend ? new int[] {480, 672} : new int[] {0, 480}, {0, 672}}) {
        List<double[]> pool = new ArrayList<>();
        for (int s = range[0] + slot % 96; s < range[1]; s += 96) {
          pool.addAll(slots.get(s));
        }
        if (different(pool, 1) >= 3) {
          List<double[]> weighted = new ArrayList<>();
          add(weighted, pool, 1);
          return quantiles(weighted);
        }
      }
      List<double[]> weighted = new ArrayList<>();
      slots.forEach(s -> add(weighted, s, 1));
      return quantiles(weighted.size() < 60 ? List.of() : weighted);
    }

    private static int different(List<double[]> steps, int column) {
      Set<Double> seen = new HashSet<>();
      steps.forEach(step -> seen.add(step[column]));
      return seen.size();
    }

    private static void add(List<double[]> weighted, List<double[]> steps, double weight) {
      steps.forEach(step -> weighted.add(new double[] {step[0], weight}));
    }

    private static double[] quantiles(List<double[]> weighted) {
      return Arrays.stream(new double[] {0.05, 0.25, 0.5, 0.75, 0.95})
          .map(f -> QuantilesTest.ReferenceQuantile.of(weighted, f))
          .toArray();
    }
  }
}
