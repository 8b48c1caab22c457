package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.BesideBench;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;

/**
 * A real Tomcat with a real pool under a real load, its JVM, and PostgreSQL: what is read beside
 * what their own tools say.
 */
class BesideTheirToolsTest {

  @Test
  void what_is_read_is_what_the_tools_of_the_watched_side_say() throws Exception {
    List<BesideBench.Row> rows = BesideBench.rows(Path.of(".."));
    assertThat(rows).filteredOn(row -> row.of().equals("Tomcat")).hasSizeGreaterThanOrEqualTo(10);
    assertThat(rows).allMatch(BesideBench.Row::agrees);
  }
}
