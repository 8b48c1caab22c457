package jamjar.core.limit;

/** What a limit watches for. */
public enum Condition {
  /** The value is at or above the number. */
  ABOVE("above"),
  /** The value is at or below the number. */
  BELOW("below"),
  /**
   * The value is at least so many spreads from the middle of its normal, in the worse direction.
   */
  OUTSIDE("outside normal"),
  /** There was no answer for so many intervals. */
  SILENT("silent"),
  /** For so many intervals something there answered, but did not let itself be read. */
  UNREACHABLE("unreachable");

  private final String words;

  Condition(String words) {
    this.words = words;
  }

  /** Whether it watches the whole instance, not one of its counters. */
  public boolean ofInstance() {
    return this == SILENT || this == UNREACHABLE;
  }

  public String words() {
    return words;
  }
}
