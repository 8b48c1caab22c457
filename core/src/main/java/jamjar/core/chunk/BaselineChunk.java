package jamjar.core.chunk;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/** A baseline, or a day of one, as bytes: what serves several slots stands there once. */
public final class BaselineChunk {
  /** The five quantiles, steps and basis of each normal; and which of them serves each slot. */
  private static final int ARRAYS = 8;

  private static final Basis[] BASES = Basis.values();

  private BaselineChunk() {}

  public static byte[] write(Baseline baseline, ValueWriter writer) {
    Normal[] slots = new Normal[Timeline.SLOTS];
    Arrays.setAll(slots, baseline::at);
    return write(slots, writer);
  }

  /** Some slots in a row, such as those of a day. */
  public static byte[] write(Normal[] slots, ValueWriter writer) {
    Map<Normal, Integer> places = new IdentityHashMap<>();
    List<Normal> different = new ArrayList<>();
    double[] place = new double[slots.length];
    for (int slot = 0; slot < place.length; slot++) {
      Normal normal = slots[slot];
      if (!places.containsKey(normal)) {
        places.put(normal, different.size());
        different.add(normal);
      }
      place[slot] = places.get(normal);
    }
    int n = different.size();
    double[][] arrays = new double[ARRAYS][n];
    for (int i = 0; i < n; i++) {
      Normal normal = different.get(i);
      arrays[0][i] = normal.p05();
      arrays[1][i] = normal.p25();
      arrays[2][i] = normal.p50();
      arrays[3][i] = normal.p75();
      arrays[4][i] = normal.p95();
      arrays[5][i] = normal.steps();
      arrays[6][i] = normal.basis().ordinal();
    }
    arrays[7] = place;
    return Several.write(arrays, writer);
  }

  /**
   * @throws CorruptChunk when the bytes are not what was written
   */
  public static Baseline read(byte[] bytes, ValueReader reader) {
    return Baseline.of(read(bytes, Timeline.SLOTS, reader));
  }

  /**
   * Some slots in a row.
   *
   * @param wanted how many
   * @throws CorruptChunk when the bytes are not what was written
   */
  public static Normal[] read(byte[] bytes, int wanted, ValueReader reader) {
    double[][] arrays = Several.read(bytes, ARRAYS, reader);
    double[] place = arrays[ARRAYS - 1];
    Normal[] different = new Normal[arrays[0].length];
    for (int a = 1; a < ARRAYS - 1; a++) {
      require(arrays[a].length == different.length);
    }
    for (int i = 0; i < different.length; i++) {
      require(arrays[6][i] >= 0 && arrays[6][i] < BASES.length);
      different[i] =
          new Normal(
              arrays[0][i],
              arrays[1][i],
              arrays[2][i],
              arrays[3][i],
              arrays[4][i],
              (int) arrays[5][i],
              BASES[(int) arrays[6][i]]);
    }
    require(place.length == wanted);
    Normal[] slots = new Normal[place.length];
    for (int slot = 0; slot < slots.length; slot++) {
      require(place[slot] >= 0 && place[slot] < different.length);
      slots[slot] = different[(int) place[slot]];
    }
    return slots;
  }

  private static void require(boolean right) {
    if (!right) {
      throw new CorruptChunk("that is no baseline");
    }
  }
}
