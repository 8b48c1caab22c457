package jamjar.core.counter;

/** The direction in which a counter gets worse. */
public enum Worse {
  UP,
  DOWN,
  BOTH;

  /** Whether a change is for the worse: higher is above 0. Where both may be, none is. */
  public boolean worsens(double change) {
    return this == UP && change > 0 || this == DOWN && change < 0;
  }

  /** Whether it is for the better. */
  public boolean betters(double change) {
    return this != BOTH && worsens(-change);
  }
}
