package jamjar.store.readings;

import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.Lock;
import java.util.concurrent.locks.ReadWriteLock;
import java.util.concurrent.locks.ReentrantReadWriteLock;
import java.util.function.BooleanSupplier;

/**
 * Up to when the sources are sealed, for who writes: what is written before that came late. It is
 * told before a span is sealed, and not before all have ended who write by what was told until
 * then.
 */
final class SealedUntil {
  private final Map<SourceKey, Instant> until = new ConcurrentHashMap<>();
  private final ReadWriteLock lock = new ReentrantReadWriteLock();

  /** To be held while readings are written. */
  Lock writing() {
    return lock.readLock();
  }

  void willBe(SourceKey source, Instant at) {
    lock.writeLock().lock();
    try {
      until.put(source, at);
    } finally {
      lock.writeLock().unlock();
    }
  }

  /** Does something while nobody writes readings: they wait for it. */
  boolean whileNobodyWrites(BooleanSupplier work) {
    lock.writeLock().lock();
    try {
      return work.getAsBoolean();
    } finally {
      lock.writeLock().unlock();
    }
  }

  boolean knows(SourceKey source) {
    return until.containsKey(source);
  }

  /** As it stands in the database, unless it is known better. */
  void stands(SourceKey source, Instant at) {
    until.putIfAbsent(source, at);
  }

  /** Nothing from a moment on is sealed any more. */
  void backTo(Instant at) {
    lock.writeLock().lock();
    try {
      until.replaceAll((source, then) -> then.isAfter(at) ? at : then);
    } finally {
      lock.writeLock().unlock();
    }
  }

  boolean isLate(SourceKey source, Instant at) {
    return at.isBefore(until.getOrDefault(source, Instant.MIN));
  }
}
