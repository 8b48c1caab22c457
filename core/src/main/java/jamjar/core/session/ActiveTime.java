package jamjar.core.session;

/**
 * Where the time of sampled active sessions went: time is booked when a statement ends, so that
 * sampled = booked by finished statements + what those still running have run more at the end than
 * those that ran at the beginning had + what nothing tells of. A sample counts for the time until
 * the next one: they lie closer where somebody blocks others.
 */
public final class ActiveTime {
  /** Between samples that are farther apart nothing is known. */
  private static final double MOST_S = 150;

  private double active;
  private double seconds;
  private double runningFirst;
  private double runningLast;
  private int before;
  private long firstAt = Long.MIN_VALUE;
  private long lastAt;

  /**
   * All as a mean number of sessions: seconds per second.
   *
   * @param running below 0 where what ran at the beginning was booked in the window
   */
  public record Told(double sampled, double booked, double running, double notCovered) {}

  /** One sample after the other, in order of time. */
  public void add(Sample sample) {
    int now = 0;
    double running = 0;
    for (Session session : sample.sessions()) {
      if (session.isBusy()) {
        now++;
        running += Math.max(0, sample.engineAt() - session.since().statement()) / 1000.0;
      }
    }
    long at = sample.at().toEpochMilli();
    if (firstAt == Long.MIN_VALUE) {
      runningFirst = running;
      firstAt = at;
    } else {
      double lasted = Math.min(MOST_S, (at - lastAt) / 1000.0);
      active += before * lasted;
      seconds += lasted;
    }
    runningLast = running;
    before = now;
    lastAt = at;
  }

  /**
   * @param booked seconds of finished statements per second
   * @return all NaN but what is booked where there are less than two samples
   */
  public Told told(double booked) {
    if (seconds <= 0) {
      return new Told(Double.NaN, booked, Double.NaN, Double.NaN);
    }
    double sampled = active / seconds;
    double running = (runningLast - runningFirst) / seconds;
    return new Told(sampled, booked, running, sampled - booked - running);
  }
}
