package jamjar.collect;

import jamjar.core.session.Sample;
import java.util.Map;

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

  /** The last sample was not kept: its texts are told again. */
  void dropped();

  @Override
  void close();
}
