package jamjar.store.journal;

import java.io.IOException;
import java.util.List;

/**
 * What is kept, in order, until it is brought into the database. A position counts bytes since the
 * journal began and never comes again. Several threads may append; one reads and forgets.
 */
public interface Journal extends AutoCloseable {

  /**
   * Keeps an entry: when this returns it survives the end of this process; once it is synced, that
   * of the machine too.
   *
   * @return where it ends
   * @throws IOException when it could not be kept; the journal is as it was
   */
  long append(byte[] entry) throws IOException;

  /** Makes all that was appended until now survive a power cut. */
  void sync() throws IOException;

  /**
   * What follows a position, in order.
   *
   * @param from where an entry begins, or one that is gone began
   * @param mostBytes about how much at once; one entry where it alone is longer
   */
  Batch read(long from, int mostBytes) throws IOException;

  /** Nothing before a position is needed any more. */
  void forget(long upTo) throws IOException;

  /** Where the oldest entry that is still there begins. */
  long first();

  /** Where the next entry will begin. */
  long end();

  /** What was lost of it since it was opened, told once. */
  List<Loss> losses();

  @Override
  void close() throws IOException;

  /**
   * Some entries that follow each other.
   *
   * @param next where to read on; the same as asked for when there is nothing more. What lies
   *     between and is not among them is a loss
   */
  record Batch(List<Entry> entries, long next) {}

  /**
   * An entry.
   *
   * @param at where it begins
   * @param next where the next one does
   */
  record Entry(long at, long next, byte[] bytes) {}

  /**
   * A stretch that is not there any more, or can't be read.
   *
   * @param from position of its begin
   * @param to position of its end
   */
  record Loss(long from, long to, String why) {}
}
