package jamjar.collect.postgresql;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.reading.EntryIncreases;
import jamjar.core.statement.StatementCounts;
import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** An engine that has room for few statements, and many of them: it drops and begins them anew. */
class EvictedStatementsTest {
  private static final int ROOM = 100;
  private static TemporaryCluster engine;
  private final EntryIncreases<StatementLedger.Entry> increases =
      new EntryIncreases<>(StatementLedger.WIDTH);

  @BeforeAll
  static void start() {
    engine = TemporaryCluster.start(Map.of("pg_stat_statements.max", Integer.toString(ROOM)));
    engine.run("postgres", "create extension pg_stat_statements");
  }

  @AfterAll
  static void end() throws Exception {
    engine.cluster().remove();
  }

  @Test
  void nothing_is_below_nothing_nothing_is_invented_and_it_is_told_that_some_were_dropped()
      throws Exception {
    StatementLedger ledger = new StatementLedger();
    Instant at = Instant.parse("2026-11-26T02:00:10Z");
    StatementCounts sum = StatementCounts.NONE;
    long evicted = 0;
    long run = 0;
    try (Connection connection = engine.connect("postgres");
        Statement statement = connection.createStatement()) {
      take(ledger, connection, at);
      for (int minute = 0; minute < 4; minute++) {
        for (int round = 0; round < 6; round++) {
          // sixty others each time, and one that stays
          for (int i = 0; i < 60; i++) {
            statement.execute(another((minute * 6 + round) * 60 + i));
            statement.execute("select 2 as stays");
            run += 2;
          }
          at = at.plusSeconds(10);
          if (take(ledger, connection, at)) {
            connection.setAutoCommit(false);
            ledger.end(at, connection, "public", "toplevel");
            connection.commit();
            connection.setAutoCommit(true);
            var counted = ledger.told().orElseThrow().counted();
            evicted += counted.evicted();
            for (StatementCounts counts : counted.statements().values()) {
              assertThat(counts.calls()).isNotNegative();
              assertThat(counts.timeUs()).isNotNegative();
              sum = sum.plus(counts);
            }
          }
        }
      }
    }
    assertThat(evicted).isPositive();
    // what was dropped between two readings is not there, and what is there was run; beside it
    // stand the statements that this test itself asks with
    assertThat(sum.calls()).isGreaterThan(run / 4).isLessThan(run + 600);
  }

  /** One that the engine tells apart from all with other numbers: by its operators. */
  private static String another(int number) {
    StringBuilder sql = new StringBuilder("select 1");
    for (int bit = 0; bit < 11; bit++) {
      sql.append((number >> bit & 1) == 0 ? " + 1" : " - 1");
    }
    return sql.toString();
  }

  private boolean take(StatementLedger ledger, Connection connection, Instant at)
      throws SQLException {
    Map<StatementLedger.Entry, long[]> entries = new HashMap<>();
    String sql =
        "select userid::oid::bigint, dbid::oid::bigint, queryid, toplevel, calls,"
            + " round(total_exec_time * 1000)::bigint, (select dealloc from"
            + " pg_stat_statements_info) from pg_stat_statements(false)";
    long dropped = 0;
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        entries.put(
            new StatementLedger.Entry(
                rows.getLong(1), rows.getLong(2), rows.getLong(3), rows.getBoolean(4)),
            new long[] {rows.getLong(5), rows.getLong(6), 0, 0, 0, 0});
        dropped = rows.getLong(7);
      }
    }
    boolean first = increases.take(entries, ledger::add).isEmpty();
    return ledger.read(at, first, dropped);
  }
}
