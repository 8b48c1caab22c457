package jamjar.store.readings;

import java.util.function.IntFunction;

/** Numbers that were reserved ahead, so that to give one away needs no database. */
final class Numbers {
  private final int atOnce;
  private final IntFunction<int[]> reserve;
  private int[] numbers = {};
  private int next;

  /**
   * @param atOnce how many are reserved at a time
   * @param reserve reserves so many for ever; gives those of them that nobody has
   */
  Numbers(int atOnce, IntFunction<int[]> reserve) {
    this.atOnce = atOnce;
    this.reserve = reserve;
  }

  /** One that nobody else has. Asks the database only where none is left. */
  synchronized int take() {
    while (next == numbers.length) {
      numbers = reserve.apply(atOnce);
      next = 0;
    }
    return numbers[next++];
  }

  /** Sees to it that there are enough for a time without the database. */
  synchronized void stockUp() {
    if (numbers.length - next < atOnce / 2) {
      int[] more = reserve.apply(atOnce);
      int[] all = new int[numbers.length - next + more.length];
      System.arraycopy(numbers, next, all, 0, numbers.length - next);
      System.arraycopy(more, 0, all, numbers.length - next, more.length);
      numbers = all;
      next = 0;
    }
  }
}
