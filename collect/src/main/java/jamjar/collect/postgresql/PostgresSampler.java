package jamjar.collect.postgresql;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal;
import jamjar.collect.Sampler;
import jamjar.collect.Target;
import jamjar.core.log.Logged;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.StatementText;
import jamjar.core.session.Who;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Takes samples of a PostgreSQL engine, version 13 to 17, each in a transaction of its own: inside
 * one the statistics stand still. Who waits for a lock is asked about its blockers, and what is
 * locked is read only then. The connection is kept, so that sampling goes on when no slot is left.
 */
public final class PostgresSampler implements Sampler {
  private static final Duration STATEMENT_TIMEOUT = Duration.ofSeconds(4);

  private static final Duration TOLD_AGAIN = Duration.ofDays(1);

  /** So many statements are remembered as told. */
  private static final int KNOWN = 5_000;

  private final Target target;
  private final OwnCommits own;
  private final Clock clock;

  /** When each was told last: its text is kept as long as it is told now and then. */
  private final Map<Long, Instant> known =
      new LinkedHashMap<>(16, 0.75f, true) {
        private static final long serialVersionUID = 1L;

        @Override
        protected boolean removeEldestEntry(Map.Entry<Long, Instant> eldest) {
          return size() > KNOWN;
        }
      };

  private final LogReader reader = new LogReader();
  private Optional<ReadLog> log = Optional.empty();
  private Set<Long> lastTold = Set.of();
  private Connection connection;
  private ActivityQuery activity;
  private BlockingQuery blocking;

  /**
   * @param own counts what is committed on this engine by Jam Jar itself
   */
  public PostgresSampler(Target target, OwnCommits own, Clock clock) {
    this.target = target;
    this.own = own;
    this.clock = clock;
  }

  @Override
  public Sampled sample() throws CollectFailed {
    return Asking.guarded(
        target,
        this::close,
        () -> {
          connect();
          Sampled sampled = take();
          readLog(sampled.sample().at());
          return sampled;
        });
  }

  private void connect() throws SQLException, CollectFailed {
    if (connection != null) {
      return;
    }
    connection = PostgresConnector.open(target, "sessions", STATEMENT_TIMEOUT);
    connection.setAutoCommit(false);
    Abilities abilities = Abilities.inspect(connection);
    connection.commit();
    own.one();
    if (!abilities.seesAll()) {
      close();
      throw new CollectFailed(
          new Refusal(
                  Refusal.Reason.NOT_PERMITTED,
                  "sampling the sessions of " + target.address(),
                  "the role " + abilities.role() + " may not see the sessions of others",
                  "Make it a member of pg_monitor.")
              .mendedBy("grant pg_monitor to \"" + abilities.role() + "\";"),
          null);
    }
    activity = new ActivityQuery(connection);
    blocking = new BlockingQuery(connection, abilities);
  }

  private Sampled take() throws SQLException {
    // whoever asks for this moment asks in milliseconds
    Instant at = clock.instant().truncatedTo(ChronoUnit.MILLIS);
    ActivityQuery.Told told = activity.read();
    List<Integer> waiting =
        told.rows().stream()
            .filter(row -> row.waitsFor().kind().equals("Lock"))
            .map(row -> row.who().pid())
            .toList();
    BlockingQuery.Told blocked =
        waiting.isEmpty() ? BlockingQuery.Told.NOBODY : blocking.read(waiting);
    Set<Integer> seen = new HashSet<>();
    told.rows().forEach(row -> seen.add(row.who().pid()));
    List<Integer> missing =
        blocked.blockers().values().stream()
            .flatMap(List::stream)
            .filter(pid -> pid > 0 && !seen.contains(pid))
            .distinct()
            .toList();
    List<ActivityQuery.Row> rows = new ArrayList<>(told.rows());
    if (!missing.isEmpty()) {
      // who blocks while it does nothing, by an advisory lock
      rows.addAll(activity.these(missing));
    }
    List<Sample.Idle> idle = activity.idle(missing);
    connection.commit();
    own.one();
    Map<Long, String> texts = new HashMap<>();
    List<Session> sessions = new ArrayList<>();
    for (ActivityQuery.Row row : rows) {
      sessions.add(session(row, at, blocked, texts));
    }
    blocked.prepared().forEach(prepared -> sessions.add(session(prepared, blocked)));
    lastTold = Set.copyOf(texts.keySet());
    // where nobody does anything no age is told either
    long engineAt = told.engineAt() > 0 ? told.engineAt() : at.toEpochMilli();
    return new Sampled(new Sample(at, engineAt, sessions, idle, blocked.locks()), texts);
  }

  /** What a superuser runs, so that a role may read the engine's own log and no other file. */
  public static String mayReadLog(String role) {
    return LogReader.mayReadLog(role);
  }

  /** That it can't be read takes nothing from the sample. */
  private void readLog(Instant at) throws SQLException {
    log = Optional.empty();
    if (!reader.isDue(at)) {
      return;
    }
    try {
      log = reader.read(connection, at);
      connection.commit();
      own.one();
    } catch (SQLException e) {
      connection.rollback();
      reader.failed(at);
      String why = PostgresRefusals.of(target, e).sentence();
      log = Optional.of(new ReadLog(Optional.empty(), Map.of(), why));
    }
  }

  @Override
  public Optional<ReadLog> log() {
    return log;
  }

  @Override
  public void readOnFrom(Logged last) {
    reader.from(last);
  }

  private Session session(
      ActivityQuery.Row row, Instant at, BlockingQuery.Told blocked, Map<Long, String> texts) {
    StatementText text = row.sql().isBlank() ? null : StatementText.of(row.sql());
    if (text != null) {
      Instant told = known.get(text.fingerprint());
      if (told == null || Duration.between(told, at).compareTo(TOLD_AGAIN) > 0) {
        known.put(text.fingerprint(), at);
        texts.put(text.fingerprint(), text.text());
      }
    }
    return new Session(
        row.who(),
        row.state(),
        row.waitsFor(),
        text == null ? 0 : text.fingerprint(),
        text == null ? "" : text.module(),
        new Session.Since(
            row.since().state(),
            row.since().statement(),
            row.since().transaction(),
            blocked.since().getOrDefault(row.who().pid(), 0L)),
        row.leader(),
        row.holds(),
        blocked.blockers().getOrDefault(row.who().pid(), List.of()));
  }

  private static Session session(BlockingQuery.Prepared prepared, BlockingQuery.Told blocked) {
    return new Session(
        new Who(
            prepared.pid(),
            prepared.since(),
            Who.Kind.PREPARED,
            prepared.owner(),
            prepared.gid(),
            prepared.database(),
            ""),
        Session.State.PREPARED,
        Session.Wait.NONE,
        0,
        "",
        new Session.Since(prepared.since(), 0, prepared.since(), 0),
        0,
        Session.XID,
        blocked.blockers().getOrDefault(prepared.pid(), List.of()));
  }

  @Override
  public void dropped() {
    lastTold.forEach(known::remove);
    lastTold = Set.of();
    if (log.isPresent()) {
      reader.notKept();
    }
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
}
