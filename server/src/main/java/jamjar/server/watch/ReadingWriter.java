package jamjar.server.watch;

import jakarta.annotation.PreDestroy;
import jamjar.server.watching.Beat;
import jamjar.store.Store;
import jamjar.store.StoreAway;
import jamjar.store.readings.KeptReading;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * The one way of readings into the store. What arrives while a transaction runs goes into the next
 * one together; who hands over a reading waits until it is stored, or until it is known that the
 * database does not answer.
 */
@Component
class ReadingWriter {
  private static final Logger LOG = LoggerFactory.getLogger(ReadingWriter.class);
  private static final int MOST_TOGETHER = 200;
  private static final int QUEUE = 2000;
  private static final long LOOK_MILLIS = 500;
  private static final long LONGEST_MILLIS = 30_000;

  private final Store store;
  private final Beat beat;
  private final Clock clock;
  private final BlockingQueue<Waiting> queue = new ArrayBlockingQueue<>(QUEUE);
  private final Thread thread = new Thread(this::run, "reading-writer");
  private volatile boolean ending;

  private record Waiting(KeptReading reading, CompletableFuture<int[]> stored) {}

  ReadingWriter(Store store, Beat beat, Clock clock) {
    this.store = store;
    this.beat = beat;
    this.clock = clock;
    thread.setDaemon(true);
    thread.start();
  }

  /**
   * Stores a reading.
   *
   * @return the numbers of its series, in its order
   * @throws NotStored when the store did not take it; the reading is then dropped, and the next one
   *     covers its increases
   */
  int[] write(KeptReading reading) throws InterruptedException, NotStored {
    Waiting waiting = new Waiting(reading, new CompletableFuture<>());
    if (!queue.offer(waiting)) {
      throw new NotStored("the queue of " + QUEUE + " readings before the database is full", null);
    }
    long until = System.nanoTime() + TimeUnit.MILLISECONDS.toNanos(LONGEST_MILLIS);
    while (System.nanoTime() < until) {
      try {
        return waiting.stored().get(LOOK_MILLIS, TimeUnit.MILLISECONDS);
      } catch (ExecutionException e) {
        throw new NotStored("the database refused it: " + root(e).getMessage(), e.getCause());
      } catch (TimeoutException e) {
        if (beat.away()) {
          break;
        }
      }
    }
    // what has not been begun is not written behind its back
    waiting.stored().cancel(false);
    throw new NotStored("Jam Jar's own database does not answer", null);
  }

  /**
   * @throws NotStored when it is known that the database does not answer: who has that checked
   *     first need not wait
   */
  void requireThere() throws NotStored {
    if (!beat.mayTry()) {
      throw new NotStored("Jam Jar's own database takes no readings", null);
    }
  }

  /** A reading that did not reach the store. */
  static final class NotStored extends Exception {
    NotStored(String why, Throwable cause) {
      super(why, cause);
    }
  }

  int queued() {
    return queue.size();
  }

  private void run() {
    List<Waiting> batch = new ArrayList<>(MOST_TOGETHER);
    while (!ending || !queue.isEmpty()) {
      try {
        Waiting first = queue.poll(200, TimeUnit.MILLISECONDS);
        if (first == null) {
          continue;
        }
        batch.add(first);
        queue.drainTo(batch, MOST_TOGETHER - 1);
        batch.removeIf(waiting -> waiting.stored().isDone());
        store(batch);
      } catch (InterruptedException e) {
        return;
      } catch (Throwable e) {
        // whatever it was, the next readings are written
        batch.forEach(waiting -> waiting.stored().completeExceptionally(e));
        LOG.error("event=writer-failed", e);
      } finally {
        batch.clear();
      }
    }
  }

  private void store(List<Waiting> batch) {
    if (batch.isEmpty()) {
      return;
    }
    long wall = clock.millis();
    long nanos = System.nanoTime();
    try {
      List<int[]> ids = store.readings().write(batch.stream().map(Waiting::reading).toList());
      beat.kept(wall, nanos);
      for (int i = 0; i < ids.size(); i++) {
        batch.get(i).stored().complete(ids.get(i));
      }
    } catch (RuntimeException e) {
      LOG.warn("event=not-stored readings={} why=\"{}\"", batch.size(), root(e).getMessage());
      boolean away = StoreAway.is(e);
      if (away) {
        beat.refused();
      }
      if (batch.size() == 1 || away) {
        batch.forEach(waiting -> waiting.stored().completeExceptionally(e));
      } else {
        // one that the database refuses does not take the others with it
        batch.forEach(waiting -> store(List.of(waiting)));
      }
    }
  }

  private static Throwable root(Throwable failure) {
    Throwable root = failure;
    for (int depth = 0; root.getCause() != null && depth < 20; depth++) {
      root = root.getCause();
    }
    return root;
  }

  @PreDestroy
  void end() throws InterruptedException {
    ending = true;
    thread.join(5000);
  }
}
