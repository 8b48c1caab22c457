package jamjar.server.sessions;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.core.session.Forest;
import jamjar.core.session.LockWords;
import jamjar.core.session.Sample;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Who waits for whom at a moment.
 *
 * @param at when it was sampled, epoch ms; null where there is no sample of that moment
 * @param why why there is nothing; empty where there is something
 * @param waiting how many wait for a lock
 * @param queues those that wait themselves and hold up others by being ahead of them
 * @param cycles processes that wait for each other in a circle, in this sample and the one before
 */
@Schema(name = "Locks")
public record LocksView(
    @Schema(
            types = {"integer", "null"},
            format = "int64")
        Long at,
    int every,
    String why,
    int waiting,
    List<Root> roots,
    List<Queue> queues,
    List<List<Integer>> cycles) {

  /**
   * One that blocks and does not wait itself.
   *
   * @param session null where it was gone when the sessions were read
   * @param waiters how many wait for it, behind others too
   * @param onlyBecause how many of these wait for nobody else
   * @param holds what it has that others want
   * @param below who waits for it, each followed by who waits behind it
   */
  @Schema(name = "LockRoot")
  public record Root(
      int pid,
      @Schema(types = {"object", "null"}) SessionView session,
      int waiters,
      int onlyBecause,
      long longestMs,
      long totalMs,
      int depth,
      List<Held> holds,
      List<Node> below) {}

  /**
   * A lock that is held and wanted.
   *
   * @param mode in the engine's words
   * @param words what it keeps others from; empty where that is plain
   */
  @Schema(name = "HeldLock")
  public record Held(String object, String mode, String words) {}

  /**
   * One that waits, where it stands in the tree.
   *
   * @param under whom it waits for here
   * @param depth 1 where that is the root
   * @param leaf whether nobody waits for it, or that stands elsewhere
   * @param ahead whether whom it waits for only asked before it
   * @param wants what it waits for, in words
   * @param mode in the engine's words; empty where it is not told
   * @param reference whether it stands elsewhere with what is below it
   * @param frees how many wait only because of it
   */
  @Schema(name = "LockNode")
  public record Node(
      SessionView session,
      int under,
      int depth,
      boolean leaf,
      boolean ahead,
      String wants,
      String mode,
      boolean reference,
      int frees) {}

  /** One that waits: cancelled, it frees so many. */
  @Schema(name = "LockQueue")
  public record Queue(SessionView session, int frees) {}

  static LocksView nothing(int every, String why) {
    return new LocksView(null, every, why, 0, List.of(), List.of(), List.of());
  }

  /**
   * @param before the sample before: a circle counts once it was seen twice
   */
  static LocksView of(int every, Sample sample, Optional<Sample> before, Map<Long, String> texts) {
    Forest forest = Forest.of(sample);
    List<List<Integer>> seen = before.map(Forest::of).map(Forest::cycles).orElse(List.of());
    return new LocksView(
        sample.at().toEpochMilli(),
        every,
        "",
        (int) sample.sessions().stream().filter(s -> !s.blockers().isEmpty()).count(),
        forest.roots().stream().map(root -> root(root, sample, texts)).toList(),
        forest.queues().stream()
            .map(q -> new Queue(SessionView.of(q.session(), sample, texts), q.frees()))
            .toList(),
        forest.cycles().stream().filter(seen::contains).toList());
  }

  private static Root root(Forest.Root root, Sample sample, Map<Long, String> texts) {
    List<Node> below = new ArrayList<>();
    add(root.below(), root.pid(), 1, sample, texts, below);
    return new Root(
        root.pid(),
        root.session().map(s -> SessionView.of(s, sample, texts)).orElse(null),
        root.waiters(),
        root.onlyBecause(),
        root.longestMs(),
        root.totalMs(),
        root.depth(),
        held(root, sample),
        below);
  }

  private static List<Held> held(Forest.Root root, Sample sample) {
    List<Held> held = new ArrayList<>();
    for (Sample.Lock lock : sample.locks()) {
      if (lock.pid() == root.pid() && lock.granted()) {
        held.add(
            new Held(LockWords.object(lock, root.pid(), sample), lock.mode(), LockWords.of(lock)));
      }
    }
    return held.stream().distinct().toList();
  }

  private static void add(
      List<Forest.Node> nodes,
      int under,
      int depth,
      Sample sample,
      Map<Long, String> texts,
      List<Node> all) {
    for (Forest.Node node : nodes) {
      all.add(
          new Node(
              SessionView.of(node.session(), sample, texts),
              under,
              depth,
              node.below().isEmpty(),
              node.ahead(),
              node.wanted()
                  .map(lock -> LockWords.object(lock, node.session().pid(), sample))
                  .orElse(""),
              node.wanted().map(Sample.Lock::mode).orElse(""),
              node.reference(),
              node.frees()));
      add(node.below(), node.session().pid(), depth + 1, sample, texts, all);
    }
  }
}
