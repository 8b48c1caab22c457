package jamjar.collect.postgresql;

import jamjar.collect.CollectFailed;
import jamjar.collect.Collector;
import jamjar.collect.Hidden;
import jamjar.collect.Target;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawReading;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Reads one pace of a PostgreSQL engine, version 13 to 17: one read-only transaction and at most
 * eight queries a reading, sessions and locks first. The fast pace keeps its connection; the slow
 * one gives it back after each reading.
 */
public final class PostgresCollector implements Collector {
  private static final Duration INSPECT_EVERY = Duration.ofMinutes(5);
  private static final String OWN = "own";

  private final Target target;
  private final String pace;
  private final Clock clock;
  private final OwnCommits own;
  private final List<Query> queries;
  private final boolean keep;
  private final Duration statementTimeout;
  private Connection connection;
  private Abilities abilities;
  private Map<String, String> facts = Map.of();
  private long inspected;
  private double roundTrip = Double.NaN;

  private PostgresCollector(
      Target target,
      String pace,
      boolean keep,
      Duration statementTimeout,
      OwnCommits own,
      Clock clock,
      List<Query> queries) {
    this.target = target;
    this.pace = pace;
    this.keep = keep;
    this.statementTimeout = statementTimeout;
    this.own = own;
    this.clock = clock;
    this.queries = queries;
  }

  /** Sessions, locks, transactions and all else that moves fast. */
  public static PostgresCollector fast(Target target, OwnCommits own, Clock clock) {
    return new PostgresCollector(
        target,
        "fast",
        true,
        Duration.ofSeconds(5),
        own,
        clock,
        List.of(
            new SessionsQuery(),
            new LocksQuery(),
            new DatabasesQuery(own),
            new ServerQuery(),
            new ReplicationQuery(),
            new StatementsQuery()));
  }

  /** Sizes, tables and the certificate. */
  public static PostgresCollector slow(Target target, OwnCommits own, Clock clock) {
    return new PostgresCollector(
        target,
        "slow",
        false,
        Duration.ofSeconds(30),
        own,
        clock,
        List.of(
            new SizesQuery(),
            new TableSizesQuery(),
            new TablesQuery(),
            new CertificateQuery(target, clock)));
  }

  /** The same without the queries of groups that nobody wants: they cost nothing then. */
  public PostgresCollector onlyFor(Set<String> groups) {
    List<Query> wanted = queries.stream().filter(q -> groups.contains(q.group())).toList();
    return new PostgresCollector(target, pace, keep, statementTimeout, own, clock, wanted);
  }

  @Override
  public RawReading read() throws CollectFailed {
    try {
      connect();
      return take();
    } catch (SQLException e) {
      close();
      throw new CollectFailed(PostgresRefusals.of(target, e), e);
    } finally {
      if (!keep) {
        close();
      }
    }
  }

  @Override
  public void dropped() {
    queries.forEach(Query::forget);
  }

  @Override
  public Map<String, String> facts() {
    return facts;
  }

  private static Map<String, String> told(Abilities abilities) {
    Map<String, String> facts = new HashMap<>();
    abilities
        .settings()
        .forEach((name, value) -> facts.put("settings/" + name, Hidden.value(name, value)));
    facts.put("version", abilities.version());
    facts.put("started", Long.toString(abilities.start() / 1000));
    if (!abilities.waiting().isEmpty()) {
      facts.put(RESTART, String.join(", ", abilities.waiting()));
    }
    return facts;
  }

  @Override
  public double roundTrip() {
    return roundTrip;
  }

  @Override
  public void close() {
    if (connection != null) {
      try {
        connection.close();
      } catch (SQLException e) {
        // it is given up either way
      }
      connection = null;
    }
  }

  private void connect() throws SQLException, CollectFailed {
    boolean stale = System.nanoTime() - inspected > INSPECT_EVERY.toNanos();
    if (connection == null) {
      connection = PostgresConnector.open(target, pace, statementTimeout);
      connection.setAutoCommit(false);
      stale = true;
    }
    if (stale || abilities == null) {
      abilities = Abilities.inspect(connection);
      facts = told(abilities);
      commit();
      inspected = System.nanoTime();
    }
  }

  private RawReading take() throws SQLException {
    long began = System.nanoTime();
    Instant at = clock.instant();
    Sink sink = new Sink();
    Set<String> complete = new HashSet<>();
    Map<String, WhyNothing> failed = new HashMap<>();
    long sourceMicros = RawReading.NO_CLOCK;
    int sent = 0;
    for (Query query : queries) {
      Optional<WhyNothing> not = query.notTried(abilities);
      if (not.isPresent()) {
        failed.put(query.group(), not.get());
        continue;
      }
      int before = sink.size();
      try {
        sent++;
        query.read(connection, abilities, sink);
        complete.add(query.group());
      } catch (SQLException e) {
        sink.backTo(before);
        failed.put(query.group(), why(e));
        // what failed took the transaction with it: the rest is read in a new one
        connection.rollback();
      }
      if (sourceMicros == RawReading.NO_CLOCK) {
        sourceMicros = transactionTime();
      }
    }
    if (complete.isEmpty() && sent > 0 && sent == queries.size()) {
      throw new SQLException("no query of the reading was answered");
    }
    long ownBefore = own.soFar();
    commit();
    if (keep) {
      sink.level("own.reading_time", (System.nanoTime() - began) / 1e9);
      sink.level("own.queries", sent + 1);
      sink.total(OwnCommits.OWN, ownBefore, 0);
      complete.add(OWN);
    }
    return new RawReading(
        at, sourceMicros, began, abilities.start(), complete, failed, sink.values());
  }

  /**
   * The engine's clock at the start of the transaction: when its statistics were first looked at.
   */
  private long transactionTime() throws SQLException {
    String sql = "select (extract(epoch from now()) * 1000000)::bigint";
    long began = System.nanoTime();
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      row.next();
      roundTrip = (System.nanoTime() - began) / 1e9;
      return row.getLong(1);
    }
  }

  private void commit() throws SQLException {
    connection.commit();
    own.one();
  }

  /**
   * A query that was refused or timed out leaves the others alone; anything else ends the reading.
   */
  private static WhyNothing why(SQLException failure) throws SQLException {
    return switch (java.util.Objects.requireNonNullElse(failure.getSQLState(), "")) {
      case "42501" -> WhyNothing.NOT_PERMITTED;
      case "55000" -> WhyNothing.NOT_SWITCHED_ON;
      case "42P01", "42883", "42703", "0A000" -> WhyNothing.NONE_THERE;
      case "55P03", "57014" -> WhyNothing.CUT_OFF;
      default -> throw failure;
    };
  }
}
