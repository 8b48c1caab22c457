package jamjar.core.watching;

/**
 * A span in which nobody was watched: what happened then is not known, and is judged by nobody.
 *
 * @param from end of the span of watching before, epoch ms by the clock of then
 * @param to start of the next one, epoch ms by the clock of then: before from where the clock was
 *     set back
 * @param lasted how long it really lasted, ms; what the clocks say where that is not known
 * @param words why, as told to a person
 */
public record Gap(long from, long to, long lasted, Why why, String words) {

  /** Why nobody was watched. */
  public enum Why {
    NOT_RUNNING("not watched"),
    STOOD_STILL("stood still"),
    CLOCK_SET("clock set"),
    NOT_KEPT("not kept");

    private final String words;

    Why(String words) {
      this.words = words;
    }

    public String words() {
      return words;
    }
  }

  /** Whether the new span stamps times that the old one has stamped already. */
  public boolean overlaps() {
    return to < from;
  }

  /** Jam Jar itself was not running. */
  public static Gap notRunning(long from, long to) {
    return new Gap(
        from,
        to,
        Math.abs(to - from),
        Why.NOT_RUNNING,
        Why.NOT_RUNNING.words() + ": Jam Jar was not running");
  }

  static Gap stoodStill(long from, long to, long lasted) {
    return new Gap(
        from,
        to,
        lasted,
        Why.STOOD_STILL,
        Why.STOOD_STILL.words()
            + ": Jam Jar or its machine was stopped, asleep or too busy for "
            + duration(lasted));
  }

  static Gap clockSet(long from, long to, long lasted) {
    long by = to - from - lasted;
    String forward = by > 0 ? " was set forward by " : " was set back by ";
    return new Gap(
        from,
        to,
        lasted,
        Why.CLOCK_SET,
        Why.CLOCK_SET.words()
            + ": the clock of Jam Jar's machine"
            + forward
            + duration(Math.abs(by))
            + (by > 0 ? ", or it slept" : ""));
  }

  static Gap notKept(long from, long to, long lasted) {
    return new Gap(
        from,
        to,
        lasted,
        Why.NOT_KEPT,
        Why.NOT_KEPT.words() + ": Jam Jar's journal could not be written for " + duration(lasted));
  }

  /**
   * What was kept is lost.
   *
   * @param from epoch ms, as is the end
   */
  public static Gap lost(long from, long to, String why) {
    long begin = Math.min(from, to);
    return new Gap(begin, to, to - begin, Why.NOT_KEPT, Why.NOT_KEPT.words() + ": " + why);
  }

  private static String duration(long millis) {
    long seconds = Math.round(millis / 1000.0);
    if (seconds < 120) {
      return seconds + " s";
    }
    long minutes = Math.round(seconds / 60.0);
    return minutes < 120 ? minutes + " min" : Math.round(minutes / 60.0) + " h";
  }
}
