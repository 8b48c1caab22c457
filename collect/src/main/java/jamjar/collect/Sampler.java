package jamjar.collect;

import jamjar.core.log.Logged;
import jamjar.core.session.Sample;
import java.util.Map;
import java.util.Optional;

/**
 * Takes samples of the sessions of one target, on a connection of its own. Used by one thread;
 * connects when first asked and again after a failure.
 */
public interface Sampler extends AutoCloseable {
  /**
   * A sample, and the texts of statements that no sample of this sampler had before.
   *
   * @param texts by fingerprint; nothing in them is a value that somebody gave
   */
  record Sampled(Sample sample, Map<Long, String> texts) {}

  Sampled sample() throws CollectFailed;

  /**
   * What was read of the target's own log.
   *
   * @param logged empty where it can't be read
   * @param texts of statements that lines are about, by fingerprint
   * @param unread why it can't be read, and what to change; empty where it is read
   */
  record ReadLog(Optional<Logged> logged, Map<Long, String> texts, String unread) {}

  /** What was read of its log with the last sample; empty where it was not its turn. Told once. */
  default Optional<ReadLog> log() {
    return Optional.empty();
  }

  /** Its log is read on from where it was read to. */
  default void readOnFrom(Logged last) {}

  /** The last sample was not kept: its texts are told again. */
  void dropped();

  @Override
  void close();
}
