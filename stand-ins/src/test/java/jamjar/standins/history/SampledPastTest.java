package jamjar.standins.history;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.reading.SeriesKey;
import jamjar.core.session.Forest;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class SampledPastTest {
  private static final Instant END = Instant.parse("2026-11-26T13:17:00Z");
  private static final EngineStory ENGINES = new EngineStory(new Story(END), END);
  private static final Instant RELOAD = Story.daysAgo(END, 16, LocalTime.of(2, 10));
  private final EnginePast past =
      new EnginePast(
          EngineStory.WRITER,
          RecipeFile.shipped("postgresql").recipe(),
          EnginePastTest.usual(END),
          ENGINES,
          at -> false,
          4711);
  private final SampledPast sampled = new SampledPast(EngineStory.WRITER, past, ENGINES, 4711);

  @Test
  void there_are_as_many_sessions_as_the_counters_tell_of() {
    Instant from = Instant.parse("2026-11-20T10:00:00Z");
    List<Sample> hour = sampled.between(from, from.plus(Duration.ofHours(1)));
    assertThat(hour).hasSize(60);
    for (Sample sample : hour) {
      Map<SeriesKey, Double> told = past.sessions(sample.at());
      assertThat(sample.sessions().stream().filter(Session::isBusy))
          .hasSize(told.get(SeriesKey.of("sessions.active")).intValue());
      assertThat(sample.sessions().stream().filter(s -> !s.blockers().isEmpty()))
          .hasSize(told.get(SeriesKey.of("sessions.waiting_lock")).intValue());
      assertThat(sample.total()).isEqualTo(told.get(SeriesKey.of("sessions.total")).intValue());
      assertThat(sample.sessions()).extracting(Session::pid).doesNotHaveDuplicates();
      assertThat(sampled.texts().keySet())
          .containsAll(sample.sessions().stream().map(Session::statement).toList());
    }
    assertThat(sampled.between(from, from.plus(Duration.ofHours(1)))).isEqualTo(hour);
  }

  @Test
  void in_the_night_of_the_reload_it_holds_up_nine_three_deep() {
    List<Sample> night = sampled.between(RELOAD.minusSeconds(60), RELOAD.plusSeconds(2_580));
    // each five seconds for 42 minutes, and a minute before and after
    assertThat(night).hasSize(42 * 12 + 2);
    int most = 0;
    for (Sample sample : night) {
      Forest forest = Forest.of(sample);
      double blocked = ENGINES.blocked(EngineStory.WRITER, sample.at());
      if (blocked == 0) {
        continue;
      }
      assertThat(forest.cycles()).isEmpty();
      assertThat(forest.roots()).hasSize(1);
      Forest.Root root = forest.roots().get(0);
      assertThat(root.pid()).isEqualTo(SampledPast.RELOADS);
      assertThat(root.waiters()).isEqualTo(ENGINES.waiting(blocked));
      assertThat(root.onlyBecause()).isEqualTo(root.waiters());
      assertThat(root.depth()).isBetween(1, 3);
      most = Math.max(most, root.waiters());
      if (root.waiters() == 9) {
        assertThat(root.depth()).isEqualTo(3);
      }
    }
    assertThat(most).isEqualTo(9);
    Session reloads =
        Forest.of(sampled.sample(RELOAD.plusSeconds(600))).roots().get(0).session().orElseThrow();
    assertThat(sampled.texts().get(reloads.statement()))
        .isEqualTo("lock table sailing in access exclusive mode");
    assertThat(reloads.state()).isEqualTo(Session.State.IN_TRANSACTION);
  }
}
