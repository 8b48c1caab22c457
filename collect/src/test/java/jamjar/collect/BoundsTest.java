package jamjar.collect;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawValue;
import jamjar.core.reading.SeriesKey;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class BoundsTest {

  @Test
  void a_long_label_is_cut_and_stays_apart_from_one_that_begins_alike() {
    String begins = "q".repeat(Bounds.LONGEST_LABEL);
    assertThat(Bounds.label(begins)).isEqualTo(begins);
    String one = Bounds.label(begins + "1");
    String two = Bounds.label(begins + "2");
    assertThat(one).hasSize(Bounds.LONGEST_LABEL).isNotEqualTo(two);
    // the same each time, or it would be another series
    assertThat(Bounds.label(begins + "1")).isEqualTo(one);
    assertThat(Bounds.label("a\0b")).isEqualTo("a\uFFFDb");
  }

  @Test
  void what_is_beyond_is_taken_away_and_told() {
    List<RawValue> values = new ArrayList<>();
    IntStream.range(0, Bounds.MOST_VALUES)
        .forEach(i -> values.add(level("a", Integer.toString(i), i)));
    assertThat(Bounds.cut(values)).isEmpty();
    values.add(level("a", "more", 1));
    assertThat(Bounds.cut(values)).isEqualTo("5000 of 5001 values of a reading are taken");
    assertThat(values).hasSize(Bounds.MOST_VALUES);
  }

  @Test
  void of_what_is_told_twice_the_first_counts_that_tells_something() {
    List<RawValue> values = new ArrayList<>();
    values.add(new RawValue.Nothing(SeriesKey.of("a", "of", "y"), WhyNothing.NONE_THERE));
    values.add(level("a", "x", 1));
    values.add(level("a", "y", 2));
    values.add(level("a", "x", 3));
    assertThat(Bounds.cut(values)).isEmpty();
    assertThat(values).containsExactlyInAnyOrder(level("a", "x", 1), level("a", "y", 2));
  }

  @Test
  void one_query_leaves_room_for_the_others() {
    assertThat(Bounds.mostRows(1)).isEqualTo(Bounds.MOST_ROWS);
    assertThat(Bounds.mostRows(5) * 5).isEqualTo(Bounds.MOST_VALUES / 2);
    assertThat(Bounds.mostRows(0)).isEqualTo(Bounds.MOST_ROWS);
  }

  private static RawValue level(String counter, String label, double value) {
    return new RawValue.Level(SeriesKey.of(counter, "of", label), value);
  }
}
