package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Optional;

/** Scans, rows and vacuums over all tables of this database. */
final class TablesQuery implements Query {
  private static final String SQL =
      """
      select coalesce(sum(seq_scan), 0), coalesce(sum(idx_scan), 0),
        coalesce(sum(n_live_tup), 0), coalesce(sum(n_dead_tup), 0),
        coalesce(sum(vacuum_count + autovacuum_count), 0),
        coalesce(sum(analyze_count + autoanalyze_count), 0),
        (select coalesce((extract(epoch from stats_reset) * 1000000)::bigint, 0)
          from pg_stat_database where datname = current_database())
      from pg_stat_all_tables
      """;

  @Override
  public String group() {
    return "tables";
  }

  @Override
  public Optional<WhyNothing> notTried(Abilities abilities) {
    return abilities.on("track_counts")
        ? Optional.empty()
        : Optional.of(WhyNothing.NOT_SWITCHED_ON);
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(SQL);
        ResultSet row = statement.executeQuery()) {
      row.next();
      long epoch = row.getLong(7);
      sink.total("tables.sequential_scans", row.getLong(1), epoch);
      sink.total("tables.index_scans", row.getLong(2), epoch);
      sink.level("tables.live_rows", row.getLong(3));
      sink.level("tables.dead_rows", row.getLong(4));
      sink.total("tables.vacuums", row.getLong(5), epoch);
      sink.total("tables.analyses", row.getLong(6), epoch);
    }
  }
}
