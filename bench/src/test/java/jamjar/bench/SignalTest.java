package jamjar.bench;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.SignalBench.Incident;
import jamjar.bench.SignalBench.Risen;
import jamjar.bench.SignalGrid.Ticks;
import jamjar.bench.Skerries.One;
import jamjar.standins.history.EngineStory;
import jamjar.standins.servers.Story;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.function.IntPredicate;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/**
 * The demo's own story by the shipped limits: what happens in it is told in time, and nothing else.
 * In short, of some days and instances; {@code ./jamjar bench signal} has all of it.
 */
class SignalTest {
  private static final int SEED = 1;
  private static final Ticks LIVE = new Ticks(30);
  private static final Ticks BY_THE_MINUTE = new Ticks(60);
  private static final Story STORY = new Story(Skerries.OPENED);
  private static final EngineStory ENGINES = new EngineStory(STORY, Skerries.OPENED);
  private static final List<Incident> INCIDENTS = SignalBench.incidents(STORY, ENGINES);

  private static List<Risen> risen(String name, Ticks ticks, IntPredicate days) throws Exception {
    One one =
        Skerries.all(STORY, SEED).stream()
            .filter(each -> each.name().equals(name))
            .findFirst()
            .orElseThrow();
    return SignalBench.judged(one, SignalGrid.read(one, ticks, days));
  }

  private static int day(Instant at) {
    return (int) Duration.between(Skerries.FROM, at).toDays();
  }

  private static Incident incident(String what) {
    return INCIDENTS.stream().filter(one -> one.what().equals(what)).findFirst().orElseThrow();
  }

  /** Told in time, and every alert of those days is of it. */
  private static void isToldAlone(Incident incident, List<Risen> all) {
    assertThat(incident.told(all))
        .as(incident.what() + ", ms after it began")
        .isBetween(0L, incident.within().toMillis());
    Set<String> others =
        all.stream()
            .filter(one -> !incident.of().test(one))
            .filter(one -> !incident.touches(one))
            .map(one -> one.key() + " " + one.condition())
            .collect(Collectors.toSet());
    assertThat(others).as("told beside " + incident.what()).isEmpty();
  }

  @Test
  void a_reload_that_blocks_and_a_deadlock_are_told_within_minutes() throws Exception {
    for (String what : List.of("fare reload blocked", "deadlock")) {
      Incident incident = incident(what);
      int day = day(incident.from());
      isToldAlone(incident, risen(EngineStory.WRITER, LIVE, d -> d == day));
    }
  }

  @Test
  void an_empty_pool_is_told_within_minutes() throws Exception {
    Incident incident = incident("bookingPool empty");
    int day = day(incident.from());
    isToldAlone(incident, risen("booking-1", LIVE, d -> d == day));
  }

  @Test
  void what_stays_under_every_number_is_told_by_its_normal_alone() throws Exception {
    Incident dropped = incident("index dropped");
    int day = day(dropped.from());
    List<Risen> all = risen(EngineStory.FREIGHT, BY_THE_MINUTE, d -> d <= day && d > day - 22);
    isToldAlone(dropped, all);
    assertThat(all.stream().filter(dropped.of()).filter(dropped::touches))
        .isNotEmpty()
        .noneMatch(Risen::plain);
  }
}
