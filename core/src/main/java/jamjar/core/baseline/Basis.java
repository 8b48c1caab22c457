package jamjar.core.baseline;

/** What a normal was learned from: the first of these with enough to learn from is in use. */
public enum Basis {
  /** At least 3 weeks of this quarter-hour of the week. */
  SLOT("this quarter-hour of the week"),
  /** The same quarter-hour on working days, or on weekends, from at least 3 different days. */
  DAYS("this quarter-hour, working days apart from weekends"),
  /** The same quarter-hour of any day, from at least 3 different days. */
  ANY_DAY("this quarter-hour of any day"),
  /** Everything, at least 60 steps. */
  ALL("all hours together"),
  NONE("still learning");

  private final String words;

  Basis(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }
}
