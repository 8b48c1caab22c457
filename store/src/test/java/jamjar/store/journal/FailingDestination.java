package jamjar.store.journal;

import jamjar.store.journal.Journal.Entry;
import jamjar.store.journal.Journal.Loss;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;

/**
 * A database in memory that is away now and then, loses what was committed last when it is killed,
 * and refuses some entries.
 */
final class FailingDestination implements Carrier.Destination {
  /** The database is away. */
  static final class Away extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  private record State(long position, List<Integer> brought, List<Integer> aside) {}

  private final SplittableRandom random;
  private State now = new State(0, List.of(), List.of());
  private State onDisk = now;
  private double failing;
  private final List<Loss> lost = new ArrayList<>();

  FailingDestination(SplittableRandom random) {
    this.random = random;
  }

  void failing(double share) {
    failing = share;
  }

  /** It is killed, and started again. */
  void kill() {
    now = onDisk;
  }

  /** It is another one, or goes with another journal. */
  void begin(long position) {
    now = new State(position, now.brought(), now.aside());
    onDisk = now;
  }

  List<Integer> brought() {
    return now.brought();
  }

  List<Integer> aside() {
    return now.aside();
  }

  List<Loss> lost() {
    return lost;
  }

  static boolean refused(int number) {
    return number % 17 == 5;
  }

  private static int number(Entry entry) {
    return ByteBuffer.wrap(entry.bytes()).getInt();
  }

  private void mayBeAway() {
    if (random.nextDouble() < failing) {
      throw new Away();
    }
  }

  @Override
  public long position() {
    mayBeAway();
    return now.position();
  }

  @Override
  public boolean bring(List<Entry> entries, List<Loss> losses, long from, long to) {
    mayBeAway();
    if (now.position() != from) {
      return false;
    }
    if (entries.stream().anyMatch(entry -> refused(number(entry)))) {
      throw new IllegalStateException("one of them is refused");
    }
    List<Integer> all = new ArrayList<>(now.brought());
    entries.forEach(entry -> all.add(number(entry)));
    now = new State(to, all, now.aside());
    lost.addAll(losses);
    // committed, and the answer is lost
    mayBeAway();
    return true;
  }

  @Override
  public boolean setAside(Entry entry, RuntimeException why, long from, long to) {
    mayBeAway();
    if (now.position() != from) {
      return false;
    }
    List<Integer> all = new ArrayList<>(now.aside());
    all.add(number(entry));
    now = new State(to, now.brought(), all);
    mayBeAway();
    return true;
  }

  @Override
  public void settle() {
    mayBeAway();
    onDisk = now;
    mayBeAway();
  }
}
