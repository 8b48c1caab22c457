package jamjar.core.chunk;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

class BaselineChunkTest {
  private static final long MONDAY = Instant.parse("2026-10-05T00:00:00Z").toEpochMilli();
  private static final int WEEK = 7 * 1440;

  private final ValueWriter writer = new ValueWriter();
  private final ValueReader reader = new ValueReader();

  @Test
  void what_was_learned_comes_back_to_the_bit() {
    SplittableRandom random = new SplittableRandom(5);
    for (int minutes : new int[] {90, WEEK, 4 * WEEK}) {
      double[] values = new double[minutes];
      for (int i = 0; i < minutes; i++) {
        // with gaps, and a part that is the same
        values[i] = i % 1440 < 400 ? 7 : random.nextInt(9) == 0 ? Double.NaN : random.nextDouble();
      }
      there(learned(values));
    }
    double[] nothing = new double[WEEK];
    Arrays.fill(nothing, Double.NaN);
    there(learned(nothing));
  }

  @Test
  void what_is_always_the_same_takes_hardly_anything() {
    double[] same = new double[5 * WEEK];
    Arrays.fill(same, 250);
    // eight arrays, of which only the steps and the places vary
    assertThat(BaselineChunk.write(learned(same), writer).length).isLessThan(1_000);
  }

  @Test
  void bytes_that_are_none_are_refused() {
    double[] values = new double[4 * WEEK];
    for (int i = 0; i < values.length; i++) {
      values[i] = i % 977;
    }
    byte[] right = BaselineChunk.write(learned(values), writer);
    SplittableRandom random = new SplittableRandom(11);
    for (int i = 0; i < 300; i++) {
      byte[] wrong = right.clone();
      wrong[random.nextInt(wrong.length)] ^= (byte) (1 << random.nextInt(8));
      assertThatThrownBy(() -> BaselineChunk.read(wrong, reader)).isInstanceOf(CorruptChunk.class);
      byte[] cut = Arrays.copyOf(right, random.nextInt(right.length));
      assertThatThrownBy(() -> BaselineChunk.read(cut, reader)).isInstanceOf(CorruptChunk.class);
    }
    byte[] longer = Arrays.copyOf(right, right.length + 1);
    assertThatThrownBy(() -> BaselineChunk.read(longer, reader)).isInstanceOf(CorruptChunk.class);
  }

  @Test
  void a_place_that_is_none_is_refused() {
    double[][] arrays = new double[8][1];
    arrays[6][0] = Basis.ALL.ordinal();
    arrays[7] = new double[Timeline.SLOTS];
    arrays[7][600] = 1;
    byte[] beyond = Several.write(arrays, writer);
    assertThatThrownBy(() -> BaselineChunk.read(beyond, reader)).hasMessageContaining("baseline");
    arrays[7][600] = 0;
    assertThat(BaselineChunk.read(Several.write(arrays, writer), reader).at(600))
        .isEqualTo(new Normal(0, 0, 0, 0, 0, 0, Basis.ALL));
  }

  private void there(Baseline learned) {
    Baseline back = BaselineChunk.read(BaselineChunk.write(learned, writer), reader);
    for (int slot = 0; slot < Timeline.SLOTS; slot++) {
      assertThat(back.at(slot)).isEqualTo(learned.at(slot));
    }
  }

  private static Baseline learned(double[] values) {
    return Baseline.learn(
        new Timeline(MONDAY, values.length, ZoneOffset.UTC, Set.of(), List.of()), values, 1);
  }
}
