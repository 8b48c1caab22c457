package jamjar.server.statements;

import jamjar.core.session.Fingerprint;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.server.problems.Problem;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.ToDoubleFunction;
import java.util.stream.Collectors;

/** What was counted, put together by what is asked for. */
final class Ranked {
  /** By what statements are put together. */
  enum By {
    STATEMENT(key -> Fingerprint.hex(key.fingerprint())),
    USER(StatementKey::user),
    DATABASE(StatementKey::database);

    private final Function<StatementKey, String> name;

    By(Function<StatementKey, String> name) {
      this.name = name;
    }

    /** The one of all that is not kept one by one. */
    Subject unnamed(boolean top) {
      return new Subject(name.apply(StatementKey.others(top)), top);
    }
  }

  /** By what they are ordered, the most first. */
  enum Order {
    TIME(StatementCounts::timeUs),
    MEAN(c -> perCall(c.timeUs(), c)),
    CALLS(StatementCounts::calls),
    ROWS(StatementCounts::rows),
    ROWS_PER_CALL(c -> perCall(c.rows(), c)),
    READS(StatementCounts::read),
    BLOCKS_PER_CALL(c -> perCall(c.hit() + c.read(), c)),
    TEMPORARY(StatementCounts::temporary);

    final ToDoubleFunction<StatementCounts> of;

    Order(ToDoubleFunction<StatementCounts> of) {
      this.of = of;
    }
  }

  /** What a row is about: what others ran inside of statements stands apart. */
  record Subject(String name, boolean top) {}

  /** One row. */
  static final class Row {
    final Subject subject;
    StatementCounts counts = StatementCounts.NONE;
    final SortedSet<String> users = new TreeSet<>();
    final SortedSet<String> databases = new TreeSet<>();

    Row(Subject subject) {
      this.subject = subject;
    }
  }

  private Ranked() {}

  /**
   * @param field its name, for who gave a word that is none of these
   */
  static <E extends Enum<E>> E of(Class<E> kind, String field, String word) {
    try {
      return Enum.valueOf(kind, word.toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException e) {
      throw Problem.field(
          field,
          "It is one of "
              + Arrays.stream(kind.getEnumConstants())
                  .map(one -> one.name().toLowerCase(Locale.ROOT))
                  .collect(Collectors.joining(", "))
              + ".");
    }
  }

  static Map<Subject, Row> rows(Counted counted, By by) {
    Map<Subject, Row> rows = new HashMap<>();
    counted
        .statements()
        .forEach(
            (key, counts) -> {
              if (by != By.STATEMENT && !key.top()) {
                // it is in the time of who called it
                return;
              }
              Row row = rows.computeIfAbsent(new Subject(by.name.apply(key), key.top()), Row::new);
              row.counts = row.counts.plus(counts);
              row.users.add(key.user());
              row.databases.add(key.database());
            });
    return rows;
  }

  static List<Row> ordered(Map<Subject, Row> rows, Order order) {
    List<Row> all = new ArrayList<>(rows.values());
    all.sort(
        (a, b) -> {
          int more =
              Double.compare(order.of.applyAsDouble(b.counts), order.of.applyAsDouble(a.counts));
          return more != 0 ? more : a.subject.name().compareTo(b.subject.name());
        });
    return all;
  }

  static double perCall(double value, StatementCounts counts) {
    return counts.calls() == 0 ? Double.NaN : value / counts.calls();
  }
}
