package jamjar.server.telling;

import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.ScheduledThreadPoolExecutor;
import java.util.concurrent.TimeUnit;

/** Breaks off what takes too long, however slowly it goes on. */
final class Deadline implements AutoCloseable {
  /** So long one attempt takes at most, s. */
  static final int SECONDS = 60;

  private static final ScheduledThreadPoolExecutor WATCH =
      new ScheduledThreadPoolExecutor(
          1,
          task -> {
            Thread thread = new Thread(task, "telling-deadline");
            thread.setDaemon(true);
            return thread;
          });

  private final ScheduledFuture<?> planned;

  Deadline(Runnable breakOff) {
    planned = WATCH.schedule(breakOff, SECONDS, TimeUnit.SECONDS);
  }

  @Override
  public void close() {
    planned.cancel(false);
  }
}
