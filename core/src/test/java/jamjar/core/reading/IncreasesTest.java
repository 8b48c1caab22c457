package jamjar.core.reading;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.Recipes;
import jamjar.core.counter.WhyNothing;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.junit.jupiter.api.Test;

class IncreasesTest {
  private static final Instant START = Instant.parse("2026-11-24T02:10:00Z");
  private static final SeriesKey A = SeriesKey.of("commits", "database", "a");
  private static final SeriesKey B = SeriesKey.of("commits", "database", "b");
  private static final SeriesKey SUM = SeriesKey.of("commits");

  private Optional<LastTotals> last = Optional.empty();
  private long start = 1;

  @Test
  void the_first_reading_of_a_source_gives_no_increase() {
    Reading reading = read(0, total(A, 100));
    assertThat(reading.value(A)).isNaN();
    assertThat(why(reading, A)).isEqualTo(WhyNothing.NOT_YET_KNOWN);
  }

  @Test
  void an_increase_is_exact_even_beyond_what_a_double_holds() {
    long large = (1L << 62) + 1;
    read(0, total(A, large));
    Reading reading = read(10, total(A, large + 3));
    assertThat(reading.value(A)).isEqualTo(3);
    assertThat(reading.elapsedMillis()).isEqualTo(10_000);
  }

  @Test
  void a_total_that_fell_gives_nothing_neither_negative_nor_zero() {
    read(0, total(A, 100));
    Reading reading = read(10, total(A, 40));
    assertThat(reading.value(A)).isNaN();
    assertThat(read(20, total(A, 45)).value(A)).isEqualTo(5);
  }

  @Test
  void a_reset_gives_nothing_even_when_the_new_total_is_larger() {
    read(0, total(A, 100));
    Reading reading = read(10, new RawValue.Total(A, 5000, 7));
    assertThat(reading.value(A)).isNaN();
    assertThat(read(20, new RawValue.Total(A, 5001, 7)).value(A)).isEqualTo(1);
  }

  @Test
  void a_restart_of_the_source_gives_nothing_for_any_total() {
    read(0, total(A, 100), total(B, 5));
    start = 2;
    Reading reading = read(10, total(A, 150), total(B, 9));
    assertThat(reading.value(A)).isNaN();
    assertThat(reading.value(B)).isNaN();
    assertThat(read(20, total(A, 151), total(B, 9)).value(B)).isZero();
  }

  @Test
  void a_label_that_was_absent_from_a_complete_reading_gives_its_whole_value() {
    read(0, total(A, 100));
    assertThat(read(10, total(A, 101), total(B, 30)).value(B)).isEqualTo(30);
  }

  @Test
  void a_label_after_a_reading_whose_query_failed_gives_nothing() {
    read(0, total(A, 100));
    failed(10, WhyNothing.CUT_OFF);
    Reading reading = read(20, total(A, 130));
    assertThat(reading.value(A)).isNaN();
    assertThat(read(30, total(A, 131)).value(A)).isEqualTo(1);
  }

  @Test
  void a_series_without_a_value_in_one_reading_has_none_in_the_next_either() {
    read(0, total(A, 100));
    read(10, new RawValue.Nothing(A, WhyNothing.NOT_PERMITTED));
    assertThat(read(20, total(A, 130)).value(A)).isNaN();
  }

  @Test
  void when_the_whole_reading_was_missing_elapsed_covers_it() {
    read(0, total(A, 100));
    Reading reading = read(60, total(A, 700));
    assertThat(reading.value(A)).isEqualTo(600);
    assertThat(reading.elapsedMillis()).isEqualTo(60_000);
  }

  @Test
  void a_sum_is_formed_from_increases_and_lacks_when_one_part_lacks() {
    read(0, total(A, 100), total(B, 50));
    assertThat(read(10, total(A, 103), total(B, 54)).value(SUM)).isEqualTo(7);
    assertThat(read(20, total(A, 1), total(B, 55)).value(SUM)).isNaN();
  }

  @Test
  void entries_that_the_source_may_drop_bring_their_own_increase() {
    read(0, total(A, 100));
    Reading reading = read(10, new RawValue.Total(A, 60, 0, OptionalLong.of(12)));
    assertThat(reading.value(A)).isEqualTo(12);
  }

  @Test
  void a_source_whose_clock_went_back_gives_no_increase() {
    read(10, total(A, 100));
    assertThat(read(5, total(A, 110)).value(A)).isNaN();
  }

  @Test
  void without_a_clock_of_the_source_the_monotonic_one_here_serves_and_a_set_clock_does_no_harm() {
    last =
        Optional.of(
            Increases.derive(
                    last,
                    raw(START, RawReading.NO_CLOCK, 5_000_000_000L, total(A, 1)),
                    Recipes.recipe())
                .last());
    Increases.Step step =
        Increases.derive(
            last,
            raw(START.minusSeconds(3600), RawReading.NO_CLOCK, 15_000_000_000L, total(A, 4)),
            Recipes.recipe());
    assertThat(step.reading().elapsedMillis()).isEqualTo(10_000);
    assertThat(step.reading().value(A)).isEqualTo(3);
  }

  @Test
  void nan_and_infinities_are_no_value() {
    SeriesKey used = SeriesKey.of("used");
    for (double odd : new double[] {Double.NaN, Double.POSITIVE_INFINITY}) {
      Reading reading = read(0, new RawValue.Level(used, odd));
      assertThat(reading.value(used)).isNaN();
      assertThat(why(reading, used)).isEqualTo(WhyNothing.NONE_THERE);
    }
  }

  @Test
  void zero_is_a_value() {
    SeriesKey used = SeriesKey.of("used");
    Reading reading = read(0, new RawValue.Level(used, 0));
    assertThat(reading.value(used)).isZero();
    assertThat(why(reading, used)).isNull();
  }

  @Test
  void a_counter_that_was_not_read_before_does_not_give_the_count_since_the_start_of_the_engine() {
    SeriesKey used = SeriesKey.of("used");
    last = Optional.of(new LastTotals(START, 0, 0, start, Set.of("used"), Map.of(), Set.of()));
    Reading reading = read(10, new RawValue.Level(used, 1), total(A, 9_000_000));
    assertThat(reading.value(A)).isNaN();
  }

  @Test
  void entries_that_were_not_read_the_last_time_have_no_increase_over_the_last_interval() {
    read(0, entries(100, 0));
    assertThat(read(10, entries(160, 70)).value(SUM)).isEqualTo(70);
    failed(20, WhyNothing.CUT_OFF);
    // 90 since the reading at 10 s, but the interval begins at 20 s
    assertThat(read(30, entries(250, 90)).value(SUM)).isNaN();
    assertThat(read(40, entries(260, 10)).value(SUM)).isEqualTo(10);
  }

  private static RawValue.Total entries(long value, long increase) {
    return new RawValue.Total(SUM, value, 0, OptionalLong.of(increase));
  }

  private Reading read(int second, RawValue... values) {
    return step(raw(second, Set.of("g"), Map.of(), values));
  }

  private void failed(int second, WhyNothing why) {
    Reading reading = step(raw(second, Set.of(), Map.of("g", why)));
    assertThat(why(reading, SUM)).isEqualTo(why);
  }

  private Reading step(RawReading raw) {
    Increases.Step step = Increases.derive(last, raw, Recipes.recipe());
    last = Optional.of(step.last());
    return step.reading();
  }

  private RawReading raw(
      int second, Set<String> complete, Map<String, WhyNothing> failed, RawValue... values) {
    return new RawReading(
        START.plusSeconds(second),
        second * 1_000_000L,
        second * 1_000_000_000L,
        start,
        complete,
        failed,
        List.of(values));
  }

  private RawReading raw(Instant at, long sourceMicros, long nanos, RawValue... values) {
    return new RawReading(
        at, sourceMicros, nanos, start, Set.of("g"), Map.of(), Arrays.asList(values));
  }

  private static RawValue.Total total(SeriesKey key, long value) {
    return new RawValue.Total(key, value, 0);
  }

  private static WhyNothing why(Reading reading, SeriesKey key) {
    return reading.why()[reading.series().indexOf(key)];
  }
}
