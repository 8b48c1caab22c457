package jamjar.collect.jmx;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RuntimeFactsTest {

  @ParameterizedTest
  @CsvSource({
    "25.0.1+8-LTS, true", "21.0.2+13, true", "20.0.2, false", "17.0.15+6, false",
    "25.401-b10, true", "'', false", "openj9-0.36, false", "99999999999, true"
  })
  void from_21_on_there_may_be_threads_that_are_not_told_of(String version, boolean virtual) {
    assertThat(RuntimeFacts.virtual(version)).isEqualTo(virtual);
  }
}
