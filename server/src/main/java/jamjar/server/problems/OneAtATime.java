package jamjar.server.problems;

import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;

/** Of what reads much only one is answered at a time; who would wait too long is told so. */
public final class OneAtATime {
  private static final int PATIENCE_SECONDS = 20;

  private final Semaphore one = new Semaphore(1, true);
  private final String busy;

  /**
   * @param busy what others do just now, as a sentence
   */
  public OneAtATime(String busy) {
    this.busy = busy;
  }

  /**
   * @throws Problem when others take too long, or the server is stopping
   */
  public <T> T answer(Supplier<T> reading) {
    try {
      if (!one.tryAcquire(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        throw Problem.busy(busy + " Ask again in a moment.");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw Problem.busy("The server is stopping.");
    }
    try {
      return reading.get();
    } finally {
      one.release();
    }
  }
}
