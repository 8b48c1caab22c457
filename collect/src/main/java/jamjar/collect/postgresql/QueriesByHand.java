package jamjar.collect.postgresql;

import jamjar.collect.ByHand;
import jamjar.collect.Target;
import jamjar.core.reading.SeriesKey;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * For each counter a small query that gives its raw value, to be run by a person over there. What
 * is read reads many at once; these say the same of one. Names in braces are the series' labels.
 */
final class QueriesByHand {
  private static final String OTHERS = "coalesce(application_name, '') not like 'jamjar%'";
  private static final String CLIENTS =
      "from pg_stat_activity where backend_type = 'client backend' and " + OTHERS;

  private static final String COUNT = "select count(*) " + CLIENTS;
  private static final String SELF = " and pid <> pg_backend_pid()";
  private static final String HOLDS =
      "case when backend_xid is not null then 'changes' when backend_xmin is not null"
          + " then 'a snapshot' else 'locks or nothing' end";

  private static final String SNAPSHOTS =
      """
      (select case when backend_type = 'walsender' then 'standby' else 'session' end as owner,
          greatest(age(backend_xmin), age(backend_xid)) as age from pg_stat_activity
        union all select 'slot', greatest(age(xmin), age(catalog_xmin)) from pg_replication_slots
        union all select 'prepared transaction', age(transaction) from pg_prepared_xacts) s\
      """;

  private static final String HERE =
      "case when pg_is_in_recovery() then pg_last_wal_receive_lsn() else pg_current_wal_lsn() end";

  private static final String TABLES = " from pg_stat_all_tables";

  /** What the statistics of statements hold of all roles but this one. */
  private static final String STATEMENTS =
      " from {schema}.pg_stat_statements(false)"
          + " where userid <> (select oid from pg_roles where rolname = {role})";

  private static final Map<String, String> SQL = queries();

  private QueriesByHand() {}

  private static Map<String, String> queries() {
    Map<String, String> all = new HashMap<>();
    // who asks is a session as well: one that is idle whenever it is looked at
    all.put("sessions.total", COUNT);
    all.put("sessions.active", COUNT + SELF + " and state = 'active'");
    all.put(
        "sessions.active_not_waiting",
        COUNT + SELF + " and state = 'active' and wait_event_type is null");
    all.put(
        "sessions.waiting", COUNT + SELF + " and state = 'active' and wait_event_type is not null");
    all.put(
        "sessions.waiting[wait]",
        COUNT + SELF + " and state = 'active' and wait_event_type = {wait}");
    all.put("sessions.waiting_lock", COUNT + " and state = 'active' and wait_event_type = 'Lock'");
    all.put("sessions.idle", COUNT + " and (state = 'idle' or pid = pg_backend_pid())");
    all.put("sessions.idle_in_transaction", COUNT + " and state = 'idle in transaction'");
    all.put(
        "sessions.idle_in_failed_transaction",
        COUNT + " and state = 'idle in transaction (aborted)'");
    all.put(
        "sessions.other",
        COUNT
            + " and coalesce(state, '') not in ('active', 'idle', 'idle in transaction',"
            + " 'idle in transaction (aborted)')");
    all.put(
        "sessions.workers",
        "select count(*) from pg_stat_activity where backend_type = 'parallel worker'");
    all.put("sessions.longest_transaction", oldest("xact_start", "true"));
    all.put("sessions.longest_statement", oldest("query_start", "state = 'active'"));
    all.put(
        "sessions.longest_idle_in_transaction",
        oldest("state_change", "state like 'idle in transaction%'"));
    all.put(
        "sessions.idle_holding[holds]",
        COUNT + " and state like 'idle in transaction%' and " + HOLDS + " = {holds}");
    all.put("transactions.oldest_snapshot", "select coalesce(max(age), 0) from " + SNAPSHOTS);
    all.put(
        "transactions.snapshot_held[owner]",
        "select coalesce(max(age), 0) from " + SNAPSHOTS + " where owner = {owner}");
    all.put("transactions.prepared", "select count(*) from pg_prepared_xacts");
    all.put(
        "transactions.oldest_prepared",
        "select coalesce(max(extract(epoch from clock_timestamp() - prepared)), 0)"
            + " from pg_prepared_xacts");
    all.put(
        "connections.used",
        "select count(*) from pg_stat_activity where backend_type = 'client backend'");
    all.put("connections.maximum", "select current_setting('max_connections')::int");
    all.put(
        "connections.usable",
        "select current_setting('max_connections')::int"
            + " - current_setting('superuser_reserved_connections')::int"
            + " - coalesce(current_setting('reserved_connections', true)::int, 0)");
    all.put(
        "own.sessions",
        "select count(*) from pg_stat_activity where backend_type = 'client backend'"
            + " and application_name like 'jamjar%'");
    all.put("locks.waiters", "select count(*) from pg_locks where not granted");
    all.put(
        "locks.oldest_wait",
        "select coalesce(max(extract(epoch from clock_timestamp() - waitstart)), 0) from pg_locks"
            + " where not granted");
    all.put(
        "locks.held[mode]",
        "select count(*) from pg_locks where granted and mode = {mode}"
            + " and pid is distinct from pg_backend_pid()");
    all.put(
        "vacuum.age[database]",
        "select age(datfrozenxid) from pg_database where datname = {database}");
    all.put(
        "vacuum.multixact_age[database]",
        "select mxid_age(datminmxid) from pg_database where datname = {database}");
    addReplication(all);
    all.put("statements.calls", "select sum(calls)" + STATEMENTS);
    all.put("statements.time", "select sum(round(total_exec_time * 1000)::bigint)" + STATEMENTS);
    all.put("statements.rows", "select sum(rows)" + STATEMENTS);
    all.put("statements.blocks_read", "select sum(shared_blks_read)" + STATEMENTS);
    all.put("statements.temporary_blocks", "select sum(temp_blks_written)" + STATEMENTS);
    all.put("statements.entries", "select count(*) from {schema}.pg_stat_statements(false)");
    all.put("statements.evicted", "select dealloc from {schema}.pg_stat_statements_info");
    all.put(
        "own.statement_time",
        "select sum(round(total_exec_time * 1000)::bigint)" + STATEMENTS.replace("<>", "="));
    all.put("size.database[database]", "select pg_database_size({database})");
    all.put("size.tablespace[tablespace]", "select pg_tablespace_size({tablespace})");
    all.put("size.table[table]", "select pg_total_relation_size({table}::regclass)");
    all.put("tables.sequential_scans", "select sum(seq_scan)" + TABLES);
    all.put("tables.index_scans", "select sum(idx_scan)" + TABLES);
    all.put("tables.live_rows", "select sum(n_live_tup)" + TABLES);
    all.put("tables.dead_rows", "select sum(n_dead_tup)" + TABLES);
    all.put("tables.vacuums", "select sum(vacuum_count + autovacuum_count)" + TABLES);
    all.put("tables.analyses", "select sum(analyze_count + autoanalyze_count)" + TABLES);
    return all;
  }

  private static void addReplication(Map<String, String> all) {
    all.put(
        "replication.standbys",
        "select count(*) from pg_stat_replication where backend_start is not null");
    all.put(
        "replication.behind_bytes[standby]",
        "select pg_wal_lsn_diff("
            + HERE
            + ", replay_lsn) from pg_stat_replication"
            + " where coalesce(nullif(application_name, ''), client_addr::text, pid::text)"
            + " = {standby}");
    all.put(
        "replication.replay_delay",
        "select case when not pg_is_in_recovery()"
            + " or pg_last_wal_receive_lsn() = pg_last_wal_replay_lsn()"
            + " and exists (select from pg_stat_wal_receiver where status = 'streaming') then 0"
            + " else extract(epoch from clock_timestamp() - pg_last_xact_replay_timestamp()) end");
    all.put(
        "replication.streaming",
        "select count(*) from pg_stat_wal_receiver where status = 'streaming'");
    all.put(
        "replication.slot_kept_bytes[slot]",
        "select pg_wal_lsn_diff("
            + HERE
            + ", restart_lsn) from pg_replication_slots"
            + " where slot_name = {slot}");
    all.put(
        "replication.slots_unused", "select count(*) from pg_replication_slots where not active");
    all.put(
        "replication.slots_lost",
        "select count(*) from pg_replication_slots where wal_status in ('lost', 'unreserved')");
  }

  private static String oldest(String since, String where) {
    return "select coalesce(max(extract(epoch from clock_timestamp() - "
        + since
        + ")), 0) "
        + CLIENTS
        + SELF
        + " and "
        + where;
  }

  /** Empty for what the collector counts itself. */
  static Optional<ByHand> of(SeriesKey series, Target target, Abilities abilities) {
    if (series.counter().equals("certificate.left")) {
      return Optional.of(
          new ByHand(
              "a command; what is left is the time until then",
              "openssl s_client -starttls postgres -connect '"
                  + target.host().replace("'", "'\\''")
                  + ":"
                  + target.port()
                  + "' </dev/null | openssl x509 -noout -enddate"));
    }
    if (!isThere(series.counter(), abilities)) {
      return Optional.empty();
    }
    String labels = series.labels().isEmpty() ? "" : series.labels().keySet().toString();
    return Optional.ofNullable(SQL.get(series.counter() + labels))
        .or(() -> column(series, abilities))
        .map(sql -> filled(sql, series, abilities))
        .map(sql -> new ByHand(how(series, abilities), sql + ";"));
  }

  /** What is read of an earlier version in another way, or is none of it. */
  private static boolean isThere(String counter, Abilities abilities) {
    return switch (counter) {
      case "locks.oldest_wait" -> abilities.has("pg_locks", "waitstart");
      case "statements.evicted" -> abilities.has("pg_stat_statements_info", "dealloc");
      default -> true;
    };
  }

  private static String how(SeriesKey series, Abilities abilities) {
    String how = "SQL, in database " + abilities.database();
    return series.counter().equals(OwnCommits.COMMITTED)
        ? how + "; Jam Jar's own commits, which are counted apart, are among these"
        : how;
  }

  /** What stands in a column of a statistics view. */
  private static Optional<String> column(SeriesKey series, Abilities abilities) {
    Optional<ViewColumn> column =
        Stream.concat(DatabasesQuery.TOTALS.stream(), ServerQuery.TOTALS.stream())
            .filter(place -> place.counter().equals(series.counter()) && place.in(abilities))
            .findFirst();
    return column.map(
        place -> {
          String value = place.expression("v");
          boolean ofDatabases = DatabasesQuery.TOTALS.contains(place);
          if (!ofDatabases) {
            return "select " + value + " from " + place.view() + " v";
          }
          return series.labels().isEmpty()
              ? "select sum(" + value + ") from pg_stat_database v where datname is not null"
              : "select " + value + " from pg_stat_database v where datname = {database}";
        });
  }

  private static String filled(String sql, SeriesKey series, Abilities abilities) {
    String filled = sql.replace("{role}", quoted(abilities.role()));
    filled =
        filled.replace(
            "{schema}", PostgresRefusals.quoted(abilities.statementsSchema().orElse("public")));
    for (Map.Entry<String, String> label : series.labels().entrySet()) {
      filled = filled.replace("{" + label.getKey() + "}", quoted(label.getValue()));
    }
    return filled;
  }

  /**
   * A text that the target told, to be run there by a person: it stays a text, however it reads
   * backslashes.
   */
  private static String quoted(String text) {
    String inside = text.replace("'", "''");
    return inside.contains("\\") ? "E'" + inside.replace("\\", "\\\\") + "'" : "'" + inside + "'";
  }
}
