package jamjar.core.threads;

import jamjar.core.threads.ThreadDump.Seen;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;

/**
 * Who waits for whom in a thread dump: by lock, and by what threads that do the same do. A thread
 * waits for one lock, which one thread holds, so that what hangs together is a tree, or a ring.
 */
public final class WhoWaits {
  private final ThreadDump dump;
  private final Map<Long, Seen> byId = new HashMap<>();

  /**
   * A lock that threads wait for.
   *
   * @param holder the thread that holds it; −1 where nobody does, or it is not told
   * @param waiters those that wait for it itself
   * @param behind how many wait for them in turn, and for those, and so on
   * @param ring whether its holder waits, over others, for itself: that never ends
   */
  public record Lock(String name, long holder, List<Long> waiters, int behind, boolean ring) {}

  /**
   * Threads in one state, at one place, that wait for the same kind of thing.
   *
   * @param kind the class of what they wait for; empty for nothing
   * @param ids their numbers, ascending
   */
  public record Alike(String state, String kind, int stack, List<Long> ids) {}

  public WhoWaits(ThreadDump dump) {
    this.dump = dump;
    dump.threads().forEach(thread -> byId.put(thread.id(), thread));
  }

  /**
   * Locks that somebody holds and others wait for: rings first, then the most that wait, directly
   * or behind others.
   */
  public List<Lock> locks() {
    Map<String, List<Seen>> waiting = new TreeMap<>();
    for (Seen thread : dump.threads()) {
      if (!thread.lock().isEmpty() && thread.owner() >= 0) {
        waiting
            .computeIfAbsent(thread.lock() + " " + thread.owner(), l -> new ArrayList<>())
            .add(thread);
      }
    }
    Map<Long, List<Seen>> behind = new HashMap<>();
    waiting
        .values()
        .forEach(
            some ->
                behind.computeIfAbsent(some.get(0).owner(), o -> new ArrayList<>()).addAll(some));
    List<Lock> locks = new ArrayList<>();
    for (List<Seen> some : waiting.values()) {
      Set<Long> after = new HashSet<>();
      some.forEach(thread -> follow(thread.id(), behind, after));
      List<Long> waiters = some.stream().map(Seen::id).sorted().toList();
      waiters.forEach(after::remove);
      long holder = some.get(0).owner();
      boolean ring = ring(holder);
      after.remove(holder);
      locks.add(new Lock(some.get(0).lock(), holder, waiters, after.size(), ring));
    }
    locks.sort(
        Comparator.comparing((Lock lock) -> !lock.ring())
            .thenComparing(lock -> -(lock.waiters().size() + lock.behind()))
            .thenComparing(Lock::name));
    return locks;
  }

  private static void follow(long id, Map<Long, List<Seen>> behind, Set<Long> found) {
    List<Long> left = new ArrayList<>(List.of(id));
    while (!left.isEmpty()) {
      long one = left.remove(left.size() - 1);
      for (Seen thread : behind.getOrDefault(one, List.of())) {
        if (found.add(thread.id())) {
          left.add(thread.id());
        }
      }
    }
  }

  /** Whether who waits for what a thread waits for, and so on, ends at that thread again. */
  private boolean ring(long thread) {
    Set<Long> seen = new HashSet<>();
    Seen at = byId.get(thread);
    while (at != null && at.owner() >= 0 && seen.add(at.id())) {
      if (at.owner() == thread) {
        return true;
      }
      at = byId.get(at.owner());
    }
    return false;
  }

  /** The threads that do the same put together, the most first. */
  public List<Alike> alike() {
    Map<List<Object>, List<Long>> groups = new LinkedHashMap<>();
    for (Seen thread : dump.threads()) {
      groups
          .computeIfAbsent(
              List.of(thread.state(), kind(thread.lock()), thread.stack()), g -> new ArrayList<>())
          .add(thread.id());
    }
    return groups.entrySet().stream()
        .map(
            group ->
                new Alike(
                    (String) group.getKey().get(0),
                    (String) group.getKey().get(1),
                    (Integer) group.getKey().get(2),
                    group.getValue().stream().sorted().toList()))
        .sorted(
            Comparator.comparing((Alike alike) -> -alike.ids().size())
                .thenComparing(Alike::state)
                .thenComparing(alike -> alike.ids().get(0)))
        .collect(Collectors.toList());
  }

  /** The class of a lock, without which one of them it is. */
  private static String kind(String lock) {
    int at = lock.lastIndexOf('@');
    return at < 0 ? lock : lock.substring(0, at);
  }
}
