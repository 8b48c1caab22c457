package jamjar.collect;

import jamjar.core.reading.RawReading;
import java.util.Map;

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

  /** The fact that tells how much more there is than is read; absent for nothing. */
  String EXCESS = "more than is read";

  /** Takes one reading. After a failure the next call tries anew. */
  RawReading read() throws CollectFailed;

  /** The last reading was not kept: the next one counts on from the one before it. */
  default void dropped() {}

  /**
   * What the target said of itself when last looked at, such as its version; settings, arguments
   * and properties with that and a slash before their name. Never a password.
   */
  Map<String, String> facts();

  /** How long the smallest question of the last reading took, in s; NaN where none was asked. */
  default double roundTrip() {
    return Double.NaN;
  }

  @Override
  void close();
}
