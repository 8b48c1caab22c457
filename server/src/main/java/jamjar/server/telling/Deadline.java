package jamjar.server.telling;

import java.time.Duration;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;

/** Breaks off what takes too long, however slowly it goes on. */
final class Deadline implements AutoCloseable {
  /** So long one attempt takes at most. */
  static final Duration MOST = Duration.ofMinutes(1);

  private static final ScheduledThreadPoolExecutor WATCH =
      new ScheduledThreadPoolExecutor(
          1,
          task -> {
            Thread thread = new Thread(task, "telling-deadline");
            thread.setDaemon(true);
            return thread;
          });

  private final ScheduledFuture<?> planned;

  Deadline(Duration most, Runnable breakOff) {
    planned = WATCH.schedule(breakOff, most.toMillis(), TimeUnit.MILLISECONDS);
  }

  /** What becomes of an attempt that was broken off. */
  static Outcome passed(Duration most) {
    return new Outcome(
        Outcome.State.AGAIN, "it took more than " + most.toSeconds() + " s and was broken off");
  }

  @Override
  public void close() {
    planned.cancel(false);
  }
}
