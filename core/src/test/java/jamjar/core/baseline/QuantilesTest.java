package jamjar.core.baseline;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class QuantilesTest {
  @Test
  void by_hand() {
    // places of 10, 20, 30, 40 with weight 1: 1/8, 3/8, 5/8, 7/8
    double[][] values = {{40, 10, 30, 20}};
    assertThat(Quantiles.of(values, new double[] {1}, 0.05, 0.25, 0.5, 0.75, 0.95))
        .containsExactly(new double[] {10, 15, 25, 35, 40}, within(1e-12));
  }

  @Test
  void weights_by_hand() {
    // 10 (1), 20 (½), 30 (½): total 2, places 0.25, 0.625, 0.875
    double[][] values = {{10}, {30, 20}};
    assertThat(Quantiles.of(values, new double[] {1, 0.5}, 0.25, 0.5, 0.75, 0.9))
        .containsExactly(new double[] {10, 10 + 10 * (0.25 / 0.375), 25, 30}, within(1e-12));
  }

  @Test
  void of_equal_values_the_larger_weight_sits_first() {
    // 5 (1) then 5 (½) then 9 (½): places 0.25, 0.625, 0.875; at 0.7 between 5 and 9
    double[][] values = {{9, 5}, {5}};
    assertThat(Quantiles.of(values, new double[] {0.5, 1}, 0.7)[0])
        .isCloseTo(5 + 4 * (0.075 / 0.25), within(1e-12));
  }

  @Test
  void nothing_gives_nothing_one_value_gives_itself() {
    assertThat(Quantiles.of(new double[][] {{}}, new double[] {1}, 0.5)[0]).isNaN();
    assertThat(Quantiles.of(new double[][] {{7}}, new double[] {1}, 0.05, 0.95))
        .containsExactly(7, 7);
  }

  @Property(seed = "21")
  void equal_a_reference_written_from_the_definition(
      @ForAll @Size(min = 1, max = 80) List<@IntRange(min = 0, max = 12) Integer> whole,
      @ForAll @Size(max = 80) List<@IntRange(min = 0, max = 12) Integer> half) {
    double[] fractions = {0, 0.05, 0.25, 0.5, 0.75, 0.95, 1};
    double[] found =
        Quantiles.of(new double[][] {array(whole), array(half)}, new double[] {1, 0.5}, fractions);
    List<double[]> weighted = new ArrayList<>();
    whole.forEach(v -> weighted.add(new double[] {v, 1}));
    half.forEach(v -> weighted.add(new double[] {v, 0.5}));
    for (int i = 0; i < fractions.length; i++) {
      assertThat(found[i]).isCloseTo(ReferenceQuantile.of(weighted, fractions[i]), within(1e-9));
    }
  }

  private static double[] array(List<Integer> values) {
    return values.stream().mapToDouble(Integer::doubleValue).toArray();
  }

  /** Written from the definition, sharing nothing with the code. */
  static final class ReferenceQuantile {
    /**
     * @param weighted pairs of value and weight
     */
    static double of(List<double[]> weighted, double fraction) {
      if (weighted.isEmpty()) {
        return Double.NaN;
      }
      List<double[]> sorted = new ArrayList<>(weighted);
      sorted.sort(Comparator.<double[]>comparingDouble(p -> p[0]).thenComparing(p -> -p[1]));
      double total = sorted.stream().mapToDouble(p -> p[1]).sum();
      List<double[]> placed = new ArrayList<>();
      double cumulative = 0;
      for (double[] p : sorted) {
        cumulative += p[1];
        placed.add(new double[] {(cumulative - p[1] / 2) / total, p[0]});
      }
      if (fraction <= placed.get(0)[0]) {
        return placed.get(0)[1];
      }
      for (int i = 1; i < placed.size(); i++) {
        double[] a = placed.get(i - 1);
        double[] b = placed.get(i);
        if (fraction <= b[0]) {
          return a[1] + (b[1] - a[1]) * (fraction - a[0]) / (b[0] - a[0]);
        }
      }
      return placed.get(placed.size() - 1)[1];
    }
  }
}
