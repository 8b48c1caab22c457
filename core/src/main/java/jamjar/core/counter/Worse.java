package jamjar.core.counter;

/** The direction in which a counter gets worse. */
public enum Worse {
  UP,
  DOWN,
  BOTH
}
