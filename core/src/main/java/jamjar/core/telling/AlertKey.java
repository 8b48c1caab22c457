package jamjar.core.telling;

import jamjar.core.limit.Condition;
import java.util.Comparator;
import java.util.Locale;
import java.util.Optional;

/**
 * An alert, told apart from all others of the same series and condition by when it rose. It is
 * known before any database has given it a number.
 *
 * @param series 0 for the whole instance
 * @param rose when the transition arrived by which it was opened, epoch ms
 */
public record AlertKey(int instance, int series, Condition condition, long rose) {

  /** The one that rose first, first; of those that rose at once always the same. */
  static final Comparator<AlertKey> ORDER =
      Comparator.comparingLong(AlertKey::rose)
          .thenComparingInt(AlertKey::instance)
          .thenComparingInt(AlertKey::series)
          .thenComparing(AlertKey::condition);

  /** As it stands in links and in the keys of messages. */
  public String words() {
    return instance + "-" + series + "-" + condition.name().toLowerCase(Locale.ROOT) + "-" + rose;
  }

  /** Empty where the words are no key. */
  public static Optional<AlertKey> of(String words) {
    String[] parts = words.split("-", -1);
    if (parts.length != 4) {
      return Optional.empty();
    }
    try {
      return Optional.of(
          new AlertKey(
              Integer.parseInt(parts[0]),
              Integer.parseInt(parts[1]),
              Condition.valueOf(parts[2].toUpperCase(Locale.ROOT)),
              Long.parseLong(parts[3])));
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
  }
}
