package jamjar.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class AcrossTest {
  private static final double NONE = Double.NaN;

  @Test
  void one_that_does_more_than_the_others_shows_against_the_middle_one() {
    assertThat(Across.of(new double[] {10, 12, NONE, 36, 14}))
        .isEqualTo(new Across(4, 72, 18, 10, 36, 36 / 13.0));
    assertThat(Across.of(new double[] {3, 1, 2})).isEqualTo(new Across(3, 6, 2, 1, 3, 1.5));
  }

  @Test
  void of_nothing_nothing_is_known_and_there_is_no_share_of_zero() {
    assertThat(Across.of(new double[] {NONE}))
        .isEqualTo(new Across(0, NONE, NONE, NONE, NONE, NONE));
    assertThat(Across.of(new double[] {0, 0, 7}).overMedian()).isNaN();
    assertThat(Across.of(new double[] {5})).isEqualTo(new Across(1, 5, 5, 5, 5, 1));
  }
}
