package jamjar.core.chunk;

import jamjar.core.chart.Steps;

/** Steps as bytes. */
public final class StepChunk {
  private static final int ARRAYS = 5;
  private static final int OF_MEANS = 3;

  private StepChunk() {}

  public static byte[] write(Steps steps, ValueWriter writer) {
    return Several.write(
        new double[][] {
          steps.covered(), steps.amount(), steps.beside(), steps.least(), steps.greatest()
        },
        writer);
  }

  /**
   * @param from start of the first step, epoch ms
   * @param width of a step, ms
   * @throws CorruptChunk when the bytes are not what was written
   */
  public static Steps read(byte[] bytes, long from, long width, ValueReader reader) {
    double[][] arrays = requireAlike(Several.read(bytes, ARRAYS, reader));
    return new Steps(from, width, arrays[0], arrays[1], arrays[2], arrays[3], arrays[4]);
  }

  /** As above, without the least and the greatest of each: that takes half as long. */
  public static Steps readMeans(byte[] bytes, long from, long width, ValueReader reader) {
    double[][] arrays = requireAlike(Several.read(bytes, ARRAYS, OF_MEANS, reader));
    return Steps.ofMeans(from, width, arrays[0], arrays[1], arrays[2]);
  }

  private static double[][] requireAlike(double[][] arrays) {
    for (double[] array : arrays) {
      if (array.length != arrays[0].length) {
        throw new CorruptChunk("parts of unlike lengths");
      }
    }
    return arrays;
  }
}
