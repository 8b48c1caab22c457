package jamjar.collect.postgresql;

import jamjar.collect.Bounds;
import jamjar.core.session.Sample;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

/** Who holds up those that wait for a lock, and what they wait for. */
final class BlockingQuery {
  /** Of so many the engine is asked itself: each question stops all locking for a moment. */
  private static final int ASKED = 200;

  private static final int MOST_LOCKS = 20_000;
  private static final String UNTOLD = "null::timestamptz";

  private static final String BLOCKERS =
      "select pid, pg_blocking_pids(pid) from unnest(?::int[]) pid";

  /** What somebody waits for, with who has it; and the row that a waiter has asked for first. */
  private static final String LOCKS =
      """
      with l as materialized (
        select *, row(locktype, database, relation, page, tuple, virtualxid, transactionid, classid, objid,
          objsubid)::text as thing, %s as since
        from pg_locks)
      select coalesce(l.pid, 0), l.granted, l.locktype, l.mode,
        case when l.relation is null then ''
          when l.database in (0, (select oid from pg_database where datname = current_database()))
          then l.relation::regclass::text
          else l.relation || ' in ' || coalesce((select datname from pg_database where oid = l.database), '?')
        end,
        l.page, l.tuple, l.virtualxid, l.transactionid::text, l.classid::bigint, l.objid::bigint,
        l.objsubid, (date_part('epoch', l.since) * 1000)::bigint, l.virtualtransaction
      from l
      where l.thing in (select thing from l where not granted)
        or l.locktype = 'tuple' and l.pid = any(?)
      limit %d
      """;

  /** Each has a lock on its own number: by it its other locks are known, too. */
  private static final String PREPARED =
      """
      select l.virtualtransaction, p.gid, (extract(epoch from p.prepared) * 1000)::bigint, p.owner,
        p.database
      from pg_prepared_xacts p
      join pg_locks l on l.locktype = 'transactionid' and l.transactionid = p.transaction
        and l.granted and l.pid is null
      order by p.prepared
      """;

  /** A prepared transaction: it has no process, and gets a number below 0. */
  record Prepared(int pid, String gid, long since, String owner, String database) {}

  /**
   * @param blockers by who waits, whom it waits for
   * @param since by who waits, since when, epoch ms by the engine's clock; without those of whom it
   *     is not told
   */
  record Told(
      Map<Integer, List<Integer>> blockers,
      Map<Integer, Long> since,
      List<Sample.Lock> locks,
      List<Prepared> prepared) {
    static final Told NOBODY = new Told(Map.of(), Map.of(), List.of(), List.of());
  }

  /**
   * @param since 0 where it is not told
   */
  private record Row(Sample.Lock lock, long since) {}

  private final Connection connection;
  private final String locks;

  BlockingQuery(Connection connection, Abilities abilities) {
    this.connection = connection;
    this.locks =
        LOCKS.formatted(abilities.has("pg_locks", "waitstart") ? "waitstart" : UNTOLD, MOST_LOCKS);
  }

  Told read(List<Integer> waiting) throws SQLException {
    Map<Integer, List<Integer>> blockers = new LinkedHashMap<>();
    if (waiting.size() <= ASKED) {
      ask(waiting, blockers);
    }
    Map<String, Prepared> byVirtual = new HashMap<>();
    List<Row> rows = locks(waiting, byVirtual);
    if (waiting.size() > ASKED) {
      blockers.putAll(Conflicts.blockers(rows.stream().map(Row::lock).toList(), orders(rows)));
    }
    Map<Integer, Long> since = new HashMap<>();
    for (Row row : rows) {
      if (!row.lock().granted() && row.since() > 0) {
        since.put(row.lock().pid(), row.since());
      }
    }
    return new Told(
        named(blockers, rows),
        since,
        rows.stream().map(Row::lock).toList(),
        List.copyOf(byVirtual.values()));
  }

  private static long[] orders(List<Row> rows) {
    return rows.stream().mapToLong(r -> r.since() > 0 ? r.since() : Long.MAX_VALUE).toArray();
  }

  private void ask(List<Integer> waiting, Map<Integer, List<Integer>> blockers)
      throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(BLOCKERS)) {
      statement.setArray(1, connection.createArrayOf("int4", waiting.toArray()));
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          Integer[] pids = (Integer[]) rows.getArray(2).getArray();
          if (pids.length > 0) {
            blockers.put(rows.getInt(1), List.of(pids));
          }
        }
      }
    }
  }

  private List<Row> locks(List<Integer> waiting, Map<String, Prepared> byVirtual)
      throws SQLException {
    List<Row> all = new ArrayList<>();
    try (PreparedStatement statement = connection.prepareStatement(locks)) {
      statement.setArray(1, connection.createArrayOf("int4", waiting.toArray()));
      try (ResultSet rows = statement.executeQuery()) {
        while (all.size() < MOST_LOCKS && rows.next()) {
          int pid = rows.getInt(1);
          if (pid == 0) {
            pid = prepared(rows.getString(14), byVirtual);
          }
          all.add(
              new Row(
                  new Sample.Lock(
                      pid,
                      rows.getBoolean(2),
                      Bounds.label(rows.getString(3)),
                      Bounds.label(rows.getString(4)),
                      Bounds.label(object(rows))),
                  rows.getLong(13)));
        }
      }
    }
    return all;
  }

  /** The number that stands for it: 0 where it is gone. */
  private int prepared(String virtual, Map<String, Prepared> byVirtual) throws SQLException {
    if (byVirtual.isEmpty()) {
      try (PreparedStatement statement = connection.prepareStatement(PREPARED);
          ResultSet rows = statement.executeQuery()) {
        while (byVirtual.size() < MOST_LOCKS && rows.next()) {
          byVirtual.put(
              rows.getString(1),
              new Prepared(
                  -1 - byVirtual.size(),
                  Bounds.label(rows.getString(2)),
                  rows.getLong(3),
                  Bounds.label(rows.getString(4)),
                  Bounds.label(rows.getString(5))));
        }
      }
    }
    Prepared found = byVirtual.get(virtual);
    return found == null ? 0 : found.pid();
  }

  /**
   * The engine tells of prepared transactions as 0: which ones they are, their locks tell. Those
   * that have what is wanted come first, and of many no more than a few are told.
   */
  private static Map<Integer, List<Integer>> named(
      Map<Integer, List<Integer>> blockers, List<Row> rows) {
    Map<Integer, String> wanted = new HashMap<>();
    Map<String, Set<Integer>> having = new HashMap<>();
    for (Row row : rows) {
      if (row.lock().granted()) {
        having
            .computeIfAbsent(row.lock().object(), o -> new LinkedHashSet<>())
            .add(row.lock().pid());
      } else {
        wanted.putIfAbsent(row.lock().pid(), row.lock().object());
      }
    }
    Map<Integer, List<Integer>> named = new LinkedHashMap<>();
    blockers.forEach(
        (waiter, pids) -> {
          Set<Integer> theirs = having.getOrDefault(wanted.getOrDefault(waiter, ""), Set.of());
          named.put(
              waiter,
              pids.stream()
                  .flatMap(pid -> pid == 0 ? theirs.stream().filter(p -> p < 0) : Stream.of(pid))
                  .distinct()
                  .sorted(Comparator.comparing(pid -> !theirs.contains(pid)))
                  .limit(Conflicts.MOST)
                  .toList());
        });
    return named;
  }

  private static String object(ResultSet row) throws SQLException {
    String relation = Objects.requireNonNullElse(row.getString(5), "");
    return switch (row.getString(3)) {
      case "relation" -> relation;
      case "extend" -> "the end of " + relation;
      case "page" -> "page " + row.getLong(6) + " of " + relation;
      case "tuple" -> "row (" + row.getLong(6) + "," + row.getInt(7) + ") of " + relation;
      case "transactionid" -> "transaction " + row.getString(9);
      case "virtualxid" -> "virtual transaction " + row.getString(8);
      case "advisory" -> advisory(row.getLong(10), row.getLong(11), row.getInt(12));
      case "frozenid" -> "the oldest frozen transaction of a database";
      default ->
          row.getString(3) + " " + row.getLong(10) + "/" + row.getLong(11) + "/" + row.getInt(12);
    };
  }

  /** One key of 64 bits (1), or two of 32 (2). */
  private static String advisory(long high, long low, int form) {
    return form == 2
        ? "advisory lock " + (int) high + ", " + (int) low
        : "advisory lock "
            + (high << 32 | low & 0xffffffffL)
            + " ("
            + (int) high
            + ", "
            + (int) low
            + ")";
  }
}
