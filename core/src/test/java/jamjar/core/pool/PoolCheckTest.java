package jamjar.core.pool;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.pool.PoolCheck.Verdict;
import org.junit.jupiter.api.Test;

class PoolCheckTest {
  /** 20 ms, a spread of 2 ms. */
  private static final Normal USUAL =
      new Normal(0.01671, 0.0186, 0.02, 0.0214, 0.02329, 500, Basis.SLOT);

  private static PoolCheck of(double inUse, double perSecond, double hold) {
    return PoolCheck.of(900, inUse, perSecond, hold, USUAL, 0.001);
  }

  @Test
  void as_many_in_use_as_are_handed_out_times_how_long_they_are_held_agree() {
    // 200 a second for 20 ms: 4 in use
    assertThat(of(4.2, 200, 0.02)).isEqualTo(new PoolCheck(Verdict.AGREES, 200 * 0.02, 0));
    assertThat(of(4.9, 200, 0.02).verdict()).as("less than one").isEqualTo(Verdict.AGREES);
  }

  @Test
  void held_longer_is_told_from_not_coming_back() {
    // each is held eight times as long, and as many more are in use: what they are lent for is slow
    assertThat(of(32, 200, 0.16).verdict()).isEqualTo(Verdict.HELD_LONGER);
    // twenty in use though the work explains four: sixteen are not given back
    PoolCheck lost = of(20, 200, 0.02);
    assertThat(lost.verdict()).isEqualTo(Verdict.NOT_COMING_BACK);
    assertThat(lost.notBack()).isCloseTo(16, within(1e-9));
    assertThat(of(4, 200, 0.08).verdict()).isEqualTo(Verdict.DOES_NOT_FIT);
  }

  @Test
  void too_little_and_what_is_not_told_are_refused() {
    assertThat(PoolCheck.of(200, 4, 200, 0.02, USUAL, 0.001).verdict())
        .isEqualTo(Verdict.TOO_LITTLE);
    assertThat(PoolCheck.of(900, 4, 0.03, 0.02, USUAL, 0.001).verdict())
        .isEqualTo(Verdict.TOO_LITTLE);
    assertThat(of(4, 200, Double.NaN).verdict()).isEqualTo(Verdict.NOT_TOLD);
    assertThat(of(Double.NaN, 200, 0.02).verdict()).isEqualTo(Verdict.TOO_LITTLE);
    assertThat(PoolCheck.of(900, 32, 200, 0.16, Normal.NONE, 0.001).verdict())
        .isEqualTo(Verdict.AGREES);
  }
}
