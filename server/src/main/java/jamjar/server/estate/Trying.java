package jamjar.server.estate;

import java.util.concurrent.atomic.AtomicInteger;

/** How far a file has been tried; a person may stop it. */
final class Trying {
  private final int total;
  private final AtomicInteger done = new AtomicInteger();
  private volatile boolean stopped;

  Trying(int total) {
    this.total = total;
  }

  /**
   * @param done how many lines were tried
   * @param total of how many
   */
  record Progress(int done, int total) {}

  void one() {
    done.incrementAndGet();
  }

  void stop() {
    stopped = true;
  }

  boolean stopped() {
    return stopped;
  }

  Progress progress() {
    return new Progress(done.get(), total);
  }
}
