package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.reading.SeriesKey;
import jamjar.server.normals.NormalsService;
import jamjar.store.cluster.PrivateCluster;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Files;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A standby that becomes a writer. */
class RoleApiTest {
  private static final SeriesKey SESSIONS = SeriesKey.of("sessions.total");
  private static RunningServer server;
  private static TemporaryCluster writer;
  private static PrivateCluster standby;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    writer = TemporaryCluster.start(Map.of());
    writer.run("postgres", "create role role_reader login password 'p' in role pg_monitor");
    writer.run("postgres", "select pg_create_physical_replication_slot('standby')");
    standby = new PrivateCluster(Files.createTempDirectory("jamjar-standby"));
    standby.startReplicaOf(
        writer.cluster(),
        "standby",
        Map.of(
            "fsync", "off",
            "max_connections", "120",
            "shared_preload_libraries", "pg_stat_statements"));
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
    standby.remove();
    writer.cluster().remove();
  }

  @Test
  void its_normal_as_a_reader_is_none_of_the_writer_and_the_change_is_marked() throws Exception {
    Map<String, Object> body = Bodies.engine("booking-db-b", standby.port(), "role_reader", "p");
    int id = server.send("POST", "/api/instances", body).body().get("id").asInt();
    Bodies.await("it is a reader", () -> roles(id).equals(List.of("reader")));
    Minutely.bring(server, 2, at -> Minutely.at(id, at, List.of(SESSIONS), 100));
    int series = server.store().readings().numbers(id, List.of(SESSIONS), Instant.now())[0];
    NormalsService normals = server.bean(NormalsService.class);
    normals.learnNow(id);
    assertThat(normals.now(id, series, System.currentTimeMillis()).p50()).isEqualTo(100);

    Instant promoted = Instant.now();
    try (var connection =
            java.sql.DriverManager.getConnection(
                standby.url("postgres"), "postgres", standby.password());
        var statement = connection.createStatement()) {
      statement.execute("select pg_promote()");
    }
    Bodies.await("it is a writer", () -> roles(id).equals(List.of("writer", "reader")));
    Bodies.await("the change is marked", () -> markers().contains("role reader → writer"));
    Bodies.await(
        "the normal of a reader is not held against it",
        () -> !normals.now(id, series, System.currentTimeMillis()).known());
    // nor once it was learned again, of the little that it did as a writer
    Bodies.await(
        "it is learned again",
        () -> server.store().normals().learned(id).orElseThrow().at().isAfter(promoted));
    normals.learnNow(id);
    assertThat(normals.now(id, series, System.currentTimeMillis()).known()).isFalse();
    // what was normal of the reader stands at its time
    long yesterday = System.currentTimeMillis() - 86_400_000;
    JsonNode week = server.get("/api/baselines/" + series + "/week?at=" + yesterday);
    assertThat(week.get("weeks").toString()).contains("role: reader");
  }

  private static List<String> roles(int id) throws Exception {
    return server
        .get("/api/instances/" + id + "/facts")
        .valueStream()
        .filter(fact -> fact.get("name").asString().equals("role"))
        .map(fact -> fact.get("value").asString())
        .toList();
  }

  private static String markers() throws Exception {
    long now = System.currentTimeMillis();
    return server.get("/api/markers?from=" + (now - 600_000) + "&to=" + (now + 60_000)).toString();
  }
}
