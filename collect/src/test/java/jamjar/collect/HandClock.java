package jamjar.collect;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** A clock that is moved by hand. */
public class HandClock extends Clock {
  private Instant now;

  public HandClock(Instant now) {
    this.now = now;
  }

  public void pass(Duration time) {
    now = now.plus(time);
  }

  public void set(Instant to) {
    now = to;
  }

  @Override
  public Instant instant() {
    return now;
  }

  @Override
  public ZoneId getZone() {
    return ZoneOffset.UTC;
  }

  @Override
  public Clock withZone(ZoneId zone) {
    return this;
  }
}
