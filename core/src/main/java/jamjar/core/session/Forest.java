package jamjar.core.session;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Who waits for whom at one moment, as trees: roots block and do not wait themselves. A waiter may
 * have several blockers: it is counted once under each root, and where it stands a second time it
 * is a reference.
 *
 * @param roots the one with most waiters first
 * @param queues those that wait themselves and hold up others only because they are ahead of them:
 *     cancelled, they free these
 * @param cycles processes that wait for each other in a circle
 */
public record Forest(List<Root> roots, List<Queue> queues, List<List<Integer>> cycles) {

  /**
   * One that blocks and does not wait.
   *
   * @param session empty where it was gone when the sessions were read
   * @param waiters how many wait for it, behind others too
   * @param onlyBecause how many of them wait for nobody else
   * @param longestMs the longest of their waits
   * @param totalMs all their waits together
   * @param depth 1 where all wait for it directly
   */
  public record Root(
      int pid,
      Optional<Session> session,
      int waiters,
      int onlyBecause,
      long longestMs,
      long totalMs,
      int depth,
      List<Node> below) {}

  /**
   * One that waits.
   *
   * @param ahead whether who it waits for only stands before it in the queue
   * @param wanted the lock that it waits for; empty where it is not told
   * @param reference whether what is below it stands elsewhere
   * @param frees how many wait only because of it
   */
  public record Node(
      Session session,
      boolean ahead,
      Optional<Sample.Lock> wanted,
      boolean reference,
      int frees,
      List<Node> below) {}

  /**
   * One that waits and is before others in the queue.
   *
   * @param frees how many wait for nothing else
   */
  public record Queue(Session session, int frees) {}

  public static Forest of(Sample sample) {
    return new Making(sample).forest();
  }

  private static final class Making {
    private final Sample sample;
    private final Map<Integer, Session> byPid = new HashMap<>();

    /** By who blocks: those that wait for it. */
    private final Map<Integer, List<Session>> behind = new LinkedHashMap<>();

    private final Map<Integer, Session> waiting = new LinkedHashMap<>();
    private final Map<Integer, Integer> frees = new HashMap<>();

    Making(Sample sample) {
      this.sample = sample;
      for (Session session : sample.sessions()) {
        byPid.put(session.pid(), session);
        if (!session.blockers().isEmpty()) {
          waiting.put(session.pid(), session);
        }
      }
      waiting
          .values()
          .forEach(
              waiter ->
                  new LinkedHashSet<>(waiter.blockers())
                      .forEach(
                          pid -> behind.computeIfAbsent(pid, p -> new ArrayList<>()).add(waiter)));
      behind.values().forEach(list -> list.sort(Comparator.comparingLong(this::waited).reversed()));
    }

    private long waited(Session session) {
      return Math.max(0, session.waitedMs(sample.engineAt()));
    }

    Forest forest() {
      List<Root> roots = new ArrayList<>();
      for (int pid : behind.keySet()) {
        if (!waiting.containsKey(pid)) {
          roots.add(root(pid));
        }
      }
      roots.sort(
          Comparator.comparingInt(Root::waiters)
              .thenComparingLong(Root::longestMs)
              .reversed()
              .thenComparingInt(Root::pid));
      List<Queue> queues = new ArrayList<>();
      for (Session waiter : waiting.values()) {
        boolean ahead =
            behind.getOrDefault(waiter.pid(), List.of()).stream()
                .anyMatch(other -> isAhead(waiter.pid(), other));
        int frees = ahead ? frees(waiter.pid()) : 0;
        if (frees > 0) {
          queues.add(new Queue(waiter, frees));
        }
      }
      queues.sort(Comparator.comparingInt(Queue::frees).reversed());
      return new Forest(roots, queues, cycles());
    }

    private Root root(int pid) {
      Set<Integer> under = new LinkedHashSet<>();
      List<Node> below = nodes(pid, under);
      long longest = 0;
      long total = 0;
      for (int waiter : under) {
        long waited = waited(byPid.get(waiter));
        longest = Math.max(longest, waited);
        total += waited;
      }
      return new Root(
          pid,
          Optional.ofNullable(byPid.get(pid)),
          under.size(),
          frees(pid),
          longest,
          total,
          depth(below),
          below);
    }

    private List<Node> nodes(int pid, Set<Integer> seen) {
      List<Node> nodes = new ArrayList<>();
      for (Session waiter : behind.getOrDefault(pid, List.of())) {
        boolean reference = !seen.add(waiter.pid());
        List<Node> below = reference ? List.of() : nodes(waiter.pid(), seen);
        nodes.add(
            new Node(
                waiter,
                isAhead(pid, waiter),
                wanted(waiter),
                reference,
                frees(waiter.pid()),
                below));
      }
      return nodes;
    }

    private int frees(int pid) {
      if (!behind.containsKey(pid)) {
        return 0;
      }
      Integer known = frees.get(pid);
      if (known == null) {
        known = onlyBecause(pid);
        frees.put(pid, known);
      }
      return known;
    }

    private static int depth(List<Node> below) {
      return below.stream().mapToInt(node -> 1 + depth(node.below())).max().orElse(0);
    }

    private Optional<Sample.Lock> wanted(Session waiter) {
      return sample.locks().stream()
          .filter(lock -> lock.pid() == waiter.pid() && !lock.granted())
          .findFirst();
    }

    /** Whether a blocker has not got what the waiter wants, but asked for it before. */
    private boolean isAhead(int blocker, Session waiter) {
      Optional<Sample.Lock> wanted = wanted(waiter);
      if (wanted.isEmpty()) {
        return false;
      }
      List<Sample.Lock> same =
          sample.locks().stream()
              .filter(lock -> lock.pid() == blocker)
              .filter(lock -> lock.object().equals(wanted.get().object()))
              .toList();
      return !same.isEmpty() && same.stream().noneMatch(Sample.Lock::granted);
    }

    /** How many would have nobody left to wait for without it. */
    private int onlyBecause(int pid) {
      Map<Integer, Boolean> held = new HashMap<>();
      return (int)
          waiting.values().stream()
              .filter(waiter -> waiter.pid() != pid)
              .filter(waiter -> reaches(waiter, pid))
              .filter(waiter -> !isHeldWithout(waiter, pid, held))
              .count();
    }

    private boolean reaches(Session waiter, int pid) {
      Set<Integer> seen = new HashSet<>();
      List<Integer> open = new ArrayList<>(waiter.blockers());
      while (!open.isEmpty()) {
        int next = open.remove(open.size() - 1);
        if (next == pid) {
          return true;
        }
        if (seen.add(next) && waiting.containsKey(next)) {
          open.addAll(waiting.get(next).blockers());
        }
      }
      return false;
    }

    /** Whether it waits, behind whomever, for one that does not wait and is another. */
    private boolean isHeldWithout(Session waiter, int pid, Map<Integer, Boolean> known) {
      Boolean before = known.get(waiter.pid());
      if (before != null) {
        return before;
      }
      // in a circle nobody holds who is not found otherwise
      known.put(waiter.pid(), false);
      boolean held = false;
      for (int blocker : waiter.blockers()) {
        if (blocker != pid
            && (!waiting.containsKey(blocker) || isHeldWithout(waiting.get(blocker), pid, known))) {
          held = true;
          break;
        }
      }
      known.put(waiter.pid(), held);
      return held;
    }

    /** Circles, each once: it begins with its lowest number. */
    private List<List<Integer>> cycles() {
      Set<List<Integer>> found = new LinkedHashSet<>();
      Set<Integer> done = new HashSet<>();
      for (int pid : waiting.keySet()) {
        List<Integer> path = new ArrayList<>();
        walk(pid, path, done, found);
      }
      return List.copyOf(found);
    }

    private void walk(int pid, List<Integer> path, Set<Integer> done, Set<List<Integer>> found) {
      int before = path.indexOf(pid);
      if (before >= 0) {
        List<Integer> circle = new ArrayList<>(path.subList(before, path.size()));
        int lowest = circle.indexOf(circle.stream().min(Integer::compare).orElseThrow());
        java.util.Collections.rotate(circle, -lowest);
        found.add(List.copyOf(circle));
        return;
      }
      if (done.contains(pid) || !waiting.containsKey(pid)) {
        return;
      }
      path.add(pid);
      for (int blocker : waiting.get(pid).blockers()) {
        walk(blocker, path, done, found);
      }
      path.remove(path.size() - 1);
      done.add(pid);
    }
  }
}
