package jamjar.core.reading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.Recipes;
import jamjar.core.counter.WhyNothing;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class ShownTest {
  private static final Instant AT = Instant.parse("2026-11-24T02:10:00Z");
  private static final SeriesKey USED = SeriesKey.of("used");
  private static final SeriesKey HITS = SeriesKey.of("hits");
  private static final SeriesKey READS = SeriesKey.of("reads");
  private static final SeriesKey RATIO = SeriesKey.of("ratio");

  @Test
  void an_increase_is_shown_per_second_and_a_quotient_in_its_unit() {
    List<Shown> shown = shown(10_000, 7, 990, 10);
    assertThat(value(shown, USED)).isEqualTo(7);
    assertThat(value(shown, HITS)).isEqualTo(99);
    assertThat(value(shown, RATIO)).isCloseTo(99, within(1e-9));
  }

  @Test
  void too_few_below_the_line_is_no_ratio() {
    List<Shown> shown = shown(10_000, 7, 10, 9);
    assertThat(value(shown, RATIO)).isNaN();
    assertThat(why(shown, RATIO)).isEqualTo(WhyNothing.TOO_FEW);
  }

  @Test
  void an_increase_over_more_than_two_and_a_half_intervals_is_not_shown_but_a_level_is() {
    assertThat(value(shown(25_000, 7, 990, 10), HITS)).isCloseTo(39.6, within(1e-9));
    List<Shown> shown = shown(25_001, 7, 990, 10);
    assertThat(value(shown, USED)).isEqualTo(7);
    assertThat(value(shown, HITS)).isNaN();
    assertThat(why(shown, HITS)).isEqualTo(WhyNothing.NOT_YET_KNOWN);
    assertThat(why(shown, RATIO)).isEqualTo(WhyNothing.NOT_YET_KNOWN);
  }

  @Test
  void a_part_without_the_label_is_the_whole_that_the_labelled_one_is_a_share_of() {
    SeriesKey hitsOfOne = SeriesKey.of("hits", "database", "bookings");
    SeriesKey readsOfOne = SeriesKey.of("reads", "database", "bookings");
    Reading reading =
        new Reading(
            AT,
            10_000,
            List.of(hitsOfOne, HITS, READS, readsOfOne),
            new double[] {30, 60, 40, 10},
            new WhyNothing[4]);
    List<Shown> shown = Shown.of(reading, Recipes.recipe(), 10_000);
    // its own parts where it has them: 60 of 100, and 30 of 40
    assertThat(value(shown, RATIO)).isCloseTo(60, within(1e-9));
    assertThat(value(shown, hitsOfOne.withCounter("ratio"))).isCloseTo(75, within(1e-9));

    Reading without =
        new Reading(
            AT,
            10_000,
            List.of(hitsOfOne, HITS, READS),
            new double[] {60, 60, 40},
            new WhyNothing[3]);
    // reads are not told by database: 60 of 60 + 40
    assertThat(value(Shown.of(without, Recipes.recipe(), 10_000), hitsOfOne.withCounter("ratio")))
        .isCloseTo(60, within(1e-9));
  }

  private static List<Shown> shown(long elapsedMillis, double used, double hits, double reads) {
    Reading reading =
        new Reading(
            AT,
            elapsedMillis,
            List.of(USED, HITS, READS),
            new double[] {used, hits, reads},
            new WhyNothing[3]);
    return Shown.of(reading, Recipes.recipe(), 10_000);
  }

  private static double value(List<Shown> shown, SeriesKey key) {
    return one(shown, key).value();
  }

  private static WhyNothing why(List<Shown> shown, SeriesKey key) {
    return one(shown, key).why();
  }

  private static Shown one(List<Shown> shown, SeriesKey key) {
    return shown.stream().filter(s -> s.series().equals(key)).findFirst().orElseThrow();
  }
}
