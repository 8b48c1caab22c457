package jamjar.store.readings;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.chart.Steps;
import jamjar.core.counter.Shape;
import jamjar.core.watching.Gap;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What goes with the months, and what takes its place. */
class AgeingTest extends PackedHistory {
  @Test
  void what_is_older_than_is_kept_goes_by_months_and_leaves_its_steps() {
    history();
    seal("2026-11-26T03:00:00Z");
    Steps before = days(ids()[0], 15).get(1);
    // nothing newer was read: by the clock alone nothing is old
    assertThat(ageOut("2028-01-26T00:00:00Z")).isZero();
    // the month ends with November, and 56 days after it with the 25th of January
    reads("2027-01-26T00:00:00Z");
    assertThat(ageOut("2027-01-25T23:59:59Z")).isZero();
    // what has no steps gets them first
    CLUSTER.run(database, "delete from step where from_at < '2026-11-25 00:00+00'");
    CLUSTER.run(database, "delete from step_month");
    assertThat(ageOut("2027-01-26T00:10:00Z")).isZero();
    assertThat(seal("2027-01-26T00:11:00Z").again()).isEqualTo(6);
    assertThat(days(ids()[0], 15)).hasSizeGreaterThan(2);
    assertThat(ageOut("2027-01-26T00:12:00Z")).isEqualTo(2);
    assertThat(readings()).isEmpty();
    assertThat(days(ids()[0], 1)).hasSizeGreaterThan(2);

    // what comes now for such a day can't be joined with it any more
    write(1, Instant.parse("2026-11-25T10:00:00.5Z"), List.of(USED), 4711);
    seal("2027-01-26T00:13:00Z");
    assertThat(days(ids()[0], 15).get(1).amount()).isEqualTo(before.amount());
    reads("2027-06-30T00:00:00Z");
    assertThat(ageOut("2027-05-30T00:00:00Z")).isPositive();
    assertThat(days(ids()[0], 1)).noneMatch(day -> day.from() < LAST.toEpochMilli() - DAY);
    assertThat(days(ids()[0], 15).get(1).amount()).isEqualTo(before.amount());
  }

  @Test
  void a_clock_that_leapt_drops_nothing_for_a_week() {
    history();
    seal("2026-11-26T03:00:00Z");
    Instant wrong = Instant.parse("2027-03-02T10:00:00Z");
    store.watching().add(Gap.notRunning(LAST.toEpochMilli(), wrong.toEpochMilli()));
    reads("2027-03-02T10:00:00Z");
    reads("2027-03-10T10:00:00Z");
    assertThat(ageOut("2027-03-09T09:59:00Z")).isZero();
    assertThat(ageOut("2027-03-09T10:01:00Z")).isEqualTo(2);
  }

  @Test
  void the_days_of_a_month_that_is_over_lie_in_one_row_and_what_comes_late_still_counts() {
    history();
    seal("2026-11-26T03:00:00Z");
    List<Steps> quarters = days(ids()[0], 15);
    List<Steps> coarse = days(ids()[0], 360);
    assertThat(quarters).hasSize(2);
    assertThat(coarse).extracting(Steps::size).containsExactly(4, 4);
    reads("2026-12-05T10:00:00Z");
    assertThat(count("select count(*) from step where minutes <> 1 and from_at < '2026-12-01'"))
        .isZero();
    // of each month of each series one row for each width
    assertThat(count("select count(*) from step_month")).isEqualTo(2 * 5);
    assertThat(amounts(days(ids()[0], 15).subList(0, 2))).isEqualTo(amounts(quarters));
    assertThat(amounts(days(ids()[0], 360).subList(0, 2))).isEqualTo(amounts(coarse));
    asOfReadings(ids()[0], Shape.LEVEL);

    write(1, Instant.parse("2026-11-25T10:00:00.5Z"), List.of(USED), 4711);
    // months are looked through once an hour
    seal("2026-12-05T14:01:00Z");
    assertThat(days(ids()[0], 360).get(1).greatest()[1]).isEqualTo(4711);
    assertThat(days(ids()[0], 15).get(1).greatest()[40]).isEqualTo(4711);
    asOfReadings(ids()[0], Shape.LEVEL);
    assertThat(count("select count(*) from step_month")).isEqualTo(2 * 5);
    assertThat(count("select count(*) from step where minutes <> 1 and from_at < '2026-12-01'"))
        .isZero();
  }

  private static List<String> amounts(List<Steps> days) {
    return days.stream()
        .map(day -> day.from() + " " + Arrays.toString(day.amount()) + Arrays.toString(day.least()))
        .toList();
  }

  /** Reads at a moment, and so much later that it is packed. */
  private void reads(String at) {
    Instant moment = Instant.parse(at);
    write(1, moment, List.of(USED), 1);
    store.readings().sealer().run(moment.plus(Duration.ofHours(3)));
  }

  private int ageOut(String now) {
    return store.readings().retention().run(Instant.parse(now), store.keeping().all());
  }
}
