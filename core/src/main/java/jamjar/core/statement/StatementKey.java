package jamjar.core.statement;

import java.util.Comparator;

/**
 * A statement of one user in one database.
 *
 * @param fingerprint as {@link jamjar.core.session.StatementText} gives it; 0 for all whose text is
 *     not known, and those beyond what is kept one by one
 * @param top whether a client sent it; false for one that another statement ran
 */
public record StatementKey(String user, String database, long fingerprint, boolean top)
    implements Comparable<StatementKey> {
  private static final Comparator<StatementKey> ORDER =
      Comparator.comparingLong(StatementKey::fingerprint)
          .thenComparing(StatementKey::database)
          .thenComparing(StatementKey::user)
          .thenComparing(StatementKey::top);

  /** All that is not kept one by one. */
  public static StatementKey others(boolean top) {
    return new StatementKey("", "", 0, top);
  }

  @Override
  public int compareTo(StatementKey other) {
    return ORDER.compare(this, other);
  }
}
