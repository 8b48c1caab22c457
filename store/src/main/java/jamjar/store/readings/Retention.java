package jamjar.store.readings;

import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import org.apache.ibatis.session.SqlSessionFactory;

/** Drops what is older than is kept, a month as a whole. */
public final class Retention {
  private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("yyyyMM");

  private final Parts parts;

  /**
   * How long is kept at least. Steps of 15 minutes are kept for ever.
   *
   * @param readings what was read, as it was read
   * @param minutes steps of a minute
   */
  public record Keep(Duration readings, Duration minutes) {}

  Retention(SqlSessionFactory factory) {
    this.parts = new Parts(factory);
  }

  /**
   * @return how many tables were dropped
   */
  public int run(Instant now, Keep keep) {
    Instant readings = now.minus(keep.readings());
    // nobody looks for values whose times are gone
    return drop("span_days", readings)
        + drop("chunk_days", readings)
        + drop("step_1", now.minus(keep.minutes()));
  }

  private int drop(String table, Instant until) {
    int dropped = 0;
    List<String> all = parts.of(table);
    for (String name : all) {
      YearMonth month = YearMonth.parse(name.substring(table.length() + 1), MONTH);
      Instant end = month.plusMonths(1).atDay(1).atStartOfDay(ZoneOffset.UTC).toInstant();
      if (!end.isAfter(until) && parts.drop(table, name, session -> true)) {
        dropped++;
      }
    }
    return dropped;
  }
}
