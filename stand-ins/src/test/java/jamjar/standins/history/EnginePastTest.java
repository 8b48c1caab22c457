package jamjar.standins.history;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.withinPercentage;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.DemoFolder;
import jamjar.standins.history.Calibration.Usual;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class EnginePastTest {
  private static final Instant END = Instant.parse("2026-11-26T13:17:00Z");
  private static final Story STORY = new Story(END);
  private static final EngineStory ENGINES = new EngineStory(STORY, END);
  private static final Recipe RECIPE = RecipeFile.shipped("postgresql").recipe();
  private static final Duration HOUR = Duration.ofHours(1);

  @Test
  void it_is_the_same_whatever_stretch_is_read() {
    Instant from = Instant.parse("2026-11-19T22:00:00Z");
    List<Reading> whole = read(EngineStory.WRITER, from, from.plus(HOUR.multipliedBy(4)));
    List<Reading> part =
        read(EngineStory.WRITER, from.plus(HOUR.multipliedBy(2)), from.plus(HOUR.multipliedBy(4)));
    assertThat(part).hasSizeBetween(119, 121);
    List<Reading> end = whole.subList(whole.size() - part.size(), whole.size());
    for (int i = 0; i < part.size(); i++) {
      assertThat(part.get(i).at()).isEqualTo(end.get(i).at());
      assertThat(part.get(i).values()).isEqualTo(end.get(i).values());
    }
    assertThat(read(EngineStory.READER, from, from.plus(HOUR)).get(5).values())
        .isNotEqualTo(whole.get(5).values());
  }

  @Test
  void parts_add_up() {
    Instant from = Instant.parse("2026-11-20T10:00:00Z");
    for (Reading reading : read(EngineStory.WRITER, from, from.plus(HOUR.multipliedBy(3)))) {
      double active = value(reading, "sessions.active");
      assertThat(active)
          .isEqualTo(
              value(reading, "sessions.active_not_waiting") + value(reading, "sessions.waiting"));
      assertThat(value(reading, "sessions.total"))
          .isEqualTo(
              active
                  + value(reading, "sessions.idle")
                  + value(reading, "sessions.idle_in_transaction"));
      assertThat(value(reading, "transactions.committed"))
          .isEqualTo(
              value(reading, "transactions.committed", DemoFolder.DATABASE)
                  + value(reading, "transactions.committed", "postgres"));
      for (double value : reading.values()) {
        assertThat(value).isGreaterThanOrEqualTo(0).isFinite();
      }
    }
  }

  @Test
  void it_has_the_rhythm_of_the_day() {
    double noon = perSecond("statements.calls", Instant.parse("2026-11-19T11:00:00Z"));
    double night = perSecond("statements.calls", Instant.parse("2026-11-19T03:00:00Z"));
    assertThat(noon).isGreaterThan(2 * night);
  }

  @Test
  void the_fare_reload_blocks_others_for_forty_minutes() {
    Instant reload = Story.daysAgo(END, 16, LocalTime.of(2, 10));
    assertThat(Duration.between(reload, END).toDays()).isBetween(16L, 17L);
    double most = 0;
    double longest = 0;
    for (Reading reading : read(EngineStory.WRITER, reload, reload.plus(Duration.ofMinutes(42)))) {
      most = Math.max(most, value(reading, "sessions.waiting_lock"));
      longest = Math.max(longest, value(reading, "locks.oldest_wait"));
      assertThat(value(reading, "sessions.longest_transaction"))
          .isGreaterThan(value(reading, "locks.oldest_wait"));
    }
    assertThat(most).isEqualTo(9);
    assertThat(longest).isBetween(2_400.0, 2_520.0);
    Instant after = reload.plus(Duration.ofMinutes(50));
    assertThat(read(EngineStory.WRITER, after, after.plus(HOUR)))
        .allMatch(reading -> value(reading, "locks.oldest_wait") < 1);
    // it overruns shortly in nine of the last fourteen nights, and others are never blocked
    long nights = 0;
    for (int night = 0; night < 14; night++) {
      Instant hour = Story.daysAgo(END, night, LocalTime.of(1, 40));
      nights +=
          read(EngineStory.WRITER, hour, hour.plus(HOUR)).stream()
                  .anyMatch(reading -> value(reading, "locks.oldest_wait") > 1)
              ? 1
              : 0;
    }
    assertThat(nights).isEqualTo(9);
    assertThat(read(EngineStory.READER, reload, reload.plus(HOUR)))
        .allMatch(reading -> value(reading, "locks.oldest_wait") < 1);
  }

  @Test
  void statements_are_slower_without_an_index_and_since_this_morning() {
    Instant before = Story.daysAgo(END, 11, LocalTime.of(12, 0));
    Instant without = Story.daysAgo(END, 8, LocalTime.of(12, 0));
    Instant after = Story.daysAgo(END, 4, LocalTime.of(12, 0));
    double usual = meanTime(EngineStory.FREIGHT, before);
    assertThat(meanTime(EngineStory.FREIGHT, without) / usual).isCloseTo(9, withinPercentage(25));
    assertThat(meanTime(EngineStory.FREIGHT, after) / usual).isCloseTo(1, withinPercentage(25));
    assertThat(ENGINES.marks()).extracting(EngineStory.Mark::title).contains("index back");
    double yesterday = meanTime(EngineStory.WRITER, END.minus(Duration.ofHours(25)));
    double now = meanTime(EngineStory.WRITER, END.minus(HOUR));
    assertThat(now / yesterday).isCloseTo(1.8, withinPercentage(25));
  }

  @Test
  void there_is_one_deadlock_and_a_site_that_works_less() {
    Instant evening = Story.daysAgo(END, 2, LocalTime.of(20, 0));
    List<Reading> all = read(EngineStory.WRITER, evening, evening.plus(HOUR.multipliedBy(2)));
    assertThat(all.stream().mapToDouble(r -> value(r, "deadlocks", DemoFolder.DATABASE)).sum())
        .isEqualTo(1);
    Story.Stretch works = STORY.maintenance();
    assertThat(ENGINES.load(EngineStory.READER, works.from()))
        .isLessThan(ENGINES.load(EngineStory.WRITER, works.from()) / 20);
  }

  @Test
  void what_is_stored_grows() {
    assertThat(size(END.minus(HOUR)) / size(END.minus(Duration.ofDays(42))))
        .isCloseTo(1 / (1 - 0.011 * 42), withinPercentage(1));
  }

  private static double size(Instant at) {
    List<Reading> all = new ArrayList<>();
    past(EngineStory.WRITER)
        .read(
            at,
            at.plus(HOUR),
            moment -> 60,
            (source, every, step) -> {
              if (source == Pace.SLOW) {
                all.add(step.reading());
              }
            });
    return value(all.get(0), "size.database");
  }

  private static double meanTime(String engine, Instant from) {
    List<Reading> all = read(engine, from, from.plus(Duration.ofMinutes(50)));
    return sum(all, "statements.time") / sum(all, "statements.calls");
  }

  private static double perSecond(String counter, Instant from) {
    List<Reading> all = read(EngineStory.WRITER, from, from.plus(HOUR));
    return sum(all, counter) / all.stream().mapToDouble(r -> r.elapsedMillis() / 1e3).sum();
  }

  private static double sum(List<Reading> all, String counter) {
    return all.stream().mapToDouble(reading -> value(reading, counter)).sum();
  }

  private static double value(Reading reading, String counter) {
    return value(reading, counter, "");
  }

  private static double value(Reading reading, String counter, String label) {
    for (int i = 0; i < reading.series().size(); i++) {
      SeriesKey key = reading.series().get(i);
      boolean same = label.isEmpty() ? key.labels().isEmpty() : key.labels().containsValue(label);
      if (key.counter().equals(counter) && same) {
        return reading.values()[i];
      }
    }
    return Double.NaN;
  }

  /** What is read once a minute. */
  private static List<Reading> read(String engine, Instant from, Instant to) {
    List<Reading> all = new ArrayList<>();
    past(engine)
        .read(
            from,
            to,
            at -> 60,
            (source, every, step) -> {
              Instant at = step.reading().at();
              if (source == Pace.FAST && !at.isBefore(from) && at.isBefore(to)) {
                all.add(step.reading());
              }
            });
    return all;
  }

  private static EnginePast past(String engine) {
    return new EnginePast(engine, RECIPE, usual(END), ENGINES, at -> false, 4711);
  }

  /** An engine of one program. */
  static Calibration usual(Instant at) {
    Map<SeriesKey, Usual> all = new HashMap<>();
    level(all, SeriesKey.of("sessions.total"), 21);
    level(all, SeriesKey.of("sessions.active"), 1.4);
    level(all, SeriesKey.of("sessions.active_not_waiting"), 0.9);
    level(all, SeriesKey.of("sessions.waiting"), 0.5);
    level(all, SeriesKey.of("sessions.waiting", "wait", "Client"), 0.4);
    level(all, SeriesKey.of("sessions.waiting", "wait", "Lock"), 0.1);
    level(all, SeriesKey.of("sessions.waiting_lock"), 0.1);
    level(all, SeriesKey.of("sessions.idle"), 19);
    level(all, SeriesKey.of("sessions.idle_in_transaction"), 0.6);
    level(all, SeriesKey.of("sessions.longest_transaction"), 0.05);
    level(all, SeriesKey.of("connections.used"), 23);
    level(all, SeriesKey.of("connections.maximum"), 100);
    level(all, SeriesKey.of("locks.waiters"), 0.1);
    level(all, SeriesKey.of("locks.oldest_wait"), 0.01);
    for (String database : List.of(DemoFolder.DATABASE, "postgres")) {
      total(all, SeriesKey.of("transactions.committed", "database", database), 30, Pace.FAST);
      total(all, SeriesKey.of("transactions.rolled_back", "database", database), 0.1, Pace.FAST);
      total(all, SeriesKey.of("deadlocks", "database", database), 0, Pace.FAST);
    }
    total(all, SeriesKey.of("transactions.committed"), 60, Pace.FAST);
    total(all, SeriesKey.of("statements.calls"), 90, Pace.FAST);
    total(all, SeriesKey.of("statements.time"), 250_000, Pace.FAST);
    all.put(
        SeriesKey.of("size.database", "database", DemoFolder.DATABASE),
        new Usual(Pace.SLOW, false, 60e6));
    return new Calibration(at, all, Map.of());
  }

  private static void level(Map<SeriesKey, Usual> to, SeriesKey key, double mean) {
    to.put(key, new Usual(Pace.FAST, false, mean));
  }

  private static void total(Map<SeriesKey, Usual> to, SeriesKey key, double mean, Pace pace) {
    to.put(key, new Usual(pace, true, mean));
  }
}
