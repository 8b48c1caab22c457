package jamjar.server.watch;

/** The paces of an instance; each is a source of readings with its own layout and interval. */
public enum Source {
  FAST(1, "fast"),
  SLOW(2, "slow");

  private final int code;
  private final String pace;

  Source(int code, String pace) {
    this.code = code;
    this.pace = pace;
  }

  public static Source of(String pace) {
    return pace.equals(FAST.pace) ? FAST : SLOW;
  }

  /**
   * @param code the number under which it is stored
   */
  public static Source of(int code) {
    return code == FAST.code ? FAST : SLOW;
  }

  /** The number under which it is stored. */
  public int code() {
    return code;
  }

  public String pace() {
    return pace;
  }
}
