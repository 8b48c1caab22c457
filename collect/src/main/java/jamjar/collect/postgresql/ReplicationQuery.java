package jamjar.collect.postgresql;

import jamjar.core.counter.WhyNothing;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;

/** How far standbys and slots are behind, and on a standby how far replay is. */
final class ReplicationQuery implements Query {
  // a time lag says something only where what was received is not replayed yet: an idle primary
  // sends nothing
  private static final String SQL =
      """
      with here as (select case when pg_is_in_recovery() then pg_last_wal_receive_lsn()
        else pg_current_wal_lsn() end as lsn),
      receiver as (select exists (select from pg_stat_wal_receiver where status = 'streaming')
        as streams)
      select 'standby', coalesce(nullif(application_name, ''), client_addr::text, pid::text),
        pg_wal_lsn_diff(here.lsn, replay_lsn)::float8
      from pg_stat_replication, here where backend_start is not null
      union all
      select case when wal_status in ('lost', 'unreserved') then 'lost ' else '' end
        || case when active then 'slot' else 'unused slot' end, slot_name,
        pg_wal_lsn_diff(here.lsn, restart_lsn)::float8
      from pg_replication_slots, here
      union all
      select 'replay', '', case when not pg_is_in_recovery()
          or pg_last_wal_receive_lsn() = pg_last_wal_replay_lsn() and receiver.streams then 0
        else extract(epoch from clock_timestamp() - pg_last_xact_replay_timestamp()) end::float8
      from receiver
      union all
      select 'streaming', '', case when streams then 1 else 0 end::float8
      from receiver where pg_is_in_recovery()
      """;

  @Override
  public String group() {
    return "replication";
  }

  @Override
  public void read(Connection connection, Abilities abilities, Sink sink) throws SQLException {
    int standbys = 0;
    int unused = 0;
    int lost = 0;
    boolean streaming = false;
    try (PreparedStatement statement = connection.prepareStatement(SQL);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        String what = rows.getString(1);
        String name = rows.getString(2);
        double value = rows.getDouble(3);
        boolean known = !rows.wasNull();
        switch (what) {
          case "standby" -> {
            standbys++;
            if (known) {
              sink.level("replication.behind_bytes", "standby", name, value);
            }
          }
          case "streaming" -> {
            streaming = true;
            sink.level("replication.streaming", value);
          }
          case "replay" -> sink.level("replication.replay_delay", known ? value : Double.NaN);
          default -> {
            unused += what.contains("unused") ? 1 : 0;
            lost += what.startsWith("lost") ? 1 : 0;
            if (known) {
              sink.level("replication.slot_kept_bytes", "slot", name, value);
            }
          }
        }
      }
    }
    if (!streaming) {
      // a writer receives nothing
      sink.nothing("replication.streaming", WhyNothing.NONE_THERE);
    }
    sink.level("replication.standbys", standbys);
    sink.level("replication.slots_unused", unused);
    sink.level("replication.slots_lost", lost);
  }
}
