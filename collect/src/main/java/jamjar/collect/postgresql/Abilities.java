package jamjar.collect.postgresql;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What an engine offers to this role: looked up when connected, by the names of columns rather than
 * by version.
 *
 * @param version as the engine says it
 * @param start when it started, µs since 1970
 * @param settings its settings as SHOW tells them; those that the role may not see are left out
 * @param waiting the settings that were changed but wait for a restart
 * @param columns the columns of the statistics views, by view
 * @param seesAll whether the role may see other users' sessions and statements
 * @param statementsSchema schema of pg_stat_statements; empty when the extension is not created in
 *     this database
 * @param statementsLoaded whether its library is preloaded; true where the role may not see that
 *     setting
 * @param standby whether it replays what a writer sends it
 */
record Abilities(
    String version,
    long start,
    Map<String, String> settings,
    List<String> waiting,
    Map<String, Set<String>> columns,
    boolean seesAll,
    Optional<String> statementsSchema,
    boolean statementsLoaded,
    String role,
    String database,
    boolean superuser,
    boolean standby) {

  static Abilities inspect(Connection connection) throws SQLException {
    Map<String, String> settings = new HashMap<>();
    List<String> waiting = new ArrayList<>();
    String sql =
        """
        select name, coalesce(current_setting(name, true), setting), pending_restart
        from pg_settings
        -- what this very session has set says nothing of the engine
        where source not in ('client', 'session') and name not like 'transaction\\_%' order by name
        """;
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        settings.put(rows.getString(1), rows.getString(2));
        if (rows.getBoolean(3)) {
          waiting.add(rows.getString(1));
        }
      }
    }
    Map<String, Set<String>> columns = new HashMap<>();
    sql =
        """
        select c.relname, a.attname from pg_class c join pg_attribute a on a.attrelid = c.oid
        where a.attnum > 0 and not a.attisdropped and c.relkind = 'v'
          and (c.relname like 'pg\\_stat\\_%' or c.relname = 'pg_locks')
        """;
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        columns.computeIfAbsent(rows.getString(1), v -> new HashSet<>()).add(rows.getString(2));
      }
    }
    sql =
        """
        select (extract(epoch from pg_postmaster_start_time()) * 1000000)::bigint,
          pg_has_role(current_user, 'pg_read_all_stats', 'usage'),
          (select n.nspname from pg_extension e join pg_namespace n on n.oid = e.extnamespace
            where e.extname = 'pg_stat_statements'),
          current_user, current_database(),
          (select rolsuper from pg_roles where rolname = current_user),
          pg_is_in_recovery()
        """;
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      row.next();
      return new Abilities(
          settings.getOrDefault("server_version", ""),
          row.getLong(1),
          settings,
          waiting,
          columns,
          row.getBoolean(2),
          Optional.ofNullable(row.getString(3)),
          settings
              .getOrDefault("shared_preload_libraries", "pg_stat_statements")
              .contains("pg_stat_statements"),
          row.getString(4),
          row.getString(5),
          row.getBoolean(6),
          row.getBoolean(7));
    }
  }

  boolean has(String view, String column) {
    return columns.getOrDefault(view, Set.of()).contains(column);
  }

  boolean on(String setting) {
    return "on".equals(settings.get(setting));
  }
}
