package jamjar.core.heap;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class FloorTest {
  private static final long HOUR = 3_600_000;

  @Test
  void what_is_left_after_a_collection_that_looked_at_it_is_the_floor() {
    Floor floor = new Floor();
    assertThat(floor.after(0, 700, 0)).isEqualTo(700);
    assertThat(floor.after(512, 900, HOUR)).isEqualTo(512);
  }

  @Test
  void until_then_it_is_the_lowest_use_after_any_collection_of_six_hours() {
    Floor floor = new Floor();
    assertThat(floor.after(0, 700, 0)).isEqualTo(700);
    assertThat(floor.after(0, 650, HOUR)).isEqualTo(650);
    assertThat(floor.after(0, 800, 2 * HOUR)).isEqualTo(650);
    assertThat(floor.after(0, 820, 6 * HOUR)).isEqualTo(650);
    // that of the first hour is more than six hours ago now
    assertThat(floor.after(0, 830, 7 * HOUR)).isEqualTo(800);
  }

  @Test
  void it_tells_how_long_ago_a_collection_was_seen_to_look() {
    Floor floor = new Floor();
    assertThat(floor.sinceLooked(0)).isNaN();
    // there before it was first asked: nobody knows since when
    floor.after(512, Double.NaN, 0);
    floor.after(512, Double.NaN, HOUR);
    assertThat(floor.sinceLooked(HOUR)).isNaN();
    floor.after(530, Double.NaN, 2 * HOUR);
    floor.after(530, Double.NaN, 30 * HOUR);
    assertThat(floor.sinceLooked(30 * HOUR)).isEqualTo(28 * 3600);
    // another process, of which none has looked yet, then one that has
    floor.after(0, 300, 31 * HOUR);
    assertThat(floor.sinceLooked(31 * HOUR)).isNaN();
    floor.after(290, 300, 32 * HOUR);
    assertThat(floor.sinceLooked(33 * HOUR)).isEqualTo(3600);
  }

  @Test
  void without_any_collection_it_is_not_known() {
    assertThat(new Floor().after(0, Double.NaN, 0)).isNaN();
  }

  @Property(seed = "31")
  void it_equals_the_least_of_the_window_looked_up_one_by_one(
      @ForAll @Size(min = 1, max = 60) List<@DoubleRange(min = 1, max = 1e9) Double> uses) {
    Floor floor = new Floor();
    List<Double> seen = new ArrayList<>();
    for (int i = 0; i < uses.size(); i++) {
      seen.add(uses.get(i));
      // every twenty minutes: eighteen lie within six hours
      double least =
          seen.subList(Math.max(0, seen.size() - 18), seen.size()).stream()
              .mapToDouble(u -> u)
              .min()
              .orElseThrow();
      assertThat(floor.after(0, uses.get(i), i * HOUR / 3)).isEqualTo(least);
    }
  }
}
