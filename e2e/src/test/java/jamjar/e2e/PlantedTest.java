package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.chunk.CountedChunk;
import jamjar.core.chunk.LoggedChunk;
import jamjar.core.chunk.SampleChunk;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * A value and a password are given in what sessions run, in what is counted of statements and in
 * what the engine logs; then they are looked for in all that is kept and told.
 */
@SharedSite(second = true)
class PlantedTest {
  private static final String PLANTED = "planted-" + "plum-stone";
  private static final Duration NEXT_MINUTE = Duration.ofSeconds(120);
  private static final ExecutorService THREADS = Executors.newCachedThreadPool();
  private static Site site;
  private static int instance;
  private static Connection running;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("planted-db", 5);
  }

  @AfterAll
  static void stop() throws Exception {
    running.abort(Runnable::run);
    THREADS.shutdownNow();
    run("drop role if exists planted_role");
  }

  private static void run(String sql) throws SQLException {
    try (Connection program = site.folder().connect("plants");
        Statement statement = program.createStatement()) {
      statement.execute(sql);
    }
  }

  private static void fails(String sql) {
    try {
      run(sql);
    } catch (SQLException e) {
      return;
    }
    throw new AssertionError("it was done: " + sql);
  }

  private static String get(String path) throws Exception {
    return site.api().answer("GET", path, null, Map.of()).body();
  }

  private static String of(String what) {
    long now = System.currentTimeMillis();
    return "/api/instances/" + instance + what + "from=" + (now - 900_000) + "&to=" + now;
  }

  @Test
  void what_is_given_in_a_statement_is_kept_and_told_nowhere() throws Exception {
    Await.until(
        "the log is read", NEXT_MINUTE, () -> site.api().get(of("/log?")).get("read").asBoolean());
    running = site.folder().connect("plants");
    Statement statement = running.createStatement();
    THREADS.submit(() -> statement.execute("select pg_sleep(300), '" + PLANTED + "' as sampled"));
    Await.until(
        "it is sampled",
        NEXT_MINUTE,
        () -> get("/api/instances/" + instance + "/sessions").contains("as sampled"));
    run("create role planted_role password '" + PLANTED + "'");
    Await.until(
        "it is counted",
        NEXT_MINUTE,
        () -> {
          run("select '" + PLANTED + "' as tallied");
          return get(of("/statements?")).contains("as tallied");
        });
    run("select pg_sleep(0.2), '" + PLANTED + "' as logged");
    fails("select '" + PLANTED + "'::int as failed");
    fails("alter role planted_role password '" + PLANTED + "' nonsense");
    fails("select 1 where $$" + PLANTED + "$$ = E'" + PLANTED + "' as");
    Await.until("it is logged", NEXT_MINUTE, () -> get(of("/executions?")).contains("as logged"));
    Await.until("errors are logged", NEXT_MINUTE, () -> get(of("/log?")).contains("42601"));

    List<String> told = new ArrayList<>();
    for (String path : List.of("/sessions", "/locks")) {
      told.add(get("/api/instances/" + instance + path));
    }
    JsonNode statements = site.api().get(of("/statements?"));
    told.add(statements.toString());
    for (JsonNode row : statements.get("rows")) {
      told.add(get(of("/statements/" + row.get("fingerprint").asString() + "?")));
    }
    told.add(get(of("/busy?by=statement&")));
    told.add(get(of("/executions?")));
    told.add(get(of("/log?")));
    told.add(get("/api/estate/estate.yaml"));
    told.add(get("/api/estate/estate.csv"));
    told.add(store());
    told.add(journal());
    assertThat(told).allSatisfy(text -> assertThat(text).doesNotContain(PLANTED));
    // the look was at the right things
    assertThat(String.join("\n", told))
        .contains("as sampled", "as tallied", "as logged", "22P02", "create role … (not kept)");
  }

  /** What is packed, and the texts. */
  private static String store() throws SQLException {
    StringBuilder all = new StringBuilder();
    try (Connection connection = site.intoStore();
        Statement statement = connection.createStatement()) {
      rows(
          statement,
          "select body from sample",
          row -> SampleChunk.read(row.getBytes(1), all::append));
      rows(
          statement,
          "select body from statements",
          row -> CountedChunk.read(row.getBytes(1), all::append));
      rows(
          statement,
          "select body from logged",
          row -> LoggedChunk.read(row.getBytes(1), all::append));
      rows(statement, "select body from statement_text", row -> all.append(row.getString(1)));
      rows(statement, "select f::text from instance_fact f", row -> all.append(row.getString(1)));
    }
    return all.toString();
  }

  private interface Row {
    void take(ResultSet row) throws SQLException;
  }

  private static void rows(Statement statement, String sql, Row each) throws SQLException {
    try (ResultSet rows = statement.executeQuery(sql)) {
      while (rows.next()) {
        each.take(rows);
      }
    }
  }

  private static String journal() throws IOException {
    StringBuilder all = new StringBuilder();
    try (Stream<Path> files = Files.walk(site.data())) {
      for (Path file : files.filter(Files::isRegularFile).toList()) {
        all.append(Files.readString(file, StandardCharsets.ISO_8859_1));
      }
    }
    return all.toString();
  }
}
