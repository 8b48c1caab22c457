package jamjar.core.statement;

import java.util.Collection;

/**
 * How many executions ended when, and how long they ran: time in equal steps, length in half
 * decades from 1 ms on. Row r holds lengths from 10^(r/2) ms to 10^((r+1)/2) ms; the first one also
 * what is shorter, the last one what is longer.
 */
public record Strip(long from, long stepMs, int[][] counts) {
  /** Up to 10^7 ms, some three hours; what is longer stands in the last one. */
  public static final int ROWS = 15;

  /**
   * @param steps how many, from {@code from} on; what ended in no step counts in none
   */
  public static Strip of(Collection<Execution> executions, long from, long stepMs, int steps) {
    int[][] counts = new int[ROWS][steps];
    for (Execution execution : executions) {
      long step = Math.floorDiv(execution.ended() - from, stepMs);
      if (step >= 0 && step < steps) {
        counts[row(execution.leastMs())][(int) step]++;
      }
    }
    return new Strip(from, stepMs, counts);
  }

  /** The row of a length in ms. */
  public static int row(double ms) {
    if (ms < 1) {
      return 0;
    }
    int row = (int) Math.floor(2 * Math.log10(ms));
    // a logarithm may fall just below the edge on which its number lies
    if (edge(row + 1) <= ms) {
      row++;
    }
    return Math.min(ROWS - 1, Math.max(0, row));
  }

  /** The least length of a row, in ms. */
  public static double edge(int row) {
    return row % 2 == 0 ? Math.pow(10, row / 2) : Math.pow(10, row / 2) * Math.sqrt(10);
  }
}
