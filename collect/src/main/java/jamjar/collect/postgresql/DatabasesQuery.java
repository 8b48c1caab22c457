package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.stream.Collectors;

/** Transactions, rows, blocks, temporary files, deadlocks and more of each database. */
final class DatabasesQuery implements Query {
  private static final String VIEW = "pg_stat_database";
  static final List<ViewColumn> TOTALS =
      List.of(
          ViewColumn.of(OwnCommits.COMMITTED, VIEW, "xact_commit"),
          ViewColumn.of("transactions.rolled_back", VIEW, "xact_rollback"),
          ViewColumn.of("rows.returned", VIEW, "tup_returned"),
          ViewColumn.of("rows.fetched", VIEW, "tup_fetched"),
          ViewColumn.of("rows.inserted", VIEW, "tup_inserted"),
          ViewColumn.of("rows.updated", VIEW, "tup_updated"),
          ViewColumn.of("rows.deleted", VIEW, "tup_deleted"),
          ViewColumn.of("blocks.hit", VIEW, "blks_hit"),
          ViewColumn.of("blocks.read", VIEW, "blks_read"),
          ViewColumn.of("temporary.files", VIEW, "temp_files"),
          ViewColumn.of("temporary.bytes", VIEW, "temp_bytes"),
          ViewColumn.of("deadlocks", VIEW, "deadlocks"),
          ViewColumn.of("conflicts", VIEW, "conflicts"),
          ViewColumn.millis("io.read_time", VIEW, "blk_read_time").when("track_io_timing"),
          ViewColumn.millis("io.write_time", VIEW, "blk_write_time").when("track_io_timing"),
          ViewColumn.millis("session_time.total", VIEW, "session_time"),
          ViewColumn.millis("session_time.active", VIEW, "active_time"),
          ViewColumn.millis("session_time.idle_in_transaction", VIEW, "idle_in_transaction_time"),
          ViewColumn.of("sessions.opened", VIEW, "sessions"),
          ViewColumn.of("sessions.lost", VIEW, "sessions_abandoned"),
          ViewColumn.of("sessions.failed", VIEW, "sessions_fatal"),
          ViewColumn.of("sessions.killed", VIEW, "sessions_killed"),
          ViewColumn.of("checksum_failures", VIEW, "checksum_failures").when("data_checksums"));

  private final OwnCommits own;

  DatabasesQuery(OwnCommits own) {
    this.own = own;
  }

  @Override
  public String group() {
    return "databases";
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    List<ViewColumn> there =
        TOTALS.stream()
            .filter(total -> total.in(abilities))
            .filter(total -> total.setting().isEmpty() || abilities.on(total.setting()))
            .toList();
    String sql =
        "select s.datname, age(d.datfrozenxid), mxid_age(d.datminmxid), "
            + ViewColumn.epoch("s")
            + there.stream().map(t -> ", " + t.expression("s")).collect(Collectors.joining())
            + " from pg_stat_database s join pg_database d on d.oid = s.datid";
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        String database = rows.getString(1);
        sink.level("vacuum.age", "database", database, rows.getLong(2));
        sink.level("vacuum.multixact_age", "database", database, rows.getLong(3));
        long epoch = rows.getLong(4);
        for (int i = 0; i < there.size(); i++) {
          String counter = there.get(i).counter();
          long value = rows.getLong(i + 5);
          if (counter.equals(OwnCommits.COMMITTED) && database.equals(abilities.database())) {
            value = own.without(value, abilities.start(), epoch);
          }
          sink.total(counter, "database", database, value, epoch);
        }
      }
    }
    for (ViewColumn total : TOTALS) {
      if (!total.in(abilities)) {
        sink.nothing(total.counter(), WhyNothing.NONE_THERE);
      } else if (!there.contains(total)) {
        sink.nothing(total.counter(), WhyNothing.NOT_SWITCHED_ON);
      }
    }
  }
}
