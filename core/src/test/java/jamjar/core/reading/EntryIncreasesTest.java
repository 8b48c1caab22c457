package jamjar.core.reading;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;

class EntryIncreasesTest {
  private final EntryIncreases<String> entries = new EntryIncreases<>(2);

  @Test
  void the_first_reading_gives_nothing() {
    assertThat(entries.take(Map.of("a", row(5, 50)))).isEmpty();
  }

  @Test
  void increases_of_all_entries_are_added_up() {
    entries.take(Map.of("a", row(5, 50), "b", row(1, 9)));
    assertThat(entries.take(Map.of("a", row(7, 80), "b", row(2, 10)))).hasValue(row(3, 31));
  }

  @Test
  void an_entry_that_is_new_or_began_again_gives_its_whole_value_and_a_dropped_one_takes_nothing() {
    entries.take(Map.of("a", row(5, 50), "gone", row(1000, 1000)));
    assertThat(entries.take(Map.of("a", row(2, 60), "new", row(3, 4)))).hasValue(row(5, 64));
  }

  private static long[] row(long calls, long time) {
    return new long[] {calls, time};
  }
}
