package jamjar.collect;

import jamjar.core.reading.RawReading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.statement.Counted;
import jamjar.core.threads.ThreadDump;
import java.util.Map;
import java.util.Optional;

/**
 * Reads one source of one target. Used by one thread; connects when first read and again after a
 * failure, and keeps the connection in between.
 */
public interface Collector extends AutoCloseable {
  /**
   * The fact that names what was changed over there and waits for a restart; absent for nothing.
   */
  String RESTART = "waiting for a restart";

  /** Begins the name of a fact that tells why something is not read as it should be. */
  String UNREAD = "not read/";

  /** With what it is told of, such as a pool: the address that it leads to. */
  String LEADS_TO = "leads to/";

  /** The fact that tells how much more there is than is read; absent for nothing. */
  String EXCESS = "more than is read";

  /** Takes one reading. After a failure the next call tries anew. */
  RawReading read() throws CollectFailed;

  /**
   * What was read last was not kept: the next reading counts on from the one before it, and what
   * was counted is told again.
   */
  default void dropped() {}

  /**
   * What was counted of statements, and the texts of those that were not told before.
   *
   * @param texts by fingerprint; nothing in them is a value that somebody gave
   */
  record CountedStatements(Counted counted, Map<Long, String> texts) {}

  /**
   * What was counted of statements in the minute that ended with the last reading: told once, and
   * again where that was not kept.
   */
  default Optional<CountedStatements> counted() {
    return Optional.empty();
  }

  /**
   * Looks at the threads of the target, over the connection of the last reading.
   *
   * @param why what is the cause to look
   * @return empty where it has none that can be looked at, or they could not be
   */
  default Optional<ThreadDump> dump(String why) {
    return Optional.empty();
  }

  /**
   * What the target said of itself when last looked at, such as its version; settings, arguments
   * and properties with that and a slash before their name. Never a password.
   */
  Map<String, String> facts();

  /**
   * How a person reads by hand what this one reads as a series; may be asked by any thread. Empty
   * where it reads no such series, or has not connected yet.
   */
  default Optional<ByHand> byHand(SeriesKey series) {
    return Optional.empty();
  }

  /** How long the smallest question of the last reading took, in s; NaN where none was asked. */
  default double roundTrip() {
    return Double.NaN;
  }

  @Override
  void close();
}
