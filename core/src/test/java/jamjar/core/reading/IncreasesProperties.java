package jamjar.core.reading;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.Recipes;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;

class IncreasesProperties {
  private static final SeriesKey A = SeriesKey.of("commits", "database", "a");

  @Property(seed = "1")
  void increases_add_up_to_the_whole_growth_whatever_readings_are_left_out(
      @ForAll @Size(min = 2, max = 40) List<@LongRange(min = 0, max = 1L << 40) Long> steps,
      @ForAll @Size(40) List<@IntRange(min = 0, max = 3) Integer> leftOut) {
    Optional<LastTotals> last = Optional.empty();
    long total = 0;
    long first = 0;
    long lastRead = 0;
    double sum = 0;
    for (int i = 0; i < steps.size(); i++) {
      total += steps.get(i);
      if (i > 0 && leftOut.get(i) == 0) {
        continue;
      }
      Increases.Step step = Increases.derive(last, raw(i, total), Recipes.recipe());
      if (last.isEmpty()) {
        first = total;
      } else {
        sum += step.reading().value(A);
      }
      last = Optional.of(step.last());
      lastRead = total;
    }
    assertThat(sum).isEqualTo(lastRead - first);
  }

  @Property(seed = "1")
  void no_increase_is_ever_negative(
      @ForAll @Size(min = 2, max = 20) List<@LongRange(min = 0, max = 1000) Long> totals) {
    Optional<LastTotals> last = Optional.empty();
    for (int i = 0; i < totals.size(); i++) {
      Increases.Step step = Increases.derive(last, raw(i, totals.get(i)), Recipes.recipe());
      double value = step.reading().value(A);
      assertThat(Double.isNaN(value) || value >= 0).isTrue();
      last = Optional.of(step.last());
    }
  }

  private static RawReading raw(int i, long total) {
    return new RawReading(
        Instant.ofEpochSecond(10L * i),
        10_000_000L * i,
        10_000_000_000L * i,
        1,
        Set.of("g"),
        Map.of(),
        List.of(new RawValue.Total(A, total, 0)));
  }
}
