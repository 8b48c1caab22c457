package jamjar.server.watch;

import jakarta.annotation.PreDestroy;
import jamjar.store.Store;
import jamjar.store.readings.KeptReading;
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
 * one together; who hands over a reading waits until it is stored.
 */
@Component
class ReadingWriter {
  private static final Logger LOG = LoggerFactory.getLogger(ReadingWriter.class);
  private static final int MOST_TOGETHER = 200;
  private static final int QUEUE = 2000;

  private final Store store;
  private final BlockingQueue<Waiting> queue = new ArrayBlockingQueue<>(QUEUE);
  private final Thread thread = new Thread(this::run, "reading-writer");
  private volatile boolean ending;

  private record Waiting(KeptReading reading, CompletableFuture<int[]> stored) {}

  ReadingWriter(Store store) {
    this.store = store;
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
      throw new NotStored("the queue of " + QUEUE + " readings before the store is full", null);
    }
    try {
      return waiting.stored().get(30, TimeUnit.SECONDS);
    } catch (ExecutionException e) {
      throw new NotStored("the store refused it: " + e.getCause().getMessage(), e.getCause());
    } catch (TimeoutException e) {
      throw new NotStored("the store did not answer within 30 s", e);
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
        store(batch);
      } catch (InterruptedException e) {
        return;
      } finally {
        batch.clear();
      }
    }
  }

  private void store(List<Waiting> batch) {
    try {
      List<int[]> ids = store.readings().write(batch.stream().map(Waiting::reading).toList());
      for (int i = 0; i < ids.size(); i++) {
        batch.get(i).stored().complete(ids.get(i));
      }
    } catch (RuntimeException e) {
      LOG.warn("event=not-stored readings={} why=\"{}\"", batch.size(), e.getMessage());
      batch.forEach(waiting -> waiting.stored().completeExceptionally(e));
    }
  }

  @PreDestroy
  void end() throws InterruptedException {
    ending = true;
    thread.join(5000);
  }
}
