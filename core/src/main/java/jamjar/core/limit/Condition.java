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
  /** It did not happen for so many minutes after it was due. */
  OVERDUE("did not happen"),
  /** By the middle of its forecast the number is met within so many days; judged each night. */
  REACHES("will reach"),
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

  /** Whether less of what is held against the numbers is worse. */
  public boolean downwards() {
    return this == BELOW || this == REACHES;
  }

  /** Whether it needs a second number: when it is due, or what is reached. */
  public boolean needsAgainst() {
    return this == OVERDUE || this == REACHES;
  }

  public String words() {
    return words;
  }
}
