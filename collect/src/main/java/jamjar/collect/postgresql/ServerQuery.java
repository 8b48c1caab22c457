package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.StringJoiner;

/** Checkpoints, buffers, write-ahead log and archive of the whole engine. */
final class ServerQuery implements Query {
  /**
   * Where each counter stands; a later version moved some, so the first column that is there
   * serves.
   */
  static final List<ViewColumn> TOTALS =
      List.of(
          ViewColumn.of("checkpoints.timed", "pg_stat_checkpointer", "num_timed"),
          ViewColumn.of("checkpoints.timed", "pg_stat_bgwriter", "checkpoints_timed"),
          ViewColumn.of("checkpoints.requested", "pg_stat_checkpointer", "num_requested"),
          ViewColumn.of("checkpoints.requested", "pg_stat_bgwriter", "checkpoints_req"),
          ViewColumn.millis("checkpoints.write_time", "pg_stat_checkpointer", "write_time"),
          ViewColumn.millis("checkpoints.write_time", "pg_stat_bgwriter", "checkpoint_write_time"),
          ViewColumn.millis("checkpoints.sync_time", "pg_stat_checkpointer", "sync_time"),
          ViewColumn.millis("checkpoints.sync_time", "pg_stat_bgwriter", "checkpoint_sync_time"),
          ViewColumn.of("buffers.checkpoint", "pg_stat_checkpointer", "buffers_written"),
          ViewColumn.of("buffers.checkpoint", "pg_stat_bgwriter", "buffers_checkpoint"),
          ViewColumn.of("buffers.cleaner", "pg_stat_bgwriter", "buffers_clean"),
          ViewColumn.of("buffers.cleaner_stops", "pg_stat_bgwriter", "maxwritten_clean"),
          ViewColumn.of("buffers.sessions", "pg_stat_bgwriter", "buffers_backend"),
          ViewColumn.of("buffers.sessions_sync", "pg_stat_bgwriter", "buffers_backend_fsync"),
          ViewColumn.of("buffers.allocated", "pg_stat_bgwriter", "buffers_alloc"),
          ViewColumn.of("wal.records", "pg_stat_wal", "wal_records"),
          ViewColumn.of("wal.bytes", "pg_stat_wal", "wal_bytes"),
          ViewColumn.of("wal.full_pages", "pg_stat_wal", "wal_fpi"),
          ViewColumn.of("wal.buffers_full", "pg_stat_wal", "wal_buffers_full"),
          ViewColumn.of("wal.writes", "pg_stat_wal", "wal_write"),
          ViewColumn.of("wal.syncs", "pg_stat_wal", "wal_sync"),
          ViewColumn.of("archive.done", "pg_stat_archiver", "archived_count"),
          ViewColumn.of("archive.failed", "pg_stat_archiver", "failed_count"));

  @Override
  public String group() {
    return "server";
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    Map<String, ViewColumn> there = new LinkedHashMap<>();
    TOTALS.stream()
        .filter(place -> place.in(abilities))
        .forEach(place -> there.putIfAbsent(place.counter(), place));
    TOTALS.stream()
        .map(ViewColumn::counter)
        .distinct()
        .filter(counter -> !there.containsKey(counter))
        .forEach(counter -> sink.nothing(counter, WhyNothing.NONE_THERE));
    List<String> views = there.values().stream().map(ViewColumn::view).distinct().toList();
    StringJoiner columns = new StringJoiner(", ", "select ", "");
    views.forEach(view -> columns.add(ViewColumn.epoch(view)));
    there.values().forEach(place -> columns.add(place.expression(place.view())));
    String sql = columns + " from " + String.join(", ", views);
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      row.next();
      int i = views.size();
      for (ViewColumn place : there.values()) {
        long epoch = row.getLong(views.indexOf(place.view()) + 1);
        sink.total(place.counter(), row.getLong(++i), epoch);
      }
    }
  }
}
