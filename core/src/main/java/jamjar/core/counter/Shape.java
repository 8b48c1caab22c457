package jamjar.core.counter;

/** How a counter is read, kept and shown. */
public enum Shape {
  /** A value that stands on its own: kept and shown as read. */
  LEVEL,
  /**
   * A count that only grows: kept as its exact increase since the reading before, shown per second.
   */
  TOTAL,
  /** Not read: the sum of one kept series divided by the sum of another. */
  QUOTIENT
}
