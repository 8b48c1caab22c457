package jamjar.core.heap;

import java.util.ArrayDeque;
import java.util.Deque;

/**
 * The floor of the old generation: what is still used after a collection that looked at it. While
 * none has, the lowest use after any collection of the last six hours stands in for it. In bytes.
 */
public final class Floor {
  private static final long WINDOW_MILLIS = 6 * 3_600_000L;

  private record Low(long at, double used) {}

  private double looked = Double.NaN;
  private long lookedAt = -1;

  /** Rising from the oldest: the first is the lowest. */
  private final Deque<Low> lows = new ArrayDeque<>();

  /**
   * The floor at a moment.
   *
   * @param afterLooked use after the last collection that looked at the generation; 0 for none yet
   * @param afterAny use after the last collection of any kind; NaN when unknown
   * @param at epoch ms, never earlier than before
   * @return NaN when neither is known
   */
  public double after(double afterLooked, double afterAny, long at) {
    while (!lows.isEmpty() && lows.peekFirst().at() <= at - WINDOW_MILLIS) {
      lows.pollFirst();
    }
    if (!Double.isNaN(afterAny)) {
      while (!lows.isEmpty() && lows.peekLast().used() >= afterAny) {
        lows.pollLast();
      }
      lows.addLast(new Low(at, afterAny));
    }
    if (afterLooked != looked) {
      // of what stood there when it was first asked nobody knows since when
      lookedAt = Double.isNaN(looked) || afterLooked == 0 ? -1 : at;
      looked = afterLooked;
    }
    if (afterLooked > 0) {
      return afterLooked;
    }
    return lows.isEmpty() ? Double.NaN : lows.peekFirst().used();
  }

  /**
   * How long ago a collection looked at the generation, as far as it was seen to: what was left
   * after it was another then. In s.
   *
   * @param at epoch ms
   * @return NaN when none was seen yet
   */
  public double sinceLooked(long at) {
    return lookedAt < 0 ? Double.NaN : (at - lookedAt) / 1000.0;
  }
}
