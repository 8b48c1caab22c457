package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/** Sessions by state and kind of wait, and the ages that matter, by the engine's clock. */
final class SessionsQuery implements Query {
  private static final List<String> WAITS =
      List.of(
          "Lock", "LWLock", "IO", "IPC", "Client", "Timeout", "BufferPin", "Extension", "Activity");

  /** What a transaction that is idle can hold; what it locks stands in another view. */
  private static final List<String> HELD = List.of("changes", "a snapshot", "locks or nothing");

  private static final String SQL =
      """
      select coalesce(backend_type, ''), coalesce(state, ''), coalesce(wait_event_type, ''),
        coalesce(application_name, '') like 'jamjar%' as own, count(*),
        max(extract(epoch from clock_timestamp() - xact_start)),
        max(extract(epoch from clock_timestamp() - query_start)),
        max(extract(epoch from clock_timestamp() - state_change)),
        max(greatest(age(backend_xmin), age(backend_xid))),
        (select max(greatest(age(xmin), age(catalog_xmin))) from pg_replication_slots),
        (select max(age(transaction)) from pg_prepared_xacts),
        (select count(*) from pg_prepared_xacts),
        (select max(extract(epoch from clock_timestamp() - prepared)) from pg_prepared_xacts),
        case when backend_xid is not null then 'changes' when backend_xmin is not null then 'a snapshot'
          else 'locks or nothing' end as holds
      from pg_stat_activity
      group by 1, 2, 3, 4, 14
      """;

  @Override
  public String group() {
    return "sessions";
  }

  @Override
  public Optional<WhyNothing> notTried(Abilities abilities) {
    if (!abilities.seesAll()) {
      return Optional.of(WhyNothing.NOT_PERMITTED);
    }
    return abilities.on("track_activities")
        ? Optional.empty()
        : Optional.of(WhyNothing.NOT_SWITCHED_ON);
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    Seen seen = new Seen();
    try (PreparedStatement statement = connection.prepareStatement(SQL);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        seen.add(rows);
      }
    }
    seen.tell(sink);
    int maximum = setting(abilities, "max_connections");
    sink.level("connections.maximum", maximum);
    // the last ones are kept for superusers, and from 16 on for a role
    sink.level(
        "connections.usable",
        maximum
            - setting(abilities, "superuser_reserved_connections")
            - setting(abilities, "reserved_connections"));
  }

  private static int setting(Abilities abilities, String name) {
    return Integer.parseInt(abilities.settings().getOrDefault(name, "0"));
  }

  private static final class Seen {
    private final Map<String, Integer> waiting = new LinkedHashMap<>();
    private final Map<String, Integer> idleHolding = new LinkedHashMap<>();
    private final Map<String, Double> snapshots = new LinkedHashMap<>();
    private int total;
    private int active;
    private int running;
    private int idle;
    private int inTransaction;
    private int inFailed;
    private int other;
    private int workers;
    private int own;
    private double longestTransaction;
    private double longestStatement;
    private double longestIdle;
    private double prepared;
    private double oldestPrepared;

    Seen() {
      WAITS.forEach(wait -> waiting.put(wait, 0));
      HELD.forEach(held -> idleHolding.put(held, 0));
    }

    void add(ResultSet row) throws SQLException {
      String type = row.getString(1);
      int count = row.getInt(5);
      // what a standby tells its writer to keep stands with who sends it the log
      snapshot("walsender".equals(type) ? "standby" : "session", row.getDouble(9));
      snapshot("slot", row.getDouble(10));
      snapshot("prepared transaction", row.getDouble(11));
      prepared = row.getDouble(12);
      oldestPrepared = row.getDouble(13);
      if ("parallel worker".equals(type)) {
        workers += count;
      }
      if (!"client backend".equals(type)) {
        return;
      }
      if (row.getBoolean(4)) {
        own += count;
        return;
      }
      total += count;
      longestTransaction = Math.max(longestTransaction, row.getDouble(6));
      String state = row.getString(2);
      switch (state) {
        case "active" -> {
          active += count;
          longestStatement = Math.max(longestStatement, row.getDouble(7));
          String wait = row.getString(3);
          if (wait.isEmpty()) {
            running += count;
          } else {
            waiting.merge(wait, count, Integer::sum);
          }
        }
        case "idle" -> idle += count;
        case "idle in transaction" -> inTransaction += count;
        case "idle in transaction (aborted)" -> inFailed += count;
        default -> other += count;
      }
      if (state.startsWith("idle in transaction")) {
        longestIdle = Math.max(longestIdle, row.getDouble(8));
        idleHolding.merge(row.getString(14), count, Integer::sum);
      }
    }

    private void snapshot(String owner, double age) {
      snapshots.merge(owner, age, Math::max);
    }

    void tell(Sink sink) {
      sink.level("sessions.total", total);
      sink.level("sessions.active", active);
      sink.level("sessions.active_not_waiting", running);
      sink.level("sessions.idle", idle);
      sink.level("sessions.idle_in_transaction", inTransaction);
      sink.level("sessions.idle_in_failed_transaction", inFailed);
      sink.level("sessions.other", other);
      sink.level("sessions.workers", workers);
      sink.level("sessions.waiting_lock", Objects.requireNonNullElse(waiting.get("Lock"), 0));
      waiting.forEach((wait, count) -> sink.level("sessions.waiting", "wait", wait, count));
      sink.level("sessions.longest_transaction", longestTransaction);
      sink.level("sessions.longest_statement", longestStatement);
      sink.level("sessions.longest_idle_in_transaction", longestIdle);
      idleHolding.forEach(
          (held, count) -> sink.level("sessions.idle_holding", "holds", held, count));
      snapshots.forEach(
          (owner, age) -> sink.level("transactions.snapshot_held", "owner", owner, age));
      sink.level("transactions.oldest_snapshot", Collections.max(snapshots.values()));
      sink.level("transactions.prepared", prepared);
      sink.level("transactions.oldest_prepared", oldestPrepared);
      sink.level("connections.used", total + own);
      sink.level("own.sessions", own);
    }
  }
}
