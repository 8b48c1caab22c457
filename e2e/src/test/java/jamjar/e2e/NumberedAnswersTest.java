package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.CrashBench;
import java.nio.file.Path;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/**
 * Targets that number their answers, a server that is killed, and its database that is killed or
 * stands still.
 */
class NumberedAnswersTest {

  @Test
  void over_all_of_it_every_answer_is_stored_once_and_at_most_one_in_flight_is_missing()
      throws Exception {
    try (CrashBench crash =
        new CrashBench(Path.of("..", "server", "target", "server-0.1.0-exec.jar"), 3)) {
      CrashBench.Outcome outcome = crash.run(1, 1, 1, Duration.ofSeconds(4));
      // the server is killed once more at the end, and once for good
      assertThat(outcome.missing()).allMatch(missing -> missing <= 2);
      assertThat(outcome.stored()).isGreaterThan(outcome.missing().size() * 10L);
      assertThat(outcome.sealed()).isEqualTo(outcome.stored());
    }
  }
}
