package jamjar.core.session;

/**
 * Where the time of sampled active sessions went: time is booked when a statement ends, so that
 * sampled = booked by finished statements + what those still running have run more at the end than
 * those that ran at the beginning had + what nothing tells of.
 */
public final class ActiveTime {
  private long samples;
  private long active;
  private double runningFirst;
  private double runningLast;
  private long firstAt;
  private long lastAt;

  /**
   * All as a mean number of sessions: seconds per second.
   *
   * @param running below 0 where what ran at the beginning was booked in the window
   */
  public record Told(double sampled, double booked, double running, double notCovered) {}

  /** One sample after the other, in order of time. */
  public void add(Sample sample) {
    double running = 0;
    for (Session session : sample.sessions()) {
      if (session.isBusy()) {
        active++;
        running += Math.max(0, sample.engineAt() - session.since().statement()) / 1000.0;
      }
    }
    if (samples++ == 0) {
      runningFirst = running;
      firstAt = sample.at().toEpochMilli();
    }
    runningLast = running;
    lastAt = sample.at().toEpochMilli();
  }

  /**
   * @param booked seconds of finished statements per second
   * @return all NaN where there are less than two samples
   */
  public Told told(double booked) {
    if (samples < 2 || lastAt <= firstAt) {
      return new Told(Double.NaN, booked, Double.NaN, Double.NaN);
    }
    double sampled = (double) active / samples;
    double running = (runningLast - runningFirst) * 1000 / (lastAt - firstAt);
    return new Told(sampled, booked, running, sampled - booked - running);
  }
}
