package jamjar.server.telling;

import static jamjar.server.numbers.Units.number;
import static jamjar.server.numbers.Units.range;
import static jamjar.server.numbers.Units.span;

import jamjar.core.counter.CounterDefinition;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Severity;
import jamjar.core.telling.Figures;
import jamjar.core.telling.Told;
import jamjar.core.telling.Told.Item;
import jamjar.core.telling.Told.Kind;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;

/** What is told, in words: the subject alone should suffice. */
final class Words {
  private static final DateTimeFormatter CLOCK =
      DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("EEE d MMM HH:mm", Locale.ENGLISH);
  private static final int NAMED = 5;

  private final ZoneId zone;
  private final Function<Item, Optional<CounterDefinition>> counters;

  /**
   * @param counters what an alert counts
   */
  Words(ZoneId zone, Function<Item, Optional<CounterDefinition>> counters) {
    this.zone = zone;
    this.counters = counters;
  }

  String subject(Told told) {
    List<Item> items = told.items();
    Item first = items.get(0);
    String more = with(items);
    return Addresses.head(
        switch (told.kind()) {
          case RISE -> severity(told.severity()) + ": " + sentence(first, told.at()) + more;
          case WORSE ->
              "Worse, " + word(told.severity()) + ": " + sentence(first, told.at()) + more;
          case OVER -> "Over: " + over(first) + more;
          case DIGEST -> items.size() + " alerts at once: " + names(items);
          case REPORT -> "Report of the night: " + report(items);
        });
  }

  /** Whom else it is about. */
  private static String with(List<Item> items) {
    List<Item> others =
        items.stream()
            .filter(item -> !item.subject().name().equals(items.get(0).subject().name()))
            .toList();
    if (others.isEmpty()) {
      return items.size() == 1 ? "" : " (and " + (items.size() - 1) + " more of it)";
    }
    return " (with " + names(others) + ")";
  }

  private static String names(List<Item> items) {
    List<String> names = items.stream().map(item -> item.subject().name()).distinct().toList();
    String first = names.stream().limit(NAMED).collect(Collectors.joining(", "));
    return names.size() <= NAMED ? first : first + " and " + (names.size() - NAMED) + " more";
  }

  private static String report(List<Item> items) {
    long open = items.stream().filter(item -> item.ended() == 0).count();
    return items.size()
        + (items.size() == 1 ? " alert, " : " alerts, ")
        + (open == 0 ? "all over" : open + " open still");
  }

  private static String severity(Severity severity) {
    return severity == Severity.CRITICAL ? "Critical" : "Warning";
  }

  static String word(Severity severity) {
    return severity.name().toLowerCase(Locale.ROOT);
  }

  /** One alert with its value, its normal, its limit and since when. */
  String sentence(Item item, long at) {
    Figures figures = item.figures();
    Optional<CounterDefinition> counter = counters.apply(item);
    String unit = counter.map(CounterDefinition::unit).orElse("");
    String title = title(item, counter);
    String since = " since " + time(figures.since(), at);
    String name = item.subject().name();
    return switch (item.key().condition()) {
      case SILENT -> name + " is silent" + since;
      case UNREACHABLE -> name + " does not let itself be read" + since;
      case OVERDUE -> name + ": " + title + " did not happen," + since;
      case REACHES ->
          name + ": " + title + " meets its limit in " + number(figures.value(), "d") + since;
      case OUTSIDE ->
          name
              + ": "
              + title
              + " "
              + value(figures.value(), unit)
              + normal(figures, unit)
              + ", "
              + number(Math.abs(figures.distance()), "")
              + " spreads outside"
              + since;
      case ABOVE, BELOW ->
          name
              + ": "
              + title
              + " "
              + value(figures.value(), unit)
              + normal(figures, unit)
              + (Double.isFinite(figures.number())
                  ? ", limit " + number(figures.number(), unit)
                  : "")
              + since;
    };
  }

  private static String value(double value, String unit) {
    return Double.isFinite(value) ? number(value, unit) : "has no value";
  }

  private static String normal(Figures figures, String unit) {
    return Double.isFinite(figures.normalLow()) && Double.isFinite(figures.normalHigh())
        ? ", normal " + range(figures.normalLow(), figures.normalHigh(), unit)
        : ", no normal known yet";
  }

  private static String title(Item item, Optional<CounterDefinition> counter) {
    String title = counter.map(CounterDefinition::title).orElse(item.subject().counter());
    String labels =
        item.subject().ofMany()
            ? ""
            : item.subject().labels().values().stream().sorted().collect(Collectors.joining(", "));
    return labels.isEmpty() ? title : title + " of " + labels;
  }

  private String over(Item item) {
    String what =
        item.key().condition() == Condition.SILENT
            ? item.subject().name() + " answers again"
            : item.key().condition() == Condition.UNREACHABLE
                ? item.subject().name() + " is read again"
                : item.subject().name() + ": " + title(item, counters.apply(item));
    return item.ended() == 0
        ? what
        : what + ", after " + span(item.ended() - item.figures().since());
  }

  /** The text, without what else is known of it. */
  String body(Told told) {
    StringBuilder text = new StringBuilder();
    for (Item item : told.items()) {
      text.append(line(item, told)).append('\n');
    }
    return text.toString().stripTrailing();
  }

  private String line(Item item, Told told) {
    if (told.kind() == Kind.OVER) {
      return "Over "
          + (item.ended() == 0 ? "" : "at " + time(item.ended(), told.at()) + ": ")
          + over(item);
    }
    String end =
        item.ended() == 0
            ? ""
            : ". Over at "
                + time(item.ended(), told.at())
                + ", after "
                + span(item.ended() - item.figures().since());
    String lasted = item.ended() == 0 ? " (" + span(told.at() - item.figures().since()) + ")" : end;
    return severity(item.severity()) + ": " + sentence(item, told.at()) + lasted;
  }

  /** The time of the day, with the day where that is another one. */
  String time(long at, long now) {
    var then = Instant.ofEpochMilli(at).atZone(zone);
    boolean today = then.toLocalDate().equals(Instant.ofEpochMilli(now).atZone(zone).toLocalDate());
    return then.format(today ? CLOCK : DAY);
  }
}
