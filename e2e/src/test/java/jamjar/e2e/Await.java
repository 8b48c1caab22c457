package jamjar.e2e;

import java.time.Duration;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicReference;

/** Waits for a state. */
final class Await {
  /** A machine that has much else to do takes so many times as long as one that has not. */
  private static final int SLOWER = 3;

  private Await() {}

  /**
   * Waits until a value is what is wanted.
   *
   * @throws AssertionError when it was not in time, with the last one seen
   */
  static <T> void untilEquals(T wanted, Duration most, Callable<T> value)
      throws InterruptedException {
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
      throw new AssertionError(e.getMessage() + "; last seen: " + last.get(), e.getCause());
    }
  }

  /**
   * What can't be told just now, as a machine is slow or a server starts, is asked again.
   *
   * @param most how long it takes at most where nothing else is done
   * @throws AssertionError when it did not come about in time
   */
  static void until(String what, Duration most, Callable<Boolean> holds)
      throws InterruptedException {
    within(what, most.multipliedBy(SLOWER), holds);
  }

  /**
   * Where the time itself is what is asked for, on a machine that does nothing else.
   *
   * @throws AssertionError when it did not come about in time
   */
  static void within(String what, Duration most, Callable<Boolean> holds)
      throws InterruptedException {
    long end = System.nanoTime() + most.toNanos();
    while (true) {
      Exception failed = null;
      try {
        if (holds.call()) {
          return;
        }
      } catch (InterruptedException e) {
        throw e;
      } catch (Exception e) {
        failed = e;
      }
      if (System.nanoTime() > end) {
        throw new AssertionError("not within " + most.toSeconds() + " s: " + what, failed);
      }
      Thread.sleep(100);
    }
  }
}
