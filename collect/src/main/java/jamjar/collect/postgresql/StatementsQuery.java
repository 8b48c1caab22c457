package jamjar.collect.postgresql;

import jamjar.collect.Collector.CountedStatements;
import jamjar.collect.postgresql.StatementLedger.Entry;
import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.EntryIncreases;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Calls and time over all statements, added up entry by entry because the engine may drop the rare
 * ones, and by the minute one by one. Statements of this role are its own cost.
 */
final class StatementsQuery implements Query {
  private static final List<String> COUNTERS =
      List.of(
          "statements.calls",
          "statements.time",
          "statements.rows",
          "statements.blocks_read",
          "statements.temporary_blocks");

  private final EntryIncreases<Entry> others = new EntryIncreases<>(StatementLedger.WIDTH);
  private final EntryIncreases<Entry> own = new EntryIncreases<>(StatementLedger.WIDTH);
  private final StatementLedger ledger = new StatementLedger();
  private final Clock clock;
  private boolean dropped;

  StatementsQuery(Clock clock) {
    this.clock = clock;
  }

  @Override
  public String group() {
    return "statements";
  }

  @Override
  public Optional<WhyNothing> notTried(Abilities abilities) {
    if (abilities.statementsSchema().isEmpty() || !abilities.statementsLoaded()) {
      return Optional.of(WhyNothing.NOT_SWITCHED_ON);
    }
    return abilities.seesAll() ? Optional.empty() : Optional.of(WhyNothing.NOT_PERMITTED);
  }

  @Override
  public void forget() {
    // what it increased by stands in the ledger; the totals are counted on from those kept last
    dropped = true;
    ledger.notKept();
  }

  /** What was counted of each statement in the minute that is over; told once. */
  Optional<CountedStatements> counted() {
    return ledger.told();
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    String schema = '"' + abilities.statementsSchema().orElseThrow().replace("\"", "\"\"") + '"';
    boolean info = abilities.has("pg_stat_statements_info", "dealloc");
    String top = abilities.has("pg_stat_statements", "toplevel") ? "toplevel" : "true";
    String sql =
        "select userid::oid::bigint, dbid::oid::bigint, coalesce(queryid, 0), "
            + top
            + ", calls, round(total_exec_time * 1000)::bigint, rows, shared_blks_read,"
            + " temp_blks_written, shared_blks_hit, userid = (select oid from pg_roles where rolname ="
            + " current_user), "
            + (info
                ? "(select dealloc from "
                    + schema
                    + ".pg_stat_statements_info), (select (extract(epoch from stats_reset) *"
                    + " 1000000)::bigint from "
                    + schema
                    + ".pg_stat_statements_info)"
                : "0, 0")
            // false: the texts stay on the engine's disk
            + " from "
            + schema
            + ".pg_stat_statements(false)";
    Map<Entry, long[]> theirs = new HashMap<>();
    Map<Entry, long[]> ours = new HashMap<>();
    long evicted = 0;
    long reset = 0;
    try (PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setFetchSize(0);
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          Entry entry =
              new Entry(rows.getLong(1), rows.getLong(2), rows.getLong(3), rows.getBoolean(4));
          long[] totals = new long[StatementLedger.WIDTH];
          for (int i = 0; i < totals.length; i++) {
            // one that lies below nothing lies
            totals[i] = Math.max(0, rows.getLong(5 + i));
          }
          (rows.getBoolean(11) ? ours : theirs).merge(entry, totals, StatementsQuery::added);
          evicted = rows.getLong(12);
          reset = rows.getLong(13);
        }
      }
    }
    Instant at = clock.instant();
    Optional<long[]> increases = others.take(theirs, ledger::add);
    Optional<long[]> ofOwn = own.take(ours);
    if (ledger.read(at, increases.isEmpty(), evicted)) {
      ledger.end(at, connection, schema, top);
    }
    if (dropped) {
      increases = Optional.empty();
      ofOwn = Optional.empty();
      dropped = false;
    }
    long epoch = reset * 31 + evicted;
    tell(sink, theirs, increases, epoch);
    OptionalLong ownTime =
        ofOwn.map(sums -> OptionalLong.of(sums[1])).orElseGet(OptionalLong::empty);
    sink.total("own.statement_time", sum(ours, 1), epoch, ownTime);
    sink.level("statements.entries", theirs.size() + ours.size());
    if (info) {
      sink.total("statements.evicted", evicted, reset);
    } else {
      sink.nothing("statements.evicted", WhyNothing.NONE_THERE);
    }
  }

  private static void tell(
      Sink sink, Map<Entry, long[]> entries, Optional<long[]> increases, long epoch) {
    for (int i = 0; i < COUNTERS.size(); i++) {
      int column = i;
      OptionalLong known =
          increases.map(sums -> OptionalLong.of(sums[column])).orElseGet(OptionalLong::empty);
      sink.total(COUNTERS.get(i), sum(entries, i), epoch, known);
    }
  }

  private static long sum(Map<Entry, long[]> entries, int column) {
    return entries.values().stream().mapToLong(totals -> totals[column]).sum();
  }

  private static long[] added(long[] a, long[] b) {
    for (int i = 0; i < a.length; i++) {
      a[i] += b[i];
    }
    return a;
  }
}
