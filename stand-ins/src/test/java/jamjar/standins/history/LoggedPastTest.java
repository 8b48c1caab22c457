package jamjar.standins.history;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.log.LogEntry;
import jamjar.core.log.Logged;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.List;
import org.junit.jupiter.api.Test;

class LoggedPastTest {
  private static final Instant END = Instant.parse("2026-11-26T13:17:00Z");
  private static final EngineStory ENGINES = new EngineStory(new Story(END), END);
  private final SampledPast sampled =
      new SampledPast(
          EngineStory.WRITER,
          new EnginePast(
              EngineStory.WRITER,
              RecipeFile.shipped("postgresql").recipe(),
              EnginePastTest.usual(END),
              ENGINES,
              at -> false,
              4711),
          ENGINES,
          4711);
  private final LoggedPast past =
      new LoggedPast(EngineStory.WRITER, sampled, ENGINES, at -> false, 4711);

  private List<LogEntry> lines(Instant from, Duration length) {
    return past.between(from, from.plus(length)).stream()
        .flatMap(logged -> logged.entries().stream())
        .toList();
  }

  @Test
  void nine_that_waited_are_told_when_the_fare_reload_lets_go() {
    Instant over = Story.daysAgo(END, 16, LocalTime.of(2, 52));
    List<LogEntry> lines = lines(over.minusSeconds(120), Duration.ofMinutes(5));
    List<LogEntry> waited =
        lines.stream().filter(line -> line.kind() == LogEntry.Kind.WAITED).toList();
    assertThat(waited).hasSize(9);
    // the first one came with the reload, 42 minutes before
    assertThat(waited).extracting(LogEntry::durationUs).anyMatch(us -> us > 2_500_000_000L);
    assertThat(lines)
        .filteredOn(line -> line.kind() == LogEntry.Kind.FINISHED && line.durationUs() > 60_000_000)
        .hasSize(9)
        .allMatch(line -> sampled.texts().containsKey(line.statement()));
  }

  @Test
  void the_deadlock_names_refund_and_pay_and_ordinary_hours_have_little_over_the_threshold() {
    Instant evening = Story.daysAgo(END, 2, LocalTime.of(20, 30));
    List<LogEntry> lines = lines(evening, Duration.ofHours(1));
    assertThat(lines)
        .filteredOn(line -> line.kind() == LogEntry.Kind.DEADLOCK)
        .singleElement()
        .satisfies(
            line -> {
              assertThat(line.program()).isEqualTo("refund");
              assertThat(line.parties()).hasSize(2);
              assertThat(past.texts().get(line.parties().get(1).statement()))
                  .contains("paid_at = now()");
            });
    assertThat(lines)
        .filteredOn(line -> line.kind() == LogEntry.Kind.FINISHED)
        .hasSizeLessThan(30)
        .allMatch(line -> line.durationUs() >= 100_000);
    assertThat(lines(evening, Duration.ofHours(1))).isEqualTo(lines);
    assertThat(past.between(evening, evening.plusSeconds(600)))
        .hasSize(10)
        .extracting(Logged::thresholdMs)
        .containsOnly(100L);
  }
}
