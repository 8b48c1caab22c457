package jamjar.core.counter;

/** The reason for having no value. Zero is a value; each of these is not. */
public enum WhyNothing {
  NONE_THERE("none there"),
  NOT_SWITCHED_ON("not switched on at the source"),
  NOT_PERMITTED("not permitted"),
  NOT_YET_KNOWN("not yet known"),
  STILL_LEARNING("still learning"),
  CUT_OFF("cut off"),
  RETIRED("retired"),
  /** The target answers with something that is not taken. */
  FOREIGN("of a class that is not taken"),
  /** The target does not answer this one question in time. */
  BLOCKS("blocks"),
  /** The target answers this one question with an error. */
  FAILS("fails at the source"),
  /** The denominator of a quotient is 0 or under its least: neither passes nor clears a limit. */
  TOO_FEW("too few");

  private final String words;

  WhyNothing(String words) {
    this.words = words;
  }

  /** The words shown to a person. */
  public String words() {
    return words;
  }
}
