package jamjar.store.readings;

import jamjar.store.watching.WatchingMapper;
import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactory;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Drops what is older than is kept, a month as a whole and the oldest first.
 *
 * <p>What is dropped is gone, and a clock may be wrong: age is counted back from the newest reading
 * that is packed, not from now, and nothing is dropped for a week after the clock, or whether it
 * was watched at all, leapt by more than a day.
 */
public final class Retention {
  private static final Logger LOG = LoggerFactory.getLogger(Retention.class);
  private static final DateTimeFormatter MONTH = DateTimeFormatter.ofPattern("yyyyMM");
  private static final Duration LEAP = Duration.ofDays(1);
  private static final Duration UNTIL_TRUSTED = Duration.ofDays(7);

  private final SqlSessionFactory factory;
  private final Parts parts;

  /**
   * How long is kept at least. Steps of 15 minutes are kept for ever.
   *
   * @param readings what was read, as it was read
   * @param minutes steps of a minute
   */
  public record Keep(Duration readings, Duration minutes) {}

  Retention(SqlSessionFactory factory) {
    this.factory = factory;
    this.parts = new Parts(factory);
  }

  /**
   * Drops at most one month of each kind.
   *
   * @return how many tables were dropped
   */
  public int run(Instant now, Keep keep) {
    Optional<YearMonth> readings = ended("span_days", now.minus(keep.readings()));
    Optional<YearMonth> minutes = ended("step_1", now.minus(keep.minutes()));
    if (readings.isEmpty() && minutes.isEmpty()) {
      return 0;
    }
    Instant since = now.minus(UNTIL_TRUSTED);
    Instant newest = asked(session -> session.getMapper(ReadingMapper.class).newestSpan());
    if (newest == null
        || asked(
            session -> session.getMapper(WatchingMapper.class).leapt(since, LEAP.toSeconds()))) {
      return 0;
    }
    Instant today = newest.isBefore(now) ? newest : now;
    int dropped = 0;
    if (readings.filter(month -> ended(month, today.minus(keep.readings()))).isPresent()
        && allStepped(readings.get())) {
      dropped += drop("span_days", readings.get());
    }
    if (minutes.filter(month -> ended(month, today.minus(keep.minutes()))).isPresent()) {
      dropped += drop("step_1", minutes.get());
    }
    return dropped + dropLeft();
  }

  /** Steps outlive what they were made of: days that have none get theirs before they go. */
  private boolean allStepped(YearMonth month) {
    String name = month.format(MONTH);
    try (SqlSession session = factory.openSession(true)) {
      int missing = session.getMapper(ReadingMapper.class).packAgainToStep(name);
      if (missing > 0) {
        LOG.info("event=aged-out-later month={} days-without-steps={}", name, missing);
      }
      return missing == 0;
    }
  }

  /** Values of which nobody looks for any more, as their times are gone. */
  private int dropLeft() {
    List<String> kept = parts.of("span_days");
    return parts.of("chunk_days").stream()
        .filter(name -> !kept.contains(name.replace("chunk", "span")))
        .mapToInt(name -> parts.drop("chunk_days", name, session -> true) ? 1 : 0)
        .sum();
  }

  private int drop(String table, YearMonth month) {
    return parts.drop(table, table + "_" + month.format(MONTH), session -> true) ? 1 : 0;
  }

  private <T> T asked(Function<SqlSession, T> question) {
    try (SqlSession session = factory.openSession(true)) {
      return question.apply(session);
    }
  }

  /** The first month of a table, if it is over by then. */
  private Optional<YearMonth> ended(String table, Instant by) {
    return parts.of(table).stream()
        .findFirst()
        .map(name -> YearMonth.parse(name.substring(table.length() + 1), MONTH))
        .filter(month -> ended(month, by));
  }

  private static boolean ended(YearMonth month, Instant by) {
    return !month.plusMonths(1).atDay(1).atStartOfDay(ZoneOffset.UTC).toInstant().isAfter(by);
  }
}
