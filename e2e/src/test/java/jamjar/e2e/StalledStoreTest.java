package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.StalledStore;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** Jam Jar's own database stands still, then is stopped, while all it watches is watched on. */
class StalledStoreTest {
  private static final Duration AWAY = Duration.ofSeconds(24);

  /** Beside other tests a machine may stand still for two seconds: that is no silence of theirs. */
  private static final int EVERY_S = 2;

  @Test
  void all_is_read_and_judged_on_and_is_there_once_when_the_database_is_back() throws Exception {
    StalledStore.Outcome seen =
        new StalledStore(Path.of("..", "server", "target", "server-0.1.0-exec.jar"), EVERY_S)
            .run(AWAY, AWAY);
    assertThat(seen.refused()).isNotEmpty().containsOnly(503);
    assertThat(seen.states()).containsOnly("reading ()");
    assertThat(seen.gaps())
        // the first reading knows no rate yet
        .filteredOn(gap -> !gap.equals("not yet known"))
        .isEmpty();
    assertThat(seen.missing()).isZero();
    assertThat(seen.again()).hasSize(2);
    // it rose while the database stood still, and settled while it was stopped
    double rose = passed(seen, "warning");
    double settled = passed(seen, "settling");
    assertThat(rose).isBetween(0.0, (double) AWAY.toSeconds());
    assertThat(settled).isBetween(AWAY.toSeconds() + 0.0, 2.0 * AWAY.toSeconds() + 25);
    assertThat(seen.passed().keySet()).anyMatch(state -> state.endsWith(" calm"));
    assertThat(seen.alerts())
        .noneMatch(alert -> alert.contains(" silent ") || alert.contains(" unreachable "));
  }

  private static double passed(StalledStore.Outcome seen, String to) {
    return seen.passed().entrySet().stream()
        .filter(passed -> passed.getKey().endsWith(" " + to))
        .mapToDouble(java.util.Map.Entry::getValue)
        .findFirst()
        .orElseThrow(() -> new AssertionError("never " + to + ": " + seen.passed()));
  }
}
