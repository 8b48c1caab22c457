package jamjar.standins.servers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.withinPercentage;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.reading.Increases;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.threads.ThreadDump;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.zip.CRC32C;
import org.junit.jupiter.api.Test;

class PastTest {
  private static final Instant END = Instant.parse("2026-11-26T13:17:00Z");
  private static final Story STORY = new Story(END);

  @Test
  void the_same_seed_and_the_same_end_give_the_same_bits() {
    Instant day = Instant.parse("2026-11-20T00:00:00Z");
    long once = sum(read("booking-1", day, day.plus(Duration.ofHours(3)), 60));
    assertThat(sum(read("booking-1", day, day.plus(Duration.ofHours(3)), 60))).isEqualTo(once);
    assertThat(sum(read("booking-2", day, day.plus(Duration.ofHours(3)), 60))).isNotEqualTo(once);
  }

  @Test
  void it_has_the_rhythm_of_the_day_whatever_it_is_read_by() {
    Instant noon = Instant.parse("2026-11-19T11:00:00Z");
    Instant night = Instant.parse("2026-11-19T02:20:00Z");
    double busy = perSecond(read("booking-1", noon, noon.plus(Duration.ofHours(1)), 60));
    double quiet = perSecond(read("booking-1", night, night.plus(Duration.ofHours(1)), 60));
    assertThat(busy).isGreaterThan(2 * quiet);
    double fine = perSecond(read("booking-1", noon, noon.plus(Duration.ofHours(1)), 10));
    assertThat(fine).isCloseTo(busy, withinPercentage(3));
  }

  @Test
  void pools_obey_what_they_lend_and_for_how_long() {
    Instant noon = Instant.parse("2026-11-19T11:00:00Z");
    List<Reading> all = read("booking-1", noon, noon.plus(Duration.ofHours(2)), 10);
    double inUse = mean(all, "pool.in_use", "bookingPool");
    double held = sum(all, "pool.hold_time", "bookingPool") / 1000 / (2 * 3600);
    assertThat(inUse).isBetween(0.85 * held, 1.15 * held);
  }

  @Test
  void what_the_story_tells_is_seen() {
    Story.Stretch empty = STORY.emptyPools();
    ZonedDateTime began = empty.from().atZone(Story.ZONE);
    assertThat(began.getDayOfWeek()).isEqualTo(DayOfWeek.SATURDAY);
    assertThat(Duration.between(empty.from(), END).toDays()).isBetween(12L, 18L);
    double before =
        mean(
            read("booking-3", empty.from().minusSeconds(3_600), empty.from(), 60),
            "pool.waiting",
            "bookingPool");
    double during =
        mean(read("booking-3", empty.from(), empty.to(), 60), "pool.waiting", "bookingPool");
    assertThat(before).isLessThan(1);
    assertThat(during).isGreaterThan(8);

    // the floor of one climbs, and is back since the next release
    assertThat(STORY.marks())
        .extracting(Story.Mark::title)
        .containsExactly("release 4.8", "release 4.9", "gates 2.3");
    double[] floors =
        STORY.marks().stream()
            .limit(2)
            .map(Story.Mark::at)
            .mapToDouble(at -> floor(at.minus(Duration.ofHours(5))))
            .toArray();
    assertThat(floors[1]).isGreaterThan(floors[0] + 0.25);
    assertThat(floor(END.minus(Duration.ofDays(1)))).isLessThan(floors[0] + 0.2);

    // with it they began anew
    Instant cured = STORY.marks().get(1).at();
    assertThat(floor(cured.plusSeconds(1_800))).isLessThan(floors[0] + 0.2);

    // nothing came from one site
    Story.Stretch gap = STORY.cutOff();
    List<Reading> south =
        read("booking-5", gap.from().minusSeconds(600), gap.to().plusSeconds(600), 60);
    assertThat(south)
        .noneMatch(r -> !r.at().isBefore(gap.from()) && r.at().isBefore(gap.to()))
        .anyMatch(r -> r.at().isAfter(gap.to()));
    assertThat(read("booking-1", gap.from(), gap.to(), 60)).hasSizeGreaterThan(25);

    // one gate did not come back from a change
    Instant gone = STORY.goneFrom();
    assertThat(STORY.marks().get(2).at()).isEqualTo(gone);
    assertThat(read("gate-4", gone.minusSeconds(600), gone.plusSeconds(600), 60))
        .hasSize(10)
        .allMatch(reading -> reading.at().isBefore(gone));
    assertThat(read("gate-3", gone, gone.plusSeconds(600), 60)).hasSize(10);
  }

  @Test
  void where_the_pool_ran_empty_its_threads_wait_for_a_connection() {
    Profile profile = profile("booking-2");
    Past past = new Past(profile, RecipeFile.shipped(profile.recipe()), STORY, 5);
    Instant began = STORY.emptyPools().from();
    assertThat(borrowing(past.threads(began.plusSeconds(31), "critical")))
        .isGreaterThanOrEqualTo(10);
    ThreadDump again = past.threads(began.plusSeconds(31), "critical");
    assertThat(again).isEqualTo(past.threads(began.plusSeconds(31), "critical"));
    assertThat(borrowing(past.threads(began.minusSeconds(600), "before"))).isLessThan(3);
  }

  private static long borrowing(ThreadDump dump) {
    return dump.threads().stream()
        .filter(
            thread ->
                dump.stacks().get(thread.stack()).contains("skerry.pool.ConnectionPool.borrow:214"))
        .count();
  }

  private static Profile profile(String name) {
    return Skerry.servers().stream().filter(p -> p.name().equals(name)).findFirst().orElseThrow();
  }

  private static double floor(Instant at) {
    List<Reading> all = read("freight-2", at, at.plus(Duration.ofHours(4)), 60);
    return all.stream()
            .mapToDouble(r -> value(r, "old_generation.floor", ""))
            .filter(Double::isFinite)
            .min()
            .orElseThrow()
        / (768 << 20);
  }

  private static List<Reading> read(String name, Instant from, Instant to, int every) {
    Profile profile = profile(name);
    List<Reading> all = new ArrayList<>();
    new Past(profile, RecipeFile.shipped(profile.recipe()), STORY, 4711)
        .read(from, to, at -> every, (source, seconds, step) -> add(all, source, step, from, to));
    return all;
  }

  private static void add(
      List<Reading> all, Pace source, Increases.Step step, Instant from, Instant to) {
    Instant at = step.reading().at();
    if (source == Pace.FAST && !at.isBefore(from) && at.isBefore(to)) {
      all.add(step.reading());
    }
  }

  private static double perSecond(List<Reading> all) {
    return sum(all, "requests.served", "http")
        / all.stream().mapToDouble(r -> r.elapsedMillis() / 1e3).sum();
  }

  private static double sum(List<Reading> all, String counter, String label) {
    return all.stream().mapToDouble(r -> value(r, counter, label)).sum();
  }

  private static double mean(List<Reading> all, String counter, String label) {
    return sum(all, counter, label) / all.size();
  }

  private static double value(Reading reading, String counter, String label) {
    for (int i = 0; i < reading.series().size(); i++) {
      SeriesKey key = reading.series().get(i);
      boolean same = label.isEmpty() || key.labels().containsValue(label);
      if (key.counter().equals(counter) && same) {
        return reading.values()[i];
      }
    }
    return Double.NaN;
  }

  private static long sum(List<Reading> all) {
    CRC32C sum = new CRC32C();
    for (Reading reading : all) {
      for (int i = 0; i < reading.values().length; i++) {
        if (!reading.series().get(i).counter().startsWith("own.")) {
          sum.update(
              (reading.at() + " " + reading.series().get(i) + " " + reading.values()[i])
                  .getBytes());
        }
      }
    }
    assertThat(Arrays.asList(all)).isNotEmpty();
    return sum.getValue();
  }
}
