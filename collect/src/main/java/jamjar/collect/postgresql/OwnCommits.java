package jamjar.collect.postgresql;

import jamjar.core.reading.LastTotals;
import jamjar.core.reading.SeriesKey;
import java.util.Optional;

/**
 * Transactions that Jam Jar committed on one engine, counted over all its connections there and on
 * from the last stored count, so that they can be subtracted.
 *
 * <p>The engine books the commits of a session up to some seconds after they happened, so that the
 * difference may fall for a moment although nothing was undone. It is therefore held at the highest
 * seen since the engine's count began.
 */
public final class OwnCommits {
  static final String COMMITTED = "transactions.committed";
  static final String OWN = "own.commits";

  private long count;
  private long highest = Long.MIN_VALUE;
  private long start;
  private long epoch;

  /**
   * @param last what is stored of the last reading; empty for a new instance
   * @param database the database that Jam Jar signs in to
   */
  public static OwnCommits after(Optional<LastTotals> last, String database) {
    OwnCommits own = new OwnCommits();
    last.ifPresent(
        totals -> {
          LastTotals.Raw counted = totals.totals().get(SeriesKey.of(OWN));
          LastTotals.Raw told = totals.totals().get(SeriesKey.of(COMMITTED, "database", database));
          if (counted != null && told != null) {
            own.count = counted.value();
            own.highest = told.value();
            own.start = totals.start();
            own.epoch = told.epoch();
          }
        });
    return own;
  }

  synchronized void one() {
    count++;
  }

  synchronized long soFar() {
    return count;
  }

  /**
   * The commits of all others.
   *
   * @param committed the engine's count in the database that Jam Jar signs in to
   * @param engineStart when the engine started
   * @param reset when its count was reset
   */
  synchronized long without(long committed, long engineStart, long reset) {
    long others = committed - count;
    boolean anew = start != engineStart || epoch != reset;
    start = engineStart;
    epoch = reset;
    highest = anew ? others : Math.max(highest, others);
    return highest;
  }
}
