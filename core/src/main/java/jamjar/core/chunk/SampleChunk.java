package jamjar.core.chunk;

import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.zip.DataFormatException;

/**
 * Samples of one engine, packed: who the sessions are stands once, in a dictionary; a sample refers
 * to it. What changed nothing since a session's sample before costs next to nothing: times stand as
 * the beginning of what lasts, not as an age that grows. Columns, then deflated (RFC 1951).
 *
 * <p>One sample alone is packed the same way, so that what is kept at once and what is sealed by
 * the hour have one form.
 */
public final class SampleChunk {
  static final byte FORM = 1;

  /** So many may come out of a chunk: an hour of 5,000 sessions at one second. */
  static final int MOST_BYTES = 256 << 20;

  static final Session.State[] STATES = Session.State.values();
  static final Who.Kind[] KINDS = Who.Kind.values();
  static final int TIMES = 4;
  static final int HAS_LEADER = 1 << TIMES;
  static final int HAS_BLOCKERS = 1 << TIMES + 1;
  static final int HAS_MODULE = 1 << TIMES + 2;

  private SampleChunk() {}

  public static byte[] write(List<Sample> samples) {
    SamplePacking packing = new SamplePacking();
    samples.forEach(packing::add);
    return packing.bytes();
  }

  /** All of them at once: for a few. */
  public static List<Sample> read(byte[] bytes) {
    List<Sample> all = new ArrayList<>();
    read(bytes, all::add);
    return all;
  }

  /**
   * Hands them over one after the other: an hour of thousands of sessions never lies on the heap
   * whole.
   *
   * @throws CorruptChunk when the bytes were not written here, or are not whole
   */
  public static void read(byte[] bytes, Consumer<Sample> taking) {
    try {
      new SampleReader(bytes).samples(taking);
    } catch (IndexOutOfBoundsException | NegativeArraySizeException | DataFormatException e) {
      throw new CorruptChunk("samples that are not whole: " + e);
    }
  }

  /** All that lasts: the beginnings, in the order in which they stand. */
  static long[] timesOf(Session session) {
    Session.Since since = session.since();
    return new long[] {since.state(), since.statement(), since.transaction(), since.waiting()};
  }
}
