package jamjar.core.limit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.limit.Fullness.Share;
import java.util.List;
import org.junit.jupiter.api.Test;

class FullnessTest {
  @Test
  void is_the_way_from_the_good_end_to_the_critical_limit() {
    assertThat(Fullness.of(0, 45, 90)).isEqualTo(0.5);
    assertThat(Fullness.of(0, 90, 90)).isEqualTo(1);
    assertThat(Fullness.of(0, 900, 90)).isEqualTo(1.2);
    // a hit ratio: good end 100 %, critical below 90 %
    assertThat(Fullness.of(100, 97.5, 90)).isCloseTo(0.25, within(1e-12));
    assertThat(Fullness.of(100, 101, 90)).isZero();
  }

  @Test
  void is_not_known_without_a_value_or_a_way() {
    assertThat(Fullness.of(0, Double.NaN, 90)).isNaN();
    assertThat(Fullness.of(90, 50, 90)).isNaN();
  }

  @Test
  void shows_another_counter_only_when_it_leads_by_five_points() {
    assertThat(Fullness.tightest(List.of(new Share(1, 0.50), new Share(2, 0.54)), 1).series())
        .isEqualTo(1);
    assertThat(Fullness.tightest(List.of(new Share(1, 0.50), new Share(2, 0.55)), 1).series())
        .isEqualTo(2);
    assertThat(Fullness.tightest(List.of(new Share(1, 0.50), new Share(2, 0.54)), 0).series())
        .isEqualTo(2);
  }
}
