package jamjar.core.threads;

import java.time.Instant;
import java.util.List;

/**
 * What the threads of a JVM did at one moment.
 *
 * @param at when they were looked at
 * @param why what was the cause to look
 * @param stacks the different stacks, the innermost call first; cut at a depth
 * @param threads in the order of their numbers
 * @param more how many there were beyond these
 */
public record ThreadDump(
    Instant at, String why, List<List<String>> stacks, List<Seen> threads, int more) {

  /** So many threads at most. */
  public static final int MOST = 500;

  /** So many calls of a stack. */
  public static final int DEPTH = 40;

  /**
   * One thread.
   *
   * @param state as the JVM names it, such as BLOCKED
   * @param lock what it waits for, such as {@code java.lang.Object@1b2c}; empty for nothing
   * @param owner the number of the thread that holds it; −1 where nobody does, or it is not told
   * @param stack the place of its stack in the list of stacks
   */
  public record Seen(long id, String name, String state, String lock, long owner, int stack) {}
}
