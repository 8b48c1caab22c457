package jamjar.core.limit;

/** How bad it is, in rising order. */
public enum Severity {
  NONE,
  WARNING,
  CRITICAL
}
