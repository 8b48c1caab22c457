package jamjar.collect.postgresql;

import jamjar.collect.Sampler.ReadLog;
import jamjar.core.log.LogEntry;
import jamjar.core.log.Logged;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Reads an engine's own log through the engine, where it may be read: the form csvlog, in English.
 * It is read on from where it was read to, over files that are begun anew meanwhile.
 */
final class LogReader {
  private static final Duration EVERY = Duration.ofSeconds(15);

  /** That nothing was logged is kept each minute. */
  private static final Duration NOTHING_EVERY = Duration.ofMinutes(1);

  private static final Duration INSPECT_EVERY = Duration.ofMinutes(5);
  private static final int CHUNK = 1 << 20;

  /** So much is read at once; of more the oldest is left out. */
  private static final int MOST = 4 * CHUNK;

  private static final Pattern NUMBER = Pattern.compile("(-?\\d{1,12})(\\w*)");
  private static final Map<String, Long> UNITS =
      Map.of("s", 1_000L, "min", 60_000L, "h", 3_600_000L, "d", 86_400_000L);

  private static final int MOST_ENTRIES = 2_000;
  private static final int MOST_TEXTS = 500;
  private static final String OWN = "jamjar.read_log(text, bigint, bigint)";
  private static final String ANY = "pg_read_binary_file(text, bigint, bigint, boolean)";

  /** What the engine's owner runs once, so that a role may read its log and nothing else. */
  private static final String FUNCTION =
      """
      create schema if not exists jamjar;
      create or replace function jamjar.read_log(name text, begin bigint, most bigint) returns bytea
        language sql security definer set search_path = pg_catalog as $$
          select pg_read_binary_file(current_setting('log_directory') || '/' || name, begin, most, true)
          where name ~ '^[A-Za-z0-9_.-]+[.]csv$' $$;
      revoke all on function jamjar.read_log(text, bigint, bigint) from public;
      """;

  /** How bytes of a file are asked for: its name, from where, how many. */
  private String reading;

  private String file = "";
  private long offset;

  /** It may lie within a line. */
  private boolean lost;

  private String fileBefore = "";
  private long offsetBefore;
  private Abilities abilities;
  private Instant inspected = Instant.EPOCH;
  private Instant due = Instant.EPOCH;
  private Instant kept = Instant.EPOCH;

  /** It was read so far. */
  void from(Logged last) {
    file = last.file();
    offset = last.offset();
    // another engine may answer there by now
    lost = true;
  }

  /** What was read last was not kept: it is read again. */
  void notKept() {
    file = fileBefore;
    offset = offsetBefore;
    due = Instant.EPOCH;
  }

  boolean isDue(Instant at) {
    fileBefore = file;
    offsetBefore = offset;
    // a clock that was set back leaves it due
    return !at.isBefore(due) || at.isBefore(due.minus(NOTHING_EVERY));
  }

  /** It could not be read: not tried again at once. */
  void failed(Instant at) {
    notKept();
    due = at.plus(NOTHING_EVERY);
  }

  /** What came since; empty when nothing came lately. */
  Optional<ReadLog> read(Connection connection, Instant at) throws SQLException {
    due = at.plus(EVERY);
    if (at.isAfter(inspected.plus(INSPECT_EVERY)) || at.isBefore(inspected)) {
      abilities = Abilities.inspect(connection);
      inspected = at;
    }
    String unread = obstacle(connection, abilities);
    if (!unread.isEmpty()) {
      // it is looked at anew, not each time
      due = at.plus(NOTHING_EVERY);
      inspected = Instant.EPOCH;
      return Optional.of(new ReadLog(Optional.empty(), Map.of(), unread));
    }
    Map<Long, String> texts = new HashMap<>();
    List<LogEntry> entries = new ArrayList<>();
    long left = lines(connection, new CsvLines(zone(), texts), entries);
    if (entries.size() > MOST_ENTRIES) {
      entries.subList(MOST_ENTRIES, entries.size()).clear();
      left = Math.max(1, left);
    }
    Set<Long> told = new HashSet<>();
    for (LogEntry entry : entries) {
      told.add(entry.statement());
      entry.parties().forEach(party -> told.add(party.statement()));
    }
    texts.keySet().retainAll(told.stream().limit(MOST_TEXTS).collect(Collectors.toSet()));
    if (entries.isEmpty()
        && left == 0
        && at.isBefore(kept.plus(NOTHING_EVERY))
        && !at.isBefore(kept)) {
      return Optional.empty();
    }
    kept = at;
    long threshold = threshold();
    Logged logged =
        new Logged(
            at,
            file,
            offset,
            threshold,
            abilities.on("log_lock_waits"),
            left,
            List.copyOf(entries));
    return Optional.of(new ReadLog(Optional.of(logged), texts, ""));
  }

  private long threshold() {
    // as SHOW tells it, with its unit
    String told = abilities.settings().getOrDefault("log_min_duration_statement", "-1");
    Matcher number = NUMBER.matcher(told);
    return number.matches()
        ? Long.parseLong(number.group(1)) * UNITS.getOrDefault(number.group(2), 1L)
        : -1;
  }

  private ZoneId zone() {
    try {
      return ZoneId.of(abilities.settings().getOrDefault("log_timezone", "UTC"));
    } catch (DateTimeException e) {
      return ZoneOffset.UTC;
    }
  }

  /** Why it can't be read, and what to change; empty where it can. */
  private String obstacle(Connection connection, Abilities abilities) throws SQLException {
    Map<String, String> settings = abilities.settings();
    if (!abilities.on("logging_collector")) {
      return "the engine writes its log where no session can read it. Change it there, and restart"
          + " it: alter system set logging_collector = on;";
    }
    if (!settings.getOrDefault("log_destination", "").contains("csvlog")) {
      return "its log is not written in the form csvlog. Change it there: alter system set"
          + " log_destination = 'csvlog'; select pg_reload_conf();";
    }
    String language = settings.getOrDefault("lc_messages", "C");
    if (!language.matches("(?i)(c|posix|en)([_.].*)?")) {
      return "its messages are translated (lc_messages is "
          + language
          + "). Change it there: alter system set lc_messages = 'C'; select pg_reload_conf();";
    }
    reading = reading(connection);
    if (reading == null) {
      return "the role "
          + abilities.role()
          + " may not read the engine's log: pg_monitor alone does not allow that. Run there, as a"
          + " superuser: "
          + mayReadLog(abilities.role());
    }
    return "";
  }

  static String mayReadLog(String role) {
    String quoted = PostgresRefusals.quoted(role);
    return FUNCTION.strip().replaceAll("\\s+", " ")
        + " grant usage on schema jamjar to "
        + quoted
        + "; grant execute on function "
        + OWN
        + " to "
        + quoted
        + ";";
  }

  /** By the function that reads the log alone, else by that which reads any file. */
  private static String reading(Connection connection) throws SQLException {
    // looked up by hand: to_regprocedure fails where the schema is not for this role
    String own =
        "select coalesce((select has_function_privilege(p.oid, 'execute') and"
            + " has_schema_privilege(n.oid, 'usage') from pg_proc p join pg_namespace n on n.oid ="
            + " p.pronamespace where n.nspname = 'jamjar' and p.proname = 'read_log' and p.pronargs"
            + " = 3 limit 1), false)";
    if (is(connection, own)) {
      return "select jamjar.read_log(?, ?, ?)";
    }
    return is(connection, "select has_function_privilege('" + ANY + "', 'execute')")
        ? "select pg_read_binary_file(current_setting('log_directory') || '/' || ?, ?, ?, true)"
        : null;
  }

  private long lines(Connection connection, CsvLines csv, List<LogEntry> entries)
      throws SQLException {
    Map<String, Long> sizes = sizes(connection);
    if (sizes.isEmpty()) {
      return 0;
    }
    // the function that tells the current one is not for pg_monitor before version 16
    String current = sizes.keySet().iterator().next();
    long end = sizes.getOrDefault(current, 0L);
    if (file.isEmpty()) {
      // what was logged before it was watched is not ours to tell
      file = current;
      offset = end;
      return 0;
    }
    long left = 0;
    for (int read = 0; read < MOST; ) {
      long size = sizes.getOrDefault(file, -1L);
      if (size < offset && size >= 0) {
        // the same name was begun anew
        offset = 0;
      }
      byte[] bytes = size < 0 ? new byte[0] : bytes(connection, file, offset);
      if (lost && bytes.length > 0) {
        int begin = CsvLines.begin(bytes);
        lost = begin == bytes.length;
        offset += begin;
        left += begin;
        read += begin;
        continue;
      }
      int whole = CsvLines.whole(bytes);
      entries.addAll(csv.read(bytes, whole));
      read += Math.max(whole, 1);
      offset += whole;
      if (whole == 0 && bytes.length == CHUNK) {
        // a line longer than is read at once
        offset += CHUNK;
        left += CHUNK;
        lost = true;
      } else if (bytes.length < CHUNK) {
        if (file.equals(current)) {
          break;
        }
        left += Math.max(0, bytes.length - whole);
        file = next(sizes, current);
        offset = 0;
        lost = false;
      }
    }
    if (file.equals(current) && end - offset > MOST) {
      left += end - offset - CHUNK;
      offset = end - CHUNK;
      lost = true;
    }
    return csv.passedOver() ? Math.max(1, left) : left;
  }

  /** The file after this one: they are named by when they were begun. */
  private String next(Map<String, Long> sizes, String current) {
    return sizes.keySet().stream()
        .filter(one -> one.compareTo(file) > 0 && one.compareTo(current) <= 0)
        .min(String::compareTo)
        .orElse(current);
  }

  /** Its files with their sizes, that which is written now first. */
  private static Map<String, Long> sizes(Connection connection) throws SQLException {
    Map<String, Long> sizes = new LinkedHashMap<>();
    String sql =
        "select name, size from pg_ls_logdir() where name like '%.csv' order by modification desc,"
            + " name desc limit 1000";
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        sizes.put(rows.getString(1), rows.getLong(2));
      }
    }
    return sizes;
  }

  private byte[] bytes(Connection connection, String file, long offset) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(reading)) {
      statement.setString(1, file);
      statement.setLong(2, offset);
      statement.setLong(3, CHUNK);
      try (ResultSet row = statement.executeQuery()) {
        row.next();
        byte[] bytes = row.getBytes(1);
        return bytes == null ? new byte[0] : Arrays.copyOf(bytes, Math.min(bytes.length, CHUNK));
      }
    }
  }

  private static String one(Connection connection, String sql, String nothing) throws SQLException {
    try (PreparedStatement statement = connection.prepareStatement(sql);
        ResultSet row = statement.executeQuery()) {
      return row.next() ? row.getString(1) : nothing;
    }
  }

  private static boolean is(Connection connection, String sql) throws SQLException {
    return one(connection, sql, "f").equals("t");
  }
}
