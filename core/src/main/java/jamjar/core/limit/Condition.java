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
  /** There was no value for so many intervals. */
  SILENT("silent");

  private final String words;

  Condition(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }
}
