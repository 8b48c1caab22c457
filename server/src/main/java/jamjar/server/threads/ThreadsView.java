package jamjar.server.threads;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.threads.ThreadDump;
import jamjar.core.threads.WhoWaits;
import java.util.List;

/**
 * What the threads of a JVM did at a moment.
 *
 * @param at epoch ms
 * @param why what was the cause to look
 * @param more how many threads there were beyond these
 * @param stacks the different stacks, the innermost call first
 * @param locks those that somebody holds and others wait for, the worst first
 * @param alike threads that do the same put together, the most first
 */
@Schema(name = "Threads")
public record ThreadsView(
    long at,
    String why,
    int more,
    List<List<String>> stacks,
    List<One> threads,
    List<Lock> locks,
    List<Alike> alike) {

  /**
   * A dump that is there.
   *
   * @param at epoch ms
   */
  @Schema(name = "ThreadsTaken")
  public record Taken(long at, String why, int threads, int blocked) {}

  /**
   * A thread.
   *
   * @param lock what it waits for; empty for nothing
   * @param owner the thread that holds it; −1 where nobody does, or it is not told
   * @param stack the place of its stack
   */
  @Schema(name = "ThreadSeen")
  public record One(long id, String name, String state, String lock, long owner, int stack) {}

  /**
   * A lock.
   *
   * @param holder the thread that holds it
   * @param behind how many wait for its waiters in turn
   * @param ring whether that never ends
   */
  @Schema(name = "ThreadLock")
  public record Lock(String name, long holder, List<Long> waiters, int behind, boolean ring) {}

  /**
   * Threads that do the same.
   *
   * @param kind the class of what they wait for; empty for nothing
   */
  @Schema(name = "ThreadsAlike")
  public record Alike(String state, String kind, int stack, List<Long> ids) {}

  static ThreadsView of(ThreadDump dump, WhoWaits waits) {
    return new ThreadsView(
        dump.at().toEpochMilli(),
        dump.why(),
        dump.more(),
        dump.stacks(),
        dump.threads().stream()
            .map(t -> new One(t.id(), t.name(), t.state(), t.lock(), t.owner(), t.stack()))
            .toList(),
        waits.locks().stream()
            .map(l -> new Lock(l.name(), l.holder(), l.waiters(), l.behind(), l.ring()))
            .toList(),
        waits.alike().stream()
            .map(a -> new Alike(a.state(), a.kind(), a.stack(), a.ids()))
            .toList());
  }
}
