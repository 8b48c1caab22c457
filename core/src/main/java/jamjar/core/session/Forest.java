package jamjar.core.session;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
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

  /** So many lines are told of all trees together; whoever comes after them is a reference. */
  private static final int MOST_NODES = 2_000;

  private static final class Making {
    private final Sample sample;
    private final Map<Integer, Session> byPid = new HashMap<>();

    /** What each that waits has asked for and not got. */
    private final Map<Integer, Sample.Lock> wanted = new HashMap<>();

    /** By what is locked: who has asked for it, and whether they have got it. */
    private final Map<String, Map<Integer, Boolean>> asked = new HashMap<>();

    /** By who waits: whom it is shown to wait for. */
    private final Map<Integer, List<Integer>> blockers = new LinkedHashMap<>();

    /** By who blocks: those that wait for it. */
    private final Map<Integer, List<Session>> behind = new LinkedHashMap<>();

    private final Map<Integer, Integer> frees = new HashMap<>();
    private int nodes;

    Making(Sample sample) {
      this.sample = sample;
      for (Sample.Lock lock : sample.locks()) {
        asked
            .computeIfAbsent(lock.object(), o -> new HashMap<>())
            .merge(lock.pid(), lock.granted(), Boolean::logicalOr);
        if (!lock.granted()) {
          wanted.putIfAbsent(lock.pid(), lock);
        }
      }
      for (Session session : sample.sessions()) {
        byPid.put(session.pid(), session);
      }
      for (Session session : sample.sessions()) {
        if (!session.blockers().isEmpty()) {
          blockers.put(session.pid(), shown(session));
        }
      }
      blockers.forEach(
          (waiter, pids) ->
              pids.forEach(
                  pid ->
                      behind.computeIfAbsent(pid, p -> new ArrayList<>()).add(byPid.get(waiter))));
      behind.values().forEach(list -> list.sort(Comparator.comparingLong(this::waited).reversed()));
    }

    /**
     * In a queue everybody waits for all before: where somebody has what is wanted, that is who is
     * waited for.
     */
    private List<Integer> shown(Session waiter) {
      List<Integer> all = waiter.blockers().stream().distinct().toList();
      List<Integer> holders = all.stream().filter(pid -> !isAhead(pid, waiter)).toList();
      return holders.isEmpty() ? all : holders;
    }

    private long waited(Session session) {
      return Math.max(0, session.waitedMs(sample.engineAt()));
    }

    Forest forest() {
      List<Root> roots = new ArrayList<>();
      for (int pid : behind.keySet()) {
        if (!blockers.containsKey(pid)) {
          roots.add(root(pid));
        }
      }
      roots.sort(
          Comparator.comparingInt(Root::waiters)
              .thenComparingLong(Root::longestMs)
              .reversed()
              .thenComparingInt(Root::pid));
      List<Queue> queues = new ArrayList<>();
      for (int pid : blockers.keySet()) {
        Session waiter = byPid.get(pid);
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
      Set<Integer> under = under(pid);
      long longest = 0;
      long total = 0;
      for (int waiter : under) {
        long waited = waited(byPid.get(waiter));
        longest = Math.max(longest, waited);
        total += waited;
      }
      List<Node> below = nodes(pid, new HashSet<>());
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

    /** All that wait for one, behind others too. */
    private Set<Integer> under(int pid) {
      Set<Integer> found = new LinkedHashSet<>();
      Deque<Integer> open = new ArrayDeque<>(List.of(pid));
      while (!open.isEmpty()) {
        for (Session waiter : behind.getOrDefault(open.remove(), List.of())) {
          if (waiter.pid() != pid && found.add(waiter.pid())) {
            open.add(waiter.pid());
          }
        }
      }
      return found;
    }

    private List<Node> nodes(int pid, Set<Integer> seen) {
      List<Node> all = new ArrayList<>();
      for (Session waiter : behind.getOrDefault(pid, List.of())) {
        boolean reference = !seen.add(waiter.pid()) || nodes >= MOST_NODES;
        nodes++;
        List<Node> below = reference ? List.of() : nodes(waiter.pid(), seen);
        all.add(
            new Node(
                waiter,
                isAhead(pid, waiter),
                Optional.ofNullable(wanted.get(waiter.pid())),
                reference,
                frees(waiter.pid()),
                below));
      }
      return all;
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

    /** Whether a blocker has not got what the waiter wants, but asked for it before. */
    private boolean isAhead(int blocker, Session waiter) {
      Sample.Lock lock = wanted.get(waiter.pid());
      return lock != null
          && Boolean.FALSE.equals(asked.getOrDefault(lock.object(), Map.of()).get(blocker));
    }

    /** How many would have nobody left to wait for without it. */
    private int onlyBecause(int pid) {
      Map<Integer, Boolean> held = new HashMap<>();
      return (int) under(pid).stream().filter(waiter -> !isHeldWithout(waiter, pid, held)).count();
    }

    /** Whether it waits, behind whomever, for one that does not wait and is another. */
    private boolean isHeldWithout(int waiter, int pid, Map<Integer, Boolean> known) {
      Boolean before = known.get(waiter);
      if (before != null) {
        return before;
      }
      // in a circle nobody holds who is not found otherwise
      known.put(waiter, false);
      boolean held = false;
      for (int blocker : blockers.get(waiter)) {
        if (blocker != pid
            && (!blockers.containsKey(blocker) || isHeldWithout(blocker, pid, known))) {
          held = true;
          break;
        }
      }
      known.put(waiter, held);
      return held;
    }

    /** Circles, each once: it begins with its lowest number. */
    private List<List<Integer>> cycles() {
      Set<List<Integer>> found = new LinkedHashSet<>();
      Set<Integer> done = new HashSet<>();
      for (int pid : blockers.keySet()) {
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
      if (done.contains(pid) || !blockers.containsKey(pid)) {
        return;
      }
      path.add(pid);
      for (int blocker : blockers.get(pid)) {
        walk(blocker, path, done, found);
      }
      path.remove(path.size() - 1);
      done.add(pid);
    }
  }
}
