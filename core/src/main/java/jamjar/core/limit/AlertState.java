package jamjar.core.limit;

/** The states that one series can be in under one limit. */
public enum AlertState {
  CALM("calm"),
  /** Passed, but not yet often enough. */
  BUILDING("building"),
  WARNING("warning"),
  CRITICAL("critical"),
  /** Beyond the clear number, but not yet long enough. */
  SETTLING("settling"),
  /** Was open when its values stopped; never calm. */
  NOT_MEASURED("not measured"),
  /** Ended because its series is gone for good. */
  RETIRED("retired"),
  /** Ended because the limit was switched off or taken away. */
  SWITCHED_OFF("switched off"),
  /** Ended because the instance is in another group now, whose limits are others. */
  MOVED("moved to another group"),
  /** Ended because the recipe does not hold its counter any more. */
  LEFT_OUT("left out of the recipe"),
  /** Ended because the instance is not read for now. */
  PAUSED("paused"),
  /** Ended because the instance is gone. */
  REMOVED("removed");

  private final String words;

  AlertState(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }

  /** Whether an alert is open in this state. */
  public boolean open() {
    return this == WARNING || this == CRITICAL || this == SETTLING || this == NOT_MEASURED;
  }
}
