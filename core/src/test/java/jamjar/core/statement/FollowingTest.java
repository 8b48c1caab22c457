package jamjar.core.statement;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.Shape;
import jamjar.core.counter.Worse;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class FollowingTest {
  private static final Set<Long> NOBODY = Set.of();

  /** A day on which the statements 1 to n took time, the first the most. */
  private static Map<Long, Long> day(int n) {
    Map<Long, Long> day = new HashMap<>();
    for (long one = 1; one <= n; one++) {
      day.put(one, 1_000_000 - one);
    }
    return day;
  }

  private static List<Map<Long, Long>> days(int n) {
    List<Map<Long, Long>> days = new ArrayList<>();
    for (int i = 0; i < Following.DAYS; i++) {
      days.add(day(n));
    }
    return days;
  }

  @Test
  void who_is_among_the_first_fifty_on_three_of_seven_days_is_followed() {
    List<Map<Long, Long>> days = days(60);
    days.get(1).put(60L, 5_000_000L);
    days.get(4).put(60L, 5_000_000L);
    assertThat(Following.next(NOBODY, days, NOBODY)).hasSize(50).doesNotContain(60L, 51L);
    days.get(6).put(60L, 5_000_000L);
    assertThat(Following.next(NOBODY, days, NOBODY))
        .as("it takes the place of the one that took the least")
        .hasSize(50)
        .contains(60L, 49L)
        .doesNotContain(50L);
  }

  @Test
  void of_two_days_nobody_is_followed_yet() {
    List<Map<Long, Long>> days = List.of(day(10), day(10), Map.of(), Map.of(), Map.of());
    assertThat(Following.next(NOBODY, days, NOBODY)).isEmpty();
  }

  @Test
  void who_is_followed_stays_until_it_lies_beyond_two_hundred_on_seven_days() {
    List<Map<Long, Long>> far = days(20);
    for (int i = 0; i < far.size(); i++) {
      // others on each day, so that none of them is followed
      for (long one = 0; one < 200; one++) {
        far.get(i).put(1000L * (i + 1) + one, 500L - one);
      }
      far.get(i).put(9999L, 1L);
    }
    assertThat(far.get(0)).hasSize(221);
    assertThat(Following.next(Set.of(9999L), far, NOBODY)).doesNotContain(9999L).contains(1L);
    // on one of them it took the most
    far.get(3).put(9999L, 9_000_000L);
    assertThat(Following.next(Set.of(9999L), far, NOBODY)).contains(9999L);
    // of days that were not counted nothing is known
    far.get(3).remove(9999L);
    far.set(5, Map.of());
    assertThat(Following.next(Set.of(9999L), far, NOBODY)).contains(9999L);
  }

  @Test
  void who_is_wanted_is_followed_besides_and_what_has_no_text_is_not() {
    List<Map<Long, Long>> days = days(60);
    days.forEach(day -> day.put(0L, 9_000_000L));
    assertThat(Following.next(NOBODY, days, Set.of(99L, 2L)))
        .hasSize(51)
        .contains(99L, 1L, 2L, 50L)
        .doesNotContain(0L, 51L);
  }

  @Test
  void who_takes_little_more_does_not_take_the_place_of_who_is_followed() {
    List<Map<Long, Long>> days = days(50);
    days.forEach(day -> day.put(77L, 0L));
    days.forEach(day -> day.put(78L, 1_500_000L));
    days.forEach(day -> day.put(50L, 900_000L));
    // the fiftieth lies beyond the first fifty now, but not by half
    assertThat(Following.next(Set.of(50L), days, NOBODY)).contains(50L, 78L).doesNotContain(49L);
    days.forEach(day -> day.put(50L, 400_000L));
    assertThat(Following.next(Set.of(50L), days, NOBODY)).contains(49L, 78L).doesNotContain(50L);
  }

  @Test
  void what_is_kept_of_them_are_the_counts_themselves_of_all_users() {
    TreeMap<StatementKey, StatementCounts> all = new TreeMap<>();
    all.put(new StatementKey("web", "b", 17, true), new StatementCounts(3, 4_000, 5, 6, 7, 8));
    all.put(new StatementKey("batch", "b", 17, false), new StatementCounts(1, 600, 2, 0, 1, 0));
    all.put(new StatementKey("web", "b", 18, true), new StatementCounts(9, 9, 9, 9, 9, 9));
    Counted counted = new Counted(Instant.EPOCH, 61_000, 0, all);
    var recipe =
        new Recipe(
            "postgresql",
            "x",
            Map.of(),
            Map.of("statement", Pace.MINUTE),
            Map.of("statement.calls", calls()),
            "",
            List.of());
    var step = FollowedReading.of(counted, new TreeSet<>(Set.of(17L, 255L)), recipe);
    assertThat(step.reading().series())
        .extracting(key -> key.counter() + key.labels())
        .containsExactly("statement.calls{statement=11}", "statement.calls{statement=ff}");
    assertThat(step.reading().values()).containsExactly(4, 0);
    assertThat(step.reading().elapsedMillis()).isEqualTo(61_000);
    assertThat(step.last().counters()).containsExactly("statement.calls");
  }

  private static CounterDefinition calls() {
    return new CounterDefinition(
        "statement.calls",
        "Calls of a statement",
        "statement",
        "/s",
        Shape.TOTAL,
        "statement",
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
