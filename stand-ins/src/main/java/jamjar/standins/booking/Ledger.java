package jamjar.standins.booking;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Stream;

/**
 * What the load committed, by its own count: a line a second with the epoch ms and the commits so
 * far.
 */
public final class Ledger {
  private final AtomicLong commits = new AtomicLong();

  void one() {
    commits.incrementAndGet();
  }

  public long commits() {
    return commits.get();
  }

  /** Writes a line a second until interrupted. */
  public void write(Path file, Clock clock) throws InterruptedException {
    try (var out = Files.newBufferedWriter(file)) {
      while (true) {
        out.write(clock.millis() + "," + commits.get() + "\n");
        out.flush();
        Thread.sleep(1000);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /**
   * Commits between two instants, epoch ms, read from the file; split within the second by time.
   */
  public static double between(Path file, long from, long to) throws IOException {
    return at(file, to) - at(file, from);
  }

  private static double at(Path file, long when) throws IOException {
    long beforeAt = 0;
    long before = 0;
    try (Stream<String> lines = Files.lines(file)) {
      for (String line : (Iterable<String>) lines::iterator) {
        String[] parts = line.split(",");
        long at = Long.parseLong(parts[0]);
        long commits = Long.parseLong(parts[1]);
        if (at >= when) {
          return beforeAt == 0
              ? commits
              : before + (commits - before) * (double) (when - beforeAt) / (at - beforeAt);
        }
        beforeAt = at;
        before = commits;
      }
    }
    return before;
  }
}
