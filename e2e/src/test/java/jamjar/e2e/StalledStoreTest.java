package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.StalledStore;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** Jam Jar's own database stands still, then is stopped, while all it watches is well. */
class StalledStoreTest {

  @Test
  void nobody_is_called_silent_the_gap_says_why_and_all_goes_on_by_itself() throws Exception {
    StalledStore.Outcome seen =
        new StalledStore(Path.of("..", "server", "target", "server-0.1.0-exec.jar"))
            .run(Duration.ofSeconds(14), Duration.ofSeconds(14));
    assertThat(seen.refused()).isNotEmpty().containsOnly(503);
    assertThat(seen.states()).allMatch(state -> state.equals("failing (not kept)"));
    // that it dropped readings is told of Jam Jar itself
    assertThat(seen.alerts()).allMatch(alert -> alert.startsWith("Jam Jar "));
    assertThat(seen.gaps())
        // the first reading knows no rate yet
        .filteredOn(gap -> !gap.equals("not yet known"))
        .isNotEmpty()
        .allMatch(gap -> gap.startsWith("not kept: Jam Jar's own database took no readings for"));
    assertThat(seen.again()).hasSize(2);
  }
}
