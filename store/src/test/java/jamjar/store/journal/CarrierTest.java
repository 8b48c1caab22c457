package jamjar.store.journal;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;

/** Everything fails, is killed or loses its power at any step: each entry is brought once. */
class CarrierTest {
  private static final int CASES = Integer.getInteger("journal.cases", 4_000);
  private static final long SEED = Long.getLong("journal.seed", 11);
  private static final int STEPS = 60;
  private static final int SEGMENT = 400;
  private static final long PLENTY = 1 << 20;

  /** One run of a journal and a database, with all that happens to them. */
  private static final class Run {
    private final SplittableRandom random;
    private final FailingFiles files;
    private final FailingDestination database;
    private final List<Integer> kept = new ArrayList<>();

    /** What failed last before the process ended: it may be kept, and who failed is gone. */
    private final Set<Integer> open = new HashSet<>();

    private final Set<Integer> failed = new HashSet<>();

    private int synced;
    private int number;
    private FileJournal journal;
    private Carrier carrier;

    Run(long seed) throws IOException {
      random = new SplittableRandom(seed);
      files = new FailingFiles(random.split());
      database = new FailingDestination(random.split());
      open();
    }

    private void open() throws IOException {
      files.failing(0);
      journal = new FileJournal(files, SEGMENT, PLENTY);
      database.failing(0);
      if (database.position() > journal.end()) {
        // a power cut took what was brought already: another journal begins
        for (String name : files.names()) {
          files.delete(name);
        }
        journal = new FileJournal(files, SEGMENT, PLENTY);
        database.begin(0);
      }
      carrier = new Carrier(journal, database, e -> e instanceof FailingDestination.Away);
      fail();
    }

    private void fail() {
      double share = random.nextInt(3) == 0 ? 0 : random.nextDouble() * 0.3;
      files.failing(share);
      database.failing(random.nextInt(3) == 0 ? 0 : random.nextDouble() * 0.5);
    }

    void step(boolean powerCuts) throws IOException {
      switch (random.nextInt(powerCuts ? 13 : 12)) {
        case 0, 1, 2, 3, 4 -> append();
        case 5, 6, 7 -> carry();
        case 8 -> settle();
        case 9 -> sync();
        case 10 -> {
          // the server is killed
          end();
          open();
        }
        case 11 -> {
          database.kill();
          fail();
        }
        default -> {
          database.kill();
          files.powerCut();
          end();
          // the disk kept what was synced, and maybe more
          while (kept.size() > synced) {
            open.add(kept.remove(kept.size() - 1));
          }
          open();
        }
      }
    }

    private void end() {
      open.addAll(failed);
      failed.clear();
    }

    private void append() {
      int mine = number++;
      byte[] entry = ByteBuffer.allocate(4 + random.nextInt(60)).putInt(mine).array();
      try {
        journal.append(entry);
        kept.add(mine);
        // written over whatever was left of them
        failed.clear();
      } catch (IOException e) {
        failed.add(mine);
      }
    }

    private boolean carry() {
      try {
        return carrier.carry();
      } catch (IOException | FailingDestination.Away e) {
        return true;
      }
    }

    private void settle() {
      try {
        carrier.settle();
      } catch (IOException | FailingDestination.Away e) {
        // again later
      }
    }

    private void sync() {
      try {
        journal.sync();
        synced = kept.size();
      } catch (IOException e) {
        // again later
      }
    }

    void finish() throws IOException {
      end();
      open();
      files.failing(0);
      database.failing(0);
      while (carry()) {
        // until there is nothing more
      }
      carrier.settle();
      carrier.settle();
    }

    /** What was kept stands there once and in order, and nothing else does. */
    void check() {
      List<Integer> brought = new ArrayList<>(database.brought());
      brought.addAll(database.aside());
      assertThat(brought).doesNotHaveDuplicates();
      assertThat(database.brought()).isSorted().noneMatch(FailingDestination::refused);
      assertThat(database.aside()).isSorted().allMatch(FailingDestination::refused);
      brought.removeAll(open);
      List<Integer> wanted = new ArrayList<>(kept);
      wanted.removeAll(open);
      assertThat(brought).containsExactlyInAnyOrderElementsOf(wanted);
      assertThat(journal.end() - journal.first()).isLessThanOrEqualTo(SEGMENT);
    }
  }

  @Test
  void whatever_fails_or_is_killed_when_all_that_was_kept_is_brought_once() throws IOException {
    run(false, SEED);
  }

  @Test
  void a_power_cut_takes_at_most_what_was_not_synced() throws IOException {
    run(true, SEED + 1);
  }

  private static void run(boolean powerCuts, long seed) throws IOException {
    SplittableRandom seeds = new SplittableRandom(seed);
    for (int i = 0; i < CASES; i++) {
      long mine = seeds.nextLong();
      try {
        Run run = new Run(mine);
        for (int step = 0; step < STEPS; step++) {
          run.step(powerCuts);
        }
        run.finish();
        run.check();
      } catch (IOException | RuntimeException | AssertionError e) {
        throw new AssertionError("case " + i + " of seed " + mine, e);
      }
    }
  }
}
