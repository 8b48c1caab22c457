package jamjar.bench;

import jamjar.collect.Collector;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.postgresql.OwnCommits;
import jamjar.collect.postgresql.PostgresCollector;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.cluster.PrivateCluster;
import jamjar.store.cluster.TemporaryCluster;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What is read, beside what the watched side's own tools say: the JDK's jcmd, Tomcat's status
 * servlet, the database's own view of its sessions, and psql. None of our code reads theirs.
 */
public final class BesideBench {
  /** Tomcat as a process; not listed, as nobody calls it by hand. */
  static final String TOMCAT = "beside-tomcat";

  private static final int HELD = 7;
  private static final int REQUESTS = 400;
  private static final int HELD_SESSIONS = 4;
  private static final int TRIES = 20;

  private final List<Row> rows = new ArrayList<>();

  /**
   * One counter.
   *
   * @param least the lesser of what their tool said before and after ours was read
   * @param most the greater of the two
   */
  public record Row(
      String of, String counter, double ours, double least, double most, String tool) {

    static Row between(
        String of, String counter, double ours, double before, double after, String tool) {
      return new Row(of, counter, ours, Math.min(before, after), Math.max(before, after), tool);
    }

    public boolean agrees() {
      return least <= ours && ours <= most;
    }
  }

  /** Asks one side once more. */
  @FunctionalInterface
  private interface Asked {
    double ask() throws Exception;
  }

  private BesideBench() {}

  static void run(String[] options) throws Exception {
    List<Row> rows = rows(Path.of(System.getProperty("jamjar.home", ".")));
    System.out.printf(
        "%-10s %-26s %14s %14s %14s  %s%n",
        "of", "counter", "ours", "theirs, least", "most", "their tool");
    for (Row row : rows) {
      System.out.printf(
          "%-10s %-26s %14.0f %14.0f %14.0f  %s%s%n",
          row.of(),
          row.counter(),
          row.ours(),
          row.least(),
          row.most(),
          row.tool(),
          row.agrees() ? "" : "  DIFFERS");
    }
    System.out.printf("%d of %d agree%n", rows.stream().filter(Row::agrees).count(), rows.size());
  }

  /**
   * Starts all, reads both sides and ends it.
   *
   * @param home the folder of the checkout
   */
  public static List<Row> rows(Path home) throws Exception {
    BesideBench bench = new BesideBench();
    // one of its own: its sessions are counted
    TemporaryCluster cluster = TemporaryCluster.start(Map.of("autovacuum_naptime", "1d"));
    String database = cluster.newDatabase();
    Path jar = home.resolve("bench/target/bench-0.1.0-exec.jar");
    int http = PrivateCluster.freePort();
    int jmx = PrivateCluster.freePort();
    List<String> command =
        List.of(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-Xmx200m",
            "-XX:+UseSerialGC",
            "-Dcom.sun.management.jmxremote.port=" + jmx,
            "-Dcom.sun.management.jmxremote.rmi.port=" + jmx,
            "-Dcom.sun.management.jmxremote.host=127.0.0.1",
            "-Djava.rmi.server.hostname=127.0.0.1",
            "-Dcom.sun.management.jmxremote.authenticate=false",
            "-Dcom.sun.management.jmxremote.ssl=false",
            "-jar",
            jar.toString(),
            TOMCAT,
            Integer.toString(http),
            cluster.cluster().url(database));
    ProcessBuilder builder =
        new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.DISCARD);
    builder.environment().put("TARGET_PASSWORD", cluster.cluster().password());
    Process tomcat = builder.start();
    try {
      var reader = tomcat.inputReader();
      for (String line = reader.readLine(); !"ready".equals(line); line = reader.readLine()) {
        if (line == null) {
          throw new IOException("Tomcat did not start");
        }
      }
      Target target = new Target("127.0.0.1", jmx, "", Target.Tls.OFF, "", "", "");
      bench.tomcat(target, tomcat.pid(), "http://127.0.0.1:" + http, cluster, database);
      bench.jvm(target, tomcat.pid());
    } finally {
      tomcat.destroyForcibly();
      tomcat.onExit().join();
    }
    bench.postgres(cluster, database);
    return bench.rows;
  }

  private void tomcat(
      Target target, long process, String http, TemporaryCluster cluster, String database)
      throws Exception {
    LoadedRecipe recipe = RecipeFile.shipped("tomcat");
    HttpClient client = HttpClient.newHttpClient();
    String connector = "\"http-nio-127.0.0.1-" + URI.create(http).getPort() + "\"";
    try (JmxCollector collector = JmxCollector.of(target, recipe, Pace.FAST, Clock.systemUTC())) {
      Derived derived = new Derived(collector, recipe);
      get(client, http + "/shop/book?ms=1");
      String status = http + "/status/?XML=true";
      // theirs, ours, theirs again, before what is done and after it
      String first = get(client, status);
      derived.read();
      String second = get(client, status);
      for (int i = 0; i < REQUESTS; i++) {
        get(client, http + "/shop/book?ms=2");
      }
      for (int i = 0; i < 5; i++) {
        get(client, http + "/shop/book?fail=yes");
      }
      String third = get(client, status);
      Reading reading = derived.read();
      String fourth = get(client, status);
      SeriesKey served = labelled("requests.served", "requests", connector);
      for (Map.Entry<String, String> total :
          Map.of(
                  "requests.served", "requestCount",
                  "requests.errors", "errorCount",
                  "requests.time", "processingTime")
              .entrySet()) {
        Pattern theirs = near(connector, total.getValue());
        rows.add(
            Row.between(
                "Tomcat",
                total.getKey(),
                reading.value(served.withCounter(total.getKey())),
                number(third, theirs) - number(second, theirs),
                number(fourth, theirs) - number(first, theirs),
                "status servlet"));
      }

      for (int i = 0; i < HELD; i++) {
        client.sendAsync(
            HttpRequest.newBuilder(URI.create(http + "/shop/book?ms=300000")).build(),
            BodyHandlers.ofString());
      }
      String sessions =
          "select count(*) from pg_stat_activity where application_name = 'bookingPool'";
      String busy = sessions + " and state = 'active'";
      while (!psql(cluster, database, busy).equals(Integer.toString(HELD))) {
        Thread.sleep(50);
      }
      SeriesKey pool = labelled("pool.in_use", "pool", "bookingPool");
      Pattern threads = near(connector, "currentThreadsBusy");
      Pattern maximum = near(connector, "maxThreads");
      moving(
          "Tomcat",
          "requests.busy",
          derived.of(served.withCounter("requests.busy")),
          // the request for the status is busy itself
          () -> number(get(client, status), threads) - 1,
          "status servlet");
      moving(
          "Tomcat",
          "requests.max",
          derived.of(served.withCounter("requests.max")),
          () -> number(get(client, status), maximum),
          "status servlet");
      moving(
          "Tomcat",
          "pool.in_use",
          derived.of(pool),
          () -> asked(cluster, database, busy),
          "pg_stat_activity by psql");
      moving(
          "Tomcat",
          "pool.in_use + pool.idle",
          () -> {
            Reading now = derived.read();
            return now.value(pool) + now.value(pool.withCounter("pool.idle"));
          },
          () -> asked(cluster, database, sessions),
          "pg_stat_activity by psql");
      moving(
          "Tomcat",
          "threads.live",
          derived.of(SeriesKey.of("threads.live")),
          () -> perf(process, "java.threads.live"),
          "jcmd PerfCounter.print");
      moving(
          "Tomcat",
          "classes.loaded",
          derived.of(SeriesKey.of("classes.loaded")),
          () ->
              perf(process, "java.cls.loadedClasses")
                  + perf(process, "java.cls.sharedLoadedClasses")
                  - perf(process, "java.cls.unloadedClasses"),
          "jcmd PerfCounter.print");
      // so that something lies in the old generation
      jcmd(process, "GC.run");
      SeriesKey old = labelled("memory.pool_used", "pool", "Tenured Gen");
      Pattern used = Pattern.compile("tenured generation\\s+total \\d+K, used (\\d+)K");
      moving(
          "Tomcat",
          "memory.pool_used, old, KiB",
          () -> Math.floor(derived.read().value(old) / 1024),
          () -> number(jcmd(process, "GC.heap_info"), used),
          "jcmd GC.heap_info");
    } finally {
      // what is held lasts longer than all that was looked at
      cluster.run(
          "postgres",
          "select pg_terminate_backend(pid) from pg_stat_activity"
              + " where application_name = 'bookingPool'");
    }
  }

  /** The JVM under the server, as any other. */
  private void jvm(Target target, long process) throws Exception {
    LoadedRecipe recipe = RecipeFile.shipped("jvm");
    try (JmxCollector collector = JmxCollector.of(target, recipe, Pace.FAST, Clock.systemUTC())) {
      Derived derived = new Derived(collector, recipe);
      derived.read();
      double young = perf(process, "sun.gc.collector.0.invocations");
      double old = perf(process, "sun.gc.collector.1.invocations");
      jcmd(process, "GC.run");
      jcmd(process, "GC.run");
      Reading reading = derived.read();
      add(
          "JVM",
          "collections.count",
          reading.value(SeriesKey.of("collections.count")),
          perf(process, "sun.gc.collector.0.invocations")
              - young
              + perf(process, "sun.gc.collector.1.invocations")
              - old,
          "jcmd PerfCounter.print");
      add(
          "JVM",
          "old_generation.max, KiB",
          reading.value(SeriesKey.of("old_generation.max")) / 1024,
          perf(process, "sun.gc.generation.1.maxCapacity") / 1024,
          "jcmd PerfCounter.print");
      moving(
          "JVM",
          "heap.committed, KiB",
          () -> derived.read().value(SeriesKey.of("heap.committed")) / 1024,
          () -> {
            String heap = jcmd(process, "GC.heap_info");
            return number(heap, Pattern.compile("def new generation\\s+total (\\d+)K"))
                + number(heap, Pattern.compile("tenured generation\\s+total (\\d+)K"));
          },
          "jcmd GC.heap_info");
      moving(
          "JVM",
          "threads.live",
          derived.of(SeriesKey.of("threads.live")),
          () -> perf(process, "java.threads.live"),
          "jcmd PerfCounter.print");
      moving(
          "JVM",
          "threads.daemon",
          derived.of(SeriesKey.of("threads.daemon")),
          () -> perf(process, "java.threads.daemon"),
          "jcmd PerfCounter.print");
      moving(
          "JVM",
          "files.open",
          derived.of(SeriesKey.of("files.open")),
          () -> files(process),
          "/proc/PID/fd");
      add(
          "JVM",
          "machine.processors",
          reading.value(SeriesKey.of("machine.processors")),
          Double.parseDouble(run(List.of("nproc"), Map.of())),
          "nproc");
    }
  }

  private void postgres(TemporaryCluster cluster, String database) throws Exception {
    cluster.run(database, "create extension pg_stat_statements");
    cluster.run(database, "create table berth as select generate_series(1, 50000) as number");
    cluster.run(database, "analyze berth");
    Target target =
        new Target(
            "127.0.0.1",
            cluster.cluster().port(),
            database,
            Target.Tls.OFF,
            "",
            "postgres",
            cluster.cluster().password());
    LoadedRecipe recipe = RecipeFile.shipped("postgresql");
    OwnCommits own = OwnCommits.after(Optional.empty(), database);
    try (Collector fast =
            PostgresCollector.of(
                target,
                RecipeFile.shipped("postgresql").recipe(),
                Pace.FAST,
                own,
                Clock.systemUTC());
        Collector slow =
            PostgresCollector.of(
                target,
                RecipeFile.shipped("postgresql").recipe(),
                Pace.SLOW,
                own,
                Clock.systemUTC());
        Connection holder = held(cluster, database, "lock table berth in exclusive mode");
        Connection idle = held(cluster, database, "select 1");
        Connection looking = cluster.connect(database);
        Waiter waiter = new Waiter(cluster, database)) {
      String inserted =
          "select tup_inserted from pg_stat_database where datname = current_database()";
      String waiting = "select count(*) from pg_stat_activity where wait_event_type = 'Lock'";
      while (asked(cluster, database, waiting) < 1) {
        Thread.sleep(20);
      }
      Derived derived = new Derived(fast, recipe);
      derived.read();
      double before = asked(cluster, database, inserted);
      cluster.run(database, "create table scan as select generate_series(1, 1234) as gate");
      while (asked(cluster, database, inserted) < before + 1234) {
        Thread.sleep(20);
      }
      double after = asked(cluster, database, inserted);
      String others = " and pid <> pg_backend_pid() and application_name not like 'jamjar%'";
      String sessions =
          "select count(*) from pg_stat_activity where backend_type = 'client backend'" + others;
      // who has gone, psql too, takes a moment to be gone; this one stays, and is one of the held
      while (count(
              looking,
              "select count(*) from pg_stat_activity where backend_type ="
                  + " 'client backend' and application_name not like 'jamjar%'")
          > HELD_SESSIONS) {
        Thread.sleep(20);
      }
      SeriesKey rows = labelled("rows.inserted", "database", database);
      double insertedSince = derived.read().value(rows);
      add("PostgreSQL", "rows.inserted", insertedSince, after - before, "psql");
      Derived sizes = new Derived(slow, recipe);
      psqlRow(derived, SeriesKey.of("connections.maximum"), cluster, "show max_connections");
      psqlRow(derived, SeriesKey.of("sessions.total"), cluster, sessions);
      psqlRow(
          derived,
          SeriesKey.of("sessions.idle_in_transaction"),
          cluster,
          "select count(*) from pg_stat_activity where state = 'idle in transaction'" + others);
      psqlRow(derived, SeriesKey.of("sessions.waiting_lock"), cluster, waiting);
      psqlRow(
          derived,
          SeriesKey.of("locks.waiters"),
          cluster,
          "select count(distinct pid) from pg_locks where not granted");
      psqlRow(
          derived,
          labelled("vacuum.age", "database", database),
          cluster,
          "select age(datfrozenxid) from pg_database where datname = '" + database + "'");
      psqlRow(
          sizes,
          labelled("size.database", "database", database),
          cluster,
          "select pg_database_size('" + database + "')");
      moving(
          "PostgreSQL",
          "size.table of berth",
          sizes.of(labelled("size.table", "table", "berth")),
          () -> asked(cluster, database, "select pg_total_relation_size('berth')"),
          "psql");
      psqlRow(
          derived,
          SeriesKey.of("replication.standbys"),
          cluster,
          "select count(*) from pg_stat_replication");
      psqlRow(
          derived,
          SeriesKey.of("transactions.prepared"),
          cluster,
          "select count(*) from pg_prepared_xacts");
    }
  }

  private void psqlRow(Derived derived, SeriesKey key, TemporaryCluster cluster, String sql)
      throws Exception {
    moving(
        "PostgreSQL",
        key.counter(),
        derived.of(key),
        () -> asked(cluster, "postgres", sql),
        "psql");
  }

  /** A number that moves: theirs, ours and theirs again, until ours lies between. */
  private void moving(String of, String counter, Asked ours, Asked theirs, String tool)
      throws Exception {
    Row row = null;
    for (int i = 0; i < TRIES && (row == null || !row.agrees()); i++) {
      double before = theirs.ask();
      double mine = ours.ask();
      row = Row.between(of, counter, mine, before, theirs.ask(), tool);
    }
    rows.add(row);
  }

  private static Connection held(TemporaryCluster cluster, String database, String sql)
      throws SQLException {
    Connection connection = cluster.connect(database);
    connection.setAutoCommit(false);
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
    return connection;
  }

  /** A session that waits for a lock until it is closed. */
  private static final class Waiter implements AutoCloseable {
    private final Connection connection;
    private final Thread thread;

    Waiter(TemporaryCluster cluster, String database) throws SQLException {
      connection = cluster.connect(database);
      thread =
          new Thread(
              () -> {
                try (Statement statement = connection.createStatement()) {
                  statement.execute("delete from berth");
                } catch (SQLException e) {
                  // cut off in the end, as wanted
                }
              });
      thread.start();
    }

    @Override
    public void close() throws SQLException, InterruptedException {
      connection.abort(Runnable::run);
      thread.join();
    }
  }

  private static long count(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getLong(1);
    }
  }

  private static double asked(TemporaryCluster cluster, String database, String sql)
      throws IOException {
    return Double.parseDouble(psql(cluster, database, sql));
  }

  /** A number that stands still, or is the same however often it is asked for. */
  private void add(String of, String counter, double ours, double theirs, String tool) {
    rows.add(Row.between(of, counter, ours, theirs, theirs, tool));
  }

  private static SeriesKey labelled(String counter, String label, String value) {
    String bare = value.startsWith("\"") ? value.substring(1, value.length() - 1) : value;
    return SeriesKey.of(counter, label, bare);
  }

  /** An attribute of the status page's part for a connector. */
  private static Pattern near(String connector, String attribute) {
    String bare = Pattern.quote(connector.replace("\"", ""));
    return Pattern.compile(
        "<connector name='[^>]*" + bare + "[^>]*>.*?" + attribute + "=\"(-?\\d+)\"",
        Pattern.DOTALL);
  }

  private static double number(String text, Pattern pattern) {
    Matcher matcher = pattern.matcher(text);
    if (!matcher.find()) {
      throw new IllegalStateException("no " + pattern + " in: " + text);
    }
    return Double.parseDouble(matcher.group(1));
  }

  private static String get(HttpClient client, String address)
      throws IOException, InterruptedException {
    HttpResponse<String> answer =
        client.send(HttpRequest.newBuilder(URI.create(address)).build(), BodyHandlers.ofString());
    return answer.body();
  }

  private static double perf(long process, String counter) throws IOException {
    return number(
        jcmd(process, "PerfCounter.print"), Pattern.compile(Pattern.quote(counter) + "=(\\d+)"));
  }

  private static String jcmd(long process, String command) throws IOException {
    return run(
        List.of(
            Path.of(System.getProperty("java.home"), "bin", "jcmd").toString(),
            Long.toString(process),
            command),
        Map.of());
  }

  private static double files(long process) throws IOException {
    try (var files = java.nio.file.Files.list(Path.of("/proc/" + process + "/fd"))) {
      return files.count();
    }
  }

  private static String psql(TemporaryCluster cluster, String database, String sql)
      throws IOException {
    return run(
        List.of(
            "psql",
            "-h",
            "127.0.0.1",
            "-p",
            Integer.toString(cluster.cluster().port()),
            "-U",
            "postgres",
            "-d",
            database,
            "-Atc",
            sql),
        Map.of("PGPASSWORD", cluster.cluster().password()));
  }

  private static String run(List<String> command, Map<String, String> environment)
      throws IOException {
    ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
    builder.environment().putAll(environment);
    Process process = builder.start();
    process.getOutputStream().close();
    return new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
  }

  /** What is kept of raw readings, one after the other. */
  private static final class Derived {
    private final Collector collector;
    private final LoadedRecipe recipe;
    private Optional<LastTotals> last = Optional.empty();

    Derived(Collector collector, LoadedRecipe recipe) {
      this.collector = collector;
      this.recipe = recipe;
    }

    /** One value of the next reading. */
    Asked of(SeriesKey key) {
      return () -> read().value(key);
    }

    Reading read() throws Exception {
      Increases.Step step = Increases.derive(last, collector.read(), recipe.recipe());
      last = Optional.of(step.last());
      return step.reading();
    }
  }
}
