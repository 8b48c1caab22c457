package jamjar.e2e;

import java.time.Duration;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicReference;

/** Waits for a state. */
final class Await {
  private Await() {}

  /**
   * Waits until a value is what is wanted.
   *
   * @throws AssertionError when it was not in time, with the last one seen
   */
  static <T> void untilEquals(T wanted, Duration most, Callable<T> value) throws Exception {
    AtomicReference<T> last = new AtomicReference<>();
    try {
      until(
          wanted.toString(),
          most,
          () -> {
            last.set(value.call());
            return wanted.equals(last.get());
          });
    } catch (AssertionError e) {
      throw new AssertionError(e.getMessage() + "; last seen: " + last.get(), e);
    }
  }

  /**
   * @throws AssertionError when it did not come about in time
   */
  static void until(String what, Duration most, Callable<Boolean> holds) throws Exception {
    long end = System.nanoTime() + most.toNanos();
    while (!holds.call()) {
      if (System.nanoTime() > end) {
        throw new AssertionError("not within " + most.toSeconds() + " s: " + what);
      }
      Thread.sleep(100);
    }
  }
}
