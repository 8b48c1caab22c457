package jamjar.store.readings;

import jamjar.store.keeping.Keeping;
import jamjar.store.watching.WatchingMapper;
import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
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
  private static final String SPANS = "span_days";
  private static final String VALUES = "chunk_days";
  private static final String MINUTES = "step_1";
  private static final Duration LEAP = Duration.ofDays(1);
  private static final Duration UNTIL_TRUSTED = Duration.ofDays(7);

  private final SqlSessionFactory factory;
  private final Parts parts;

  Retention(SqlSessionFactory factory) {
    this.factory = factory;
    this.parts = new Parts(factory);
  }

  /**
   * Drops at most one month of each kind of each class.
   *
   * @return how many tables were dropped
   */
  public int run(Instant now, List<Keeping> all) {
    if (all.stream().noneMatch(keeping -> any(keeping, now))) {
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
    return all.stream().mapToInt(keeping -> run(today, keeping)).sum();
  }

  /**
   * A month of a class.
   *
   * @param minutes whether in steps of a minute, else as it was read
   */
  public record Month(YearMonth month, boolean minutes, long bytes) {}

  /** The months that would go if a class were kept so. */
  public List<Month> going(Instant now, Keeping keeping) {
    Instant newest = asked(session -> session.getMapper(ReadingMapper.class).newestSpan());
    if (newest == null) {
      return List.of();
    }
    Instant today = newest.isBefore(now) ? newest : now;
    String spans = of(SPANS, keeping);
    String values = of(VALUES, keeping);
    String minutes = of(MINUTES, keeping);
    return Stream.concat(
            ended(spans, Optional.of(keeping.readingsDays()), today)
                .map(month -> month(month, false, List.of(spans, values))),
            ended(minutes, Optional.ofNullable(keeping.minutesDays()), today)
                .map(month -> month(month, true, List.of(minutes))))
        .toList();
  }

  private Month month(YearMonth month, boolean minutes, List<String> tables) {
    return new Month(
        month, minutes, parts.bytes(tables.stream().map(table -> part(table, month)).toList()));
  }

  private boolean any(Keeping keeping, Instant now) {
    return readings(keeping, now).isPresent() || minutes(keeping, now).isPresent();
  }

  private int run(Instant today, Keeping keeping) {
    int dropped = 0;
    Optional<YearMonth> readings = readings(keeping, today);
    if (readings.isPresent() && allStepped(keeping, readings.get())) {
      dropped += drop(of(SPANS, keeping), readings.get());
    }
    Optional<YearMonth> minutes = minutes(keeping, today);
    if (minutes.isPresent()) {
      dropped += drop(of(MINUTES, keeping), minutes.get());
    }
    return dropped + dropLeft(keeping);
  }

  private Optional<YearMonth> readings(Keeping keeping, Instant today) {
    return ended(of(SPANS, keeping), Optional.of(keeping.readingsDays()), today).findFirst();
  }

  private Optional<YearMonth> minutes(Keeping keeping, Instant today) {
    return ended(of(MINUTES, keeping), Optional.ofNullable(keeping.minutesDays()), today)
        .findFirst();
  }

  private static String of(String days, Keeping keeping) {
    return days + "_" + keeping.keep();
  }

  /** Steps outlive what they were made of: days that have none get theirs before they go. */
  private boolean allStepped(Keeping keeping, YearMonth month) {
    String name = month.format(MONTH);
    try (SqlSession session = factory.openSession(true)) {
      int missing = session.getMapper(ReadingMapper.class).packAgainToStep(keeping.keep(), name);
      if (missing > 0) {
        LOG.info("event=aged-out-later month={} days-without-steps={}", name, missing);
      }
      return missing == 0;
    }
  }

  /** Values of which nobody looks for any more, as their times are gone. */
  private int dropLeft(Keeping keeping) {
    List<String> kept = parts.of(of(SPANS, keeping));
    String values = of(VALUES, keeping);
    return parts.of(values).stream()
        .filter(name -> !kept.contains(name.replace(VALUES, SPANS)))
        .mapToInt(name -> parts.drop(values, name, session -> true) ? 1 : 0)
        .sum();
  }

  private int drop(String table, YearMonth month) {
    return parts.drop(table, part(table, month), session -> true) ? 1 : 0;
  }

  private static String part(String table, YearMonth month) {
    return table + "_" + month.format(MONTH);
  }

  private <T> T asked(Function<SqlSession, T> question) {
    try (SqlSession session = factory.openSession(true)) {
      return question.apply(session);
    }
  }

  /** The months of a table that are over for so many days, the oldest first. */
  private Stream<YearMonth> ended(String table, Optional<Integer> days, Instant today) {
    return days.map(number -> today.minus(number, ChronoUnit.DAYS)).stream()
        .flatMap(
            by ->
                parts.of(table).stream()
                    .map(name -> YearMonth.parse(name.substring(table.length() + 1), MONTH))
                    .filter(month -> ended(month, by)));
  }

  private static boolean ended(YearMonth month, Instant by) {
    return !month.plusMonths(1).atDay(1).atStartOfDay(ZoneOffset.UTC).toInstant().isAfter(by);
  }
}
