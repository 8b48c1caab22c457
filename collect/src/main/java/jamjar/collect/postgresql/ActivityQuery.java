package jamjar.collect.postgresql;

import jamjar.collect.Bounds;
import jamjar.core.session.Sample;
import jamjar.core.session.Session;
import jamjar.core.session.Who;
import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/** The sessions of an engine: those that do something one by one, the others counted. */
final class ActivityQuery {
  /** So many are read one by one. */
  private static final int MOST = 5_000;

  private static final int MOST_IDLE = 1_000;

  /** So much of a statement's text is looked at: of all together it must fit into one answer. */
  private static final int LONGEST = 4_000;

  private static final String COLUMNS =
      """
      select pid, (date_part('epoch', backend_start) * 1000)::bigint, coalesce(backend_type, ''),
        coalesce(usename, ''), coalesce(application_name, ''), coalesce(datname, ''),
        coalesce(host(client_addr), ''), coalesce(state, ''), coalesce(wait_event_type, ''),
        coalesce(wait_event, ''), left(query, %d),
        (date_part('epoch', state_change) * 1000)::bigint,
        (date_part('epoch', query_start) * 1000)::bigint,
        (date_part('epoch', xact_start) * 1000)::bigint,
        coalesce(leader_pid, 0), backend_xid is not null, backend_xmin is not null,
        (date_part('epoch', statement_timestamp()) * 1000)::bigint
      from pg_stat_activity
      """
          .formatted(LONGEST);

  private static final String OTHERS =
      "pid <> pg_backend_pid() and coalesce(application_name, '') not like 'jamjar%'";

  private static final String BUSY =
      COLUMNS
          + "where "
          + OTHERS
          + " and (backend_type = 'client backend' and state is distinct from 'idle'"
          + " or backend_type in ('parallel worker', 'walsender', 'autovacuum worker')"
          + " or backend_type not like '%writer' and backend_type not like '%launcher'"
          + " and backend_type not in ('client backend', 'checkpointer', 'startup', 'archiver',"
          + " 'walreceiver', 'logger', 'walsummarizer', 'slotsync worker'))"
          + " order by xact_start nulls last limit "
          + MOST;

  private static final String THESE = COLUMNS + "where pid = any(?)";

  private static final String IDLE =
      """
      select coalesce(usename, ''), coalesce(application_name, ''), coalesce(datname, ''), count(*)
      from pg_stat_activity
      where backend_type = 'client backend' and state = 'idle' and pid <> all(?) and\
      """
          + " "
          + OTHERS
          + " group by 1, 2, 3 order by 4 desc limit "
          + MOST_IDLE;

  /**
   * One session as the engine tells of it.
   *
   * @param sql what it runs or ran last, as it was sent; never kept
   */
  record Row(
      Who who,
      Session.State state,
      Session.Wait waitsFor,
      String sql,
      Session.Since since,
      int leader,
      int holds) {}

  /**
   * @param engineAt by the engine's clock, epoch ms; 0 where nobody is there
   */
  record Told(long engineAt, List<Row> rows) {}

  private final Connection connection;

  ActivityQuery(Connection connection) {
    this.connection = connection;
  }

  Told read() throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(BUSY)) {
      return rows(statement);
    }
  }

  List<Row> these(List<Integer> pids) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(THESE)) {
      statement.setArray(1, array(pids));
      return rows(statement).rows();
    }
  }

  /** Those that do nothing, but for some that are told one by one. */
  List<Sample.Idle> idle(List<Integer> without) throws SQLException {
    List<Sample.Idle> all = new ArrayList<>();
    try (PreparedStatement statement = connection.prepareStatement(IDLE)) {
      statement.setArray(1, array(without));
      try (ResultSet rows = statement.executeQuery()) {
        while (all.size() < MOST_IDLE && rows.next()) {
          all.add(
              new Sample.Idle(
                  text(rows, 1), text(rows, 2), text(rows, 3), Math.max(0, rows.getInt(4))));
        }
      }
    }
    return all;
  }

  private Array array(List<Integer> pids) throws SQLException {
    return connection.createArrayOf("int4", pids.toArray());
  }

  private static Told rows(PreparedStatement statement) throws SQLException {
    List<Row> all = new ArrayList<>();
    long engineAt = 0;
    try (ResultSet rows = statement.executeQuery()) {
      while (all.size() < MOST && rows.next()) {
        engineAt = rows.getLong(18);
        all.add(row(rows));
      }
    }
    return new Told(engineAt, all);
  }

  /** Whatever answers: never longer, and nothing in it that no database takes. */
  private static String text(ResultSet row, int column) throws SQLException {
    return Bounds.label(Objects.requireNonNullElse(row.getString(column), ""));
  }

  private static Row row(ResultSet row) throws SQLException {
    String type = text(row, 3);
    String program = text(row, 5);
    Who who =
        new Who(
            row.getInt(1),
            row.getLong(2),
            kind(type),
            text(row, 4),
            // a worker of the engine has no name but what it is
            program.isEmpty() && !type.equals("client backend") ? type : program,
            text(row, 6),
            text(row, 7));
    int holds =
        (row.getBoolean(16) ? Session.XID : 0) + (row.getBoolean(17) ? Session.SNAPSHOT : 0);
    String sql = Objects.requireNonNullElse(row.getString(11), "");
    return new Row(
        who,
        state(text(row, 8)),
        new Session.Wait(text(row, 9), text(row, 10)),
        sql.substring(0, Math.min(LONGEST, sql.length())).replace('\0', ' '),
        new Session.Since(row.getLong(12), row.getLong(13), row.getLong(14), 0),
        row.getInt(15),
        holds);
  }

  private static Who.Kind kind(String type) {
    return switch (type) {
      case "client backend" -> Who.Kind.CLIENT;
      case "parallel worker" -> Who.Kind.PARALLEL;
      case "walsender" -> Who.Kind.WALSENDER;
      case "autovacuum worker" -> Who.Kind.AUTOVACUUM;
      default -> Who.Kind.WORKER;
    };
  }

  private static Session.State state(String state) {
    return switch (state) {
      case "active", "fastpath function call" -> Session.State.ACTIVE;
      case "idle" -> Session.State.IDLE;
      case "idle in transaction" -> Session.State.IN_TRANSACTION;
      case "idle in transaction (aborted)" -> Session.State.IN_FAILED_TRANSACTION;
      default -> Session.State.OTHER;
    };
  }
}
