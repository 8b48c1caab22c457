package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.KilledTelling;
import java.nio.file.Path;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;

/** The server is killed while people are told, once with its database standing still. */
@Order(1)
class KilledTellingTest {
  @Test
  void what_was_to_be_told_comes_at_least_once_and_nothing_under_another_key() throws Exception {
    KilledTelling.Outcome seen =
        new KilledTelling(Path.of("..", "server", "target", "server-0.1.0-exec.jar"), 7).run(2);
    assertThat(seen.wanted()).isNotEmpty();
    assertThat(seen.notSent()).isEmpty();
    assertThat(seen.kept()).isEqualTo(seen.wanted());
    assertThat(seen.came()).isEqualTo(seen.wanted());
  }
}
