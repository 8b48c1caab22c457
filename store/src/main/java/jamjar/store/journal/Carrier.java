package jamjar.store.journal;

import jamjar.store.journal.Journal.Entry;
import jamjar.store.journal.Journal.Loss;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Carries what the journal holds to where it is to be, each entry once and in order, whatever fails
 * when: how far it came stands there, and changes together with what was brought.
 */
public final class Carrier {
  private static final Logger LOG = LoggerFactory.getLogger(Carrier.class);
  private static final int BATCH_BYTES = 4 << 20;

  /** Where entries are carried to. */
  public interface Destination {
    /** Up to which position all was brought. */
    long position();

    /**
     * Brings entries, all of them or none, and sets the position to the second one in the same
     * step, if it is the first one still.
     *
     * @param losses what lies between them and is lost
     * @return whether the position was the first one; if not, nothing was brought
     */
    boolean bring(List<Entry> entries, List<Loss> losses, long from, long to);

    /** Puts one aside that can't be brought, and sets the position as above. */
    boolean setAside(Entry entry, RuntimeException why, long from, long to);

    /** Returns when the position survives the end of the machine. */
    void settle();
  }

  private final Journal journal;
  private final Destination to;
  private final Predicate<Throwable> away;
  private final List<Loss> untold = new ArrayList<>();
  private volatile long position;
  private boolean known;
  private long settled;

  /**
   * @param away tells a failure as the destination is away from one of what was brought
   */
  public Carrier(Journal journal, Destination to, Predicate<Throwable> away) {
    this.journal = journal;
    this.to = to;
    this.away = away;
  }

  /**
   * Brings what there is, about 4 MB of it: of many readings of a source only the last totals are
   * written.
   *
   * @return whether there was anything
   * @throws RuntimeException when the destination is away: to be tried again
   */
  public boolean carry() throws IOException {
    if (!known) {
      position = to.position();
      known = true;
    }
    long first = journal.first();
    Journal.Batch batch = journal.read(Math.max(position, first), BATCH_BYTES);
    untold.addAll(journal.losses());
    if (first > position && untold.isEmpty()) {
      untold.add(
          new Loss(
              position, first, "the database is an earlier copy, and the journal begins later"));
    }
    if (batch.next() == position) {
      return false;
    }
    List<Loss> losses = untold.stream().filter(loss -> loss.to() > position).toList();
    try {
      bring(batch.entries(), losses, batch.next());
      untold.clear();
    } catch (RuntimeException e) {
      // whether it was brought is not known
      known = false;
      throw e;
    }
    return true;
  }

  private void bring(List<Entry> entries, List<Loss> losses, long next) {
    try {
      moved(to.bring(entries, losses, position, next), next);
    } catch (RuntimeException e) {
      if (away.test(e)) {
        throw e;
      }
      if (entries.size() == 1) {
        LOG.warn(
            "event=set-aside position={} bytes={} why=\"{}\"",
            position,
            entries.get(0).bytes().length,
            e.getMessage());
        moved(to.setAside(entries.get(0), e, position, next), next);
      } else if (entries.isEmpty()) {
        throw e;
      } else {
        // one that can't be brought does not take the others with it
        int half = entries.size() / 2;
        long middle = entries.get(half).at();
        bring(entries.subList(0, half), losses, middle);
        if (known) {
          bring(entries.subList(half, entries.size()), List.of(), next);
        }
      }
    }
  }

  private void moved(boolean brought, long next) {
    if (brought) {
      position = next;
    } else {
      // it forgot what it had: a database that was killed may
      LOG.warn("event=position-moved was={}", position);
      known = false;
    }
  }

  /** Makes what was brought outlive the machine, and forgets it here. */
  public void settle() throws IOException {
    if (known && settled != position) {
      long upTo = position;
      to.settle();
      if (to.position() >= upTo) {
        journal.forget(upTo);
        settled = upTo;
      }
    }
  }

  /** Up to where all was brought, as far as is known. */
  public long position() {
    return position;
  }
}
