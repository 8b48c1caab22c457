package jamjar.core.telling;

/** How much it matters when somebody is told. */
public enum Urgency {
  /** At once, also by night. */
  WAKE,
  /** With the report of the night. */
  MORNING,
  /** Not at all: it stands in the list. */
  NOBODY
}
