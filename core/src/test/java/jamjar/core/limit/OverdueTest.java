package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.Recipes;
import jamjar.core.baseline.Normal;
import jamjar.core.chart.Samples;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.WhyNothing;
import jamjar.core.limit.Docket.Change;
import jamjar.core.limit.Docket.Entry;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** A job that comes at about 02:05 each night; half an hour after ten past two it is told. */
class OverdueTest {
  private static final int SERIES = 5;
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final CounterDefinition JOBS = Recipes.COMMITS;
  private static final long READ_EVERY = 60_000;

  private static long at(String local) {
    return LocalDateTime.parse("2026-11-" + local).atZone(OSLO).toInstant().toEpochMilli();
  }

  private static InForce limit(Condition condition, Double warning, Double against) {
    Rule rule =
        new Rule(
            1,
            JOBS.key(),
            Map.of(),
            Scope.instance(1),
            condition,
            warning,
            null,
            null,
            null,
            null,
            null,
            null,
            against,
            true);
    return InForce.of(
            List.of(rule),
            new InForce.Place(1, "", "", OSLO),
            SeriesKey.of(JOBS.key()),
            JOBS,
            true,
            10_000)
        .get(0);
  }

  private static Docket docket(InForce inForce, long from) {
    return new Docket(
        List.of(new Entry(SERIES, JOBS, inForce)),
        Map.of(),
        from,
        from,
        (series, at) -> Normal.NONE);
  }

  /** Reads all nights in between, and what is told of it: "when state". */
  private static List<String> told(String from, String to, String... jobs) {
    Docket docket = docket(limit(Condition.OVERDUE, 30.0, 130.0), at(from));
    List<Change> changes = new ArrayList<>();
    for (long t = at(from) + 10_000; t < at(to); t += READ_EVERY) {
      changes.addAll(docket.read(t, t, new int[] {SERIES}, List.of(shown(happens(t, jobs)))));
    }
    List<String> told = new ArrayList<>();
    changes.forEach(
        change ->
            change
                .transitions()
                .forEach(
                    one ->
                        told.add(
                            java.time.Instant.ofEpochMilli(one.at())
                                    .atZone(OSLO)
                                    .toLocalDateTime()
                                    .withSecond(0)
                                + " "
                                + one.to().words())));
    return told;
  }

  private static boolean happens(long t, String... jobs) {
    for (String job : jobs) {
      if (at(job) > t - READ_EVERY && at(job) <= t) {
        return true;
      }
    }
    return false;
  }

  private static Shown shown(boolean happens) {
    return new Shown(SeriesKey.of(JOBS.key()), 0, null, happens ? 1 : 0, READ_EVERY / 1000.0);
  }

  @Test
  void a_night_on_which_it_does_not_come_is_told_by_twenty_to_three() {
    assertThat(told("10T20:00", "12T04:00", "11T02:05"))
        .containsExactly("2026-11-12T02:40 warning");
  }

  @Test
  void a_night_on_which_it_comes_late_but_comes_is_not_told() {
    assertThat(told("10T20:00", "12T12:00", "11T02:05", "12T02:36")).isEmpty();
  }

  @Test
  void it_is_calm_again_once_it_has_come() {
    assertThat(told("10T20:00", "12T12:00", "11T02:05", "12T05:00"))
        .containsExactly(
            "2026-11-12T02:40 warning", "2026-11-12T05:01 settling", "2026-11-12T05:02 calm");
  }

  @Test
  void who_begins_to_watch_after_it_came_does_not_miss_it() {
    assertThat(told("11T01:00", "11T12:00")).isEmpty();
  }

  @Test
  void what_came_while_the_target_was_not_read_is_told_by_the_sum_over_the_gap() {
    Docket docket = docket(limit(Condition.OVERDUE, 30.0, 130.0), at("10T20:00"));
    docket.happened(SERIES, at("10T02:05"));
    long back = at("11T02:20");
    Shown sum =
        new Shown(SeriesKey.of(JOBS.key()), Double.NaN, WhyNothing.NOT_YET_KNOWN, 1, Double.NaN);
    List<Change> changes =
        new ArrayList<>(docket.read(back, back, new int[] {SERIES}, List.of(sum)));
    changes.addAll(docket.time(at("11T06:00")));
    assertThat(changes).isEmpty();
    changes.addAll(docket.time(at("12T02:39")));
    assertThat(changes).isEmpty();
    changes.addAll(docket.time(at("12T02:41")));
    assertThat(changes).hasSize(1);
  }

  @Test
  void on_the_past_it_would_have_been_the_same() {
    List<String> jobs = List.of("11T02:05", "12T05:00", "13T02:35");
    long from = at("10T20:00");
    long[] at = LongStream.range(0, 3 * 1440).map(i -> from + i * READ_EVERY + 10_000).toArray();
    double[] value = new double[at.length];
    for (int i = 0; i < at.length; i++) {
      value[i] = happens(at[i], jobs.toArray(String[]::new)) ? 1 : 0;
    }
    Samples samples = samples(at, value);
    List<PastJudgings.Alert> alerts =
        PastJudgings.overdue(samples, limit(Condition.OVERDUE, 30.0, 130.0).limit())
            .alerts(limit(Condition.OVERDUE, 30.0, 130.0).limit());
    assertThat(alerts).hasSize(1);
    assertThat(alerts.get(0).rose()).isEqualTo(at("12T02:40"));
    assertThat(told("10T20:00", "13T20:00", jobs.toArray(String[]::new)))
        .filteredOn(words -> words.endsWith("warning"))
        .containsExactly("2026-11-12T02:40 warning");
    // with other numbers: 2 h 50 min late was one of three nights, 25 min another
    Limit limit = limit(Condition.OVERDUE, 30.0, 130.0).limit();
    PastJudgings past = PastJudgings.overdue(samples, limit);
    Trying trying =
        new Trying(
            List.of(new Trying.Past(past, limit, List.of(), List.of(), OSLO)), 7 * 86_400_000L);
    assertThat(trying.sweep(new double[] {10, 30, 169, 180}))
        .extracting(Trying.Point::perWeek)
        .containsExactly(2.0, 1.0, 1.0, 0.0);
  }

  private static Samples samples(long[] at, double[] value) {
    long[] elapsed = new long[at.length];
    long[] interval = new long[at.length];
    java.util.Arrays.fill(elapsed, READ_EVERY);
    java.util.Arrays.fill(interval, READ_EVERY);
    return new Samples(at, elapsed, interval, value, List.of());
  }

  @Test
  void what_will_be_reached_within_days_is_told_when_three_nights_in_a_row_say_so() {
    Docket docket = docket(limit(Condition.REACHES, 30.0, 24.0), at("10T20:00"));
    Map<Integer, Double> days = new TreeMap<>();
    List<String> told = new ArrayList<>();
    double[] nights = {29, 31, 29, 28, 30, Double.NaN, 29, 40, Double.POSITIVE_INFINITY};
    for (int i = 0; i < nights.length; i++) {
      days.put(SERIES, nights[i]);
      long night = at(11 + i + "T00:00");
      for (Change change : docket.forecast(night, days)) {
        for (Transition one : change.transitions()) {
          told.add(11 + i + " " + one.to().words());
        }
      }
      // the same night again says nothing new
      assertThat(docket.forecast(night, days)).isEmpty();
      assertThat(docket.time(night + 3_600_000)).isEmpty();
    }
    assertThat(told).containsExactly("11 building", "15 warning", "18 settling", "19 calm");
  }
}
