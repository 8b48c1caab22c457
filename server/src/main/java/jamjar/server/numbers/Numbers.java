package jamjar.server.numbers;

/** Numbers as they are told. */
public final class Numbers {
  private Numbers() {}

  /** Null for what is not known. */
  public static Double known(double value) {
    return Double.isFinite(value) ? (Double) value : null;
  }
}
