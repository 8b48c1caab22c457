package jamjar.collect.postgresql;

import jamjar.collect.Bounds;
import jamjar.collect.ByHand;
import jamjar.collect.CollectFailed;
import jamjar.collect.Collector;
import jamjar.collect.Hidden;
import jamjar.collect.Target;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.SeriesKey;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.SQLTimeoutException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Reads one pace of a PostgreSQL engine, version 13 to 17: one read-only transaction and at most
 * eight queries a reading, sessions and locks first. The fast pace keeps its connection; the slow
 * one gives it back after each reading.
 */
public final class PostgresCollector implements Collector {
  private static final Duration INSPECT_EVERY = Duration.ofMinutes(5);
  private static final String OWN = "own";

  /** All queries of a reading together: each has a time-out of its own, but they add up. */
  private static final long LONGEST_NANOS = 60_000_000_000L;

  private final Target target;
  private final Pace pace;
  private final Clock clock;
  private final OwnCommits own;
  private final List<Query> queries;
  private final boolean keep;
  private final Duration statementTimeout;
  private Connection connection;
  private volatile Abilities abilities;
  private Map<String, String> facts = Map.of();
  private long inspected;
  private double roundTrip = Double.NaN;
  private String leftOut = "";

  private PostgresCollector(
      Target target,
      Pace pace,
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

  /**
   * What of a recipe is read at one pace: queries whose counters nobody wants cost nothing.
   *
   * @param own counts what the collectors of this engine commit themselves
   */
  public static PostgresCollector of(
      Target target, Recipe recipe, Pace pace, OwnCommits own, Clock clock) {
    Set<String> wanted = recipe.groups();
    List<Query> queries =
        Stream.of(
                // what changes while the rest is read comes first
                new SessionsQuery(),
                new LocksQuery(),
                new DatabasesQuery(own),
                new ServerQuery(),
                new ReplicationQuery(),
                new StatementsQuery(clock),
                new SizesQuery(),
                new TableSizesQuery(),
                new TablesQuery(),
                new CertificateQuery(target, clock))
            .filter(query -> wanted.contains(query.group()))
            .filter(query -> recipe.paceOf().get(query.group()) == pace)
            .toList();
    boolean fast = pace == Pace.FAST;
    return new PostgresCollector(
        target, pace, fast, Duration.ofSeconds(fast ? 5 : 30), own, clock, queries);
  }

  @Override
  public RawReading read() throws CollectFailed {
    boolean whole = false;
    try {
      RawReading reading =
          Asking.guarded(
              target,
              this::close,
              () -> {
                connect();
                return take();
              });
      whole = true;
      return reading;
    } finally {
      if (!whole) {
        // what some queries had read by then is not kept
        dropped();
      }
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
  public Optional<CountedStatements> counted() {
    return queries.stream()
        .filter(StatementsQuery.class::isInstance)
        .flatMap(query -> ((StatementsQuery) query).counted().stream())
        .findFirst();
  }

  @Override
  public Map<String, String> facts() {
    if (leftOut.isEmpty()) {
      return facts;
    }
    Map<String, String> all = new HashMap<>(facts);
    all.put(EXCESS, leftOut);
    return all;
  }

  @Override
  public Optional<ByHand> byHand(SeriesKey series) {
    Abilities known = abilities;
    return known == null ? Optional.empty() : QueriesByHand.of(series, target, known);
  }

  private static Map<String, String> told(Abilities abilities) {
    Map<String, String> facts = new HashMap<>();
    abilities
        .settings()
        .forEach((name, value) -> facts.put("settings/" + name, Hidden.value(name, value)));
    facts.put("version", abilities.version());
    facts.put("role", abilities.standby() ? "reader" : "writer");
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
      connection = PostgresConnector.open(target, pace.word(), statementTimeout);
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
      if (System.nanoTime() - began > LONGEST_NANOS) {
        throw new SQLTimeoutException(
            "a reading of more than " + LONGEST_NANOS / 1_000_000_000 + " s is given up");
      }
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
    leftOut = Bounds.cut(sink.values());
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
   * One that has become another is looked at anew with the next reading.
   */
  private long transactionTime() throws SQLException {
    String sql = "select (extract(epoch from now()) * 1000000)::bigint, pg_is_in_recovery()";
    long began = System.nanoTime();
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      row.next();
      roundTrip = (System.nanoTime() - began) / 1e9;
      if (row.getBoolean(2) != abilities.standby()) {
        inspected = System.nanoTime() - INSPECT_EVERY.toNanos();
      }
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
