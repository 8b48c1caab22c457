package jamjar.core.telling;

import jamjar.core.limit.Severity;
import jamjar.core.telling.Plan.Recipient;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/**
 * What somebody is to be told.
 *
 * @param matter what belongs together, by the first alert of it; of a digest or report its own
 * @param recipient a person's name, or a channel's
 * @param ways in their order
 * @param rule by which
 * @param at when that was decided, epoch ms
 * @param severity the worst of what it tells
 * @param items the worst first
 */
public record Told(
    Kind kind,
    String matter,
    String recipient,
    List<Way> ways,
    String rule,
    long at,
    Severity severity,
    List<Item> items) {

  /** Why somebody is told. */
  public enum Kind {
    RISE,
    WORSE,
    OVER,
    /** Much at once. */
    DIGEST,
    /** The report of the night. */
    REPORT
  }

  /**
   * One alert of it.
   *
   * @param ended when it ended, epoch ms; 0 while it is open
   */
  public record Item(
      AlertKey key, Subject subject, Severity severity, Figures figures, long ended) {}

  /** One message about much: the worst of it first. */
  static Told ofMany(Kind kind, Recipient recipient, String rule, long at, List<Item> items) {
    return new Told(
        kind,
        Long.toString(at),
        recipient.name(),
        recipient.ways(),
        rule,
        at,
        items.stream().map(Item::severity).max(Comparator.naturalOrder()).orElseThrow(),
        items.stream().sorted(Comparator.comparing(Item::severity).reversed()).toList());
  }

  public Told {
    ways = List.copyOf(ways);
    items = List.copyOf(items);
  }

  /**
   * The same for the same alert, transition and recipient, whenever and however often it is
   * decided.
   */
  public String key() {
    String of = kind.name().toLowerCase(Locale.ROOT);
    String first = items.isEmpty() ? matter : items.get(0).key().words();
    return switch (kind) {
      case RISE, WORSE -> first + "/" + of + "-" + severity.ordinal() + "/" + recipient;
      case OVER -> first + "/" + of + "/" + recipient;
      case DIGEST, REPORT -> matter + "/" + of + "/" + recipient;
    };
  }
}
