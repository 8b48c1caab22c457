package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.StringJoiner;

/** Checkpoints, buffers, write-ahead log and archive of the whole engine. */
final class ServerQuery implements Query {
  /**
   * Where each counter stands; a later version moved some, so the first column that is there
   * serves.
   */
  private static final Map<String, List<ViewColumn>> TOTALS = new LinkedHashMap<>();

  static {
    put(ViewColumn.of("checkpoints.timed", "pg_stat_checkpointer", "num_timed"));
    put(ViewColumn.of("checkpoints.timed", "pg_stat_bgwriter", "checkpoints_timed"));
    put(ViewColumn.of("checkpoints.requested", "pg_stat_checkpointer", "num_requested"));
    put(ViewColumn.of("checkpoints.requested", "pg_stat_bgwriter", "checkpoints_req"));
    put(ViewColumn.millis("checkpoints.write_time", "pg_stat_checkpointer", "write_time"));
    put(ViewColumn.millis("checkpoints.write_time", "pg_stat_bgwriter", "checkpoint_write_time"));
    put(ViewColumn.millis("checkpoints.sync_time", "pg_stat_checkpointer", "sync_time"));
    put(ViewColumn.millis("checkpoints.sync_time", "pg_stat_bgwriter", "checkpoint_sync_time"));
    put(ViewColumn.of("buffers.checkpoint", "pg_stat_checkpointer", "buffers_written"));
    put(ViewColumn.of("buffers.checkpoint", "pg_stat_bgwriter", "buffers_checkpoint"));
    put(ViewColumn.of("buffers.cleaner", "pg_stat_bgwriter", "buffers_clean"));
    put(ViewColumn.of("buffers.cleaner_stops", "pg_stat_bgwriter", "maxwritten_clean"));
    put(ViewColumn.of("buffers.sessions", "pg_stat_bgwriter", "buffers_backend"));
    put(ViewColumn.of("buffers.sessions_sync", "pg_stat_bgwriter", "buffers_backend_fsync"));
    put(ViewColumn.of("buffers.allocated", "pg_stat_bgwriter", "buffers_alloc"));
    put(ViewColumn.of("wal.records", "pg_stat_wal", "wal_records"));
    put(ViewColumn.of("wal.bytes", "pg_stat_wal", "wal_bytes"));
    put(ViewColumn.of("wal.full_pages", "pg_stat_wal", "wal_fpi"));
    put(ViewColumn.of("wal.buffers_full", "pg_stat_wal", "wal_buffers_full"));
    put(ViewColumn.of("wal.writes", "pg_stat_wal", "wal_write"));
    put(ViewColumn.of("wal.syncs", "pg_stat_wal", "wal_sync"));
    put(ViewColumn.of("archive.done", "pg_stat_archiver", "archived_count"));
    put(ViewColumn.of("archive.failed", "pg_stat_archiver", "failed_count"));
  }

  private static void put(ViewColumn column) {
    TOTALS.computeIfAbsent(column.counter(), key -> new ArrayList<>()).add(column);
  }

  @Override
  public String group() {
    return "server";
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    Map<String, ViewColumn> there = new LinkedHashMap<>();
    TOTALS.forEach(
        (counter, places) -> {
          Optional<ViewColumn> place =
              places.stream().filter(p -> abilities.has(p.view(), p.column())).findFirst();
          place.ifPresentOrElse(
              p -> there.put(counter, p), () -> sink.nothing(counter, WhyNothing.NONE_THERE));
        });
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
