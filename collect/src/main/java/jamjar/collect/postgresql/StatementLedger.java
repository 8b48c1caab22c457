package jamjar.collect.postgresql;

import jamjar.collect.Bounds;
import jamjar.collect.Collector.CountedStatements;
import jamjar.core.session.StatementText;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Adds up what the statements of an engine did, one by one, and tells it by the minute. Texts are
 * fetched only of those not seen yet, and once a day, so that they stay known.
 */
final class StatementLedger {
  /** Columns of an entry: calls, µs, rows, blocks read, blocks written to temporary files, hit. */
  static final int WIDTH = 6;

  private static final Logger LOG = LoggerFactory.getLogger(StatementLedger.class);

  /** So many are kept one by one in a minute, the most time first. */
  private static final int MOST = 2_000;

  /** So many texts are fetched at once. */
  private static final int MOST_TEXTS = 500;

  /** So many entries are known by name. */
  private static final int KNOWN = 8_000;

  /** So much of a text is looked at. */
  private static final int LONGEST = 10_000;

  private static final Duration TOLD_AGAIN = Duration.ofDays(1);

  /** Reading texts may take long where they fill a large file: after a failure it waits. */
  private static final Duration AFTER_FAILURE = Duration.ofMinutes(15);

  /** What the engine tells one entry from another by. */
  record Entry(long user, long database, long query, boolean top) {}

  private record Name(StatementKey key, Instant told) {}

  private final Map<Entry, long[]> counted = new HashMap<>();
  private final Map<Entry, Name> names =
      new LinkedHashMap<>(16, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Entry, Name> eldest) {
          return size() > KNOWN;
        }
      };

  private Instant since;
  private long droppedBefore;
  private long evicted;
  private Instant notBefore = Instant.EPOCH;
  private Optional<CountedStatements> ready = Optional.empty();
  private Optional<CountedStatements> handed = Optional.empty();

  /**
   * A reading was taken; what increased in it was added before.
   *
   * @param first whether nothing is known of before it
   * @param dropped how often the engine dropped entries since its start
   * @return whether a minute is over
   */
  boolean read(Instant at, boolean first, long dropped) {
    // the last one that was handed out is kept by now
    handed = Optional.empty();
    if (first || since == null || at.isBefore(since)) {
      counted.clear();
      since = at;
      evicted = 0;
    } else {
      evicted += Math.max(0, dropped - droppedBefore);
    }
    droppedBefore = dropped;
    return ready.isEmpty() && minute(at).isAfter(minute(since));
  }

  private static Instant minute(Instant at) {
    return at.truncatedTo(ChronoUnit.MINUTES);
  }

  /** What an entry increased by since the reading before. */
  void add(Entry entry, long[] increase) {
    counted.merge(
        entry,
        increase,
        (a, b) -> {
          long[] sum = new long[WIDTH];
          for (int i = 0; i < WIDTH; i++) {
            sum[i] = a[i] + b[i];
          }
          return sum;
        });
  }

  /** Ends the minute, with the names and texts that are not known yet. */
  void end(Instant at, Connection connection, String schema, String top) throws SQLException {
    Map<Long, String> texts = name(at, connection, schema, top);
    SortedMap<StatementKey, StatementCounts> all = new TreeMap<>();
    List<Map.Entry<Entry, long[]>> longest =
        counted.entrySet().stream()
            .sorted(Comparator.comparingLong((Map.Entry<Entry, long[]> e) -> -e.getValue()[1]))
            .toList();
    for (int i = 0; i < longest.size(); i++) {
      Entry entry = longest.get(i).getKey();
      Name name = i < MOST ? names.get(entry) : null;
      StatementKey key = name == null ? StatementKey.others(entry.top()) : name.key();
      long[] n = longest.get(i).getValue();
      all.merge(
          key, new StatementCounts(n[0], n[1], n[2], n[5], n[3], n[4]), StatementCounts::plus);
    }
    Instant until = at.truncatedTo(ChronoUnit.MILLIS);
    long elapsed = Duration.between(since, at).toMillis();
    ready = Optional.of(new CountedStatements(new Counted(until, elapsed, evicted, all), texts));
    counted.clear();
    evicted = 0;
    since = at;
  }

  private Map<Long, String> name(Instant at, Connection connection, String schema, String top)
      throws SQLException {
    long[] missing =
        counted.entrySet().stream()
            .filter(e -> isToBeTold(e.getKey(), at))
            .sorted(Comparator.comparingLong((Map.Entry<Entry, long[]> e) -> -e.getValue()[1]))
            .limit(MOST_TEXTS)
            .mapToLong(e -> e.getKey().query())
            .distinct()
            .toArray();
    if (missing.length == 0 || at.isBefore(notBefore)) {
      return Map.of();
    }
    Savepoint before = connection.setSavepoint();
    try {
      Map<Long, String> texts = fetch(at, connection, schema, top, missing);
      connection.releaseSavepoint(before);
      return texts;
    } catch (SQLException e) {
      // what was counted stands without: it is told by name later
      connection.rollback(before);
      notBefore = at.plus(AFTER_FAILURE);
      LOG.warn("event=texts-not-read why=\"{}\"", e.getMessage());
      return Map.of();
    }
  }

  private boolean isToBeTold(Entry entry, Instant at) {
    Name name = names.get(entry);
    return name == null || Duration.between(name.told(), at).compareTo(TOLD_AGAIN) > 0;
  }

  private Map<Long, String> fetch(
      Instant at, Connection connection, String schema, String top, long[] queries)
      throws SQLException {
    String sql =
        "select s.userid::oid::bigint, s.dbid::oid::bigint, coalesce(s.queryid, 0), "
            + top
            + ", left(s.query, "
            + LONGEST
            + "), pg_get_userbyid(s.userid), coalesce((select d.datname from pg_database d where"
            + " d.oid = s.dbid), '') from "
            + schema
            + ".pg_stat_statements(true) s where coalesce(s.queryid, 0) = any(?)";
    Map<Long, String> texts = new HashMap<>();
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      Long[] wanted = new Long[queries.length];
      for (int i = 0; i < wanted.length; i++) {
        wanted[i] = queries[i];
      }
      statement.setArray(1, connection.createArrayOf("int8", wanted));
      statement.setMaxRows(10 * MOST_TEXTS);
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          Entry entry =
              new Entry(rows.getLong(1), rows.getLong(2), rows.getLong(3), rows.getBoolean(4));
          String sent = rows.getString(5);
          if (sent == null || !counted.containsKey(entry)) {
            continue;
          }
          StatementText text =
              StatementText.of(sent.substring(0, Math.min(sent.length(), LONGEST)));
          names.put(
              entry,
              new Name(
                  new StatementKey(
                      Bounds.label(rows.getString(6)).intern(),
                      Bounds.label(rows.getString(7)).intern(),
                      text.fingerprint(),
                      entry.top()),
                  at));
          texts.put(text.fingerprint(), text.text().replace("\0", ""));
        }
      }
    }
    return texts;
  }

  /** What was counted in the time that is over; told once. */
  Optional<CountedStatements> told() {
    handed = ready;
    ready = Optional.empty();
    return handed;
  }

  /** What was told last was not kept: it is told again. */
  void notKept() {
    if (handed.isPresent()) {
      ready = handed;
      handed = Optional.empty();
    }
  }
}
