package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.store.cluster.TemporaryCluster;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What an engine says of itself, when it changes. */
class FactsApiTest {
  private static RunningServer server;
  private static TemporaryCluster engine;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = TemporaryCluster.start(Map.of());
    engine.run("postgres", "create role reader login password 'p' in role pg_monitor");
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
    engine.cluster().remove();
  }

  @Test
  void a_changed_setting_waits_in_sight_for_the_restart_then_is_kept_and_marked() throws Exception {
    int id =
        server
            .send(
                "POST",
                "/api/instances",
                Bodies.engine("factual", engine.cluster().port(), "reader", "p"))
            .body()
            .get("id")
            .asInt();
    Bodies.await("its facts", () -> values(id, "settings/max_connections").equals(List.of("120")));
    assertThat(values(id, "version").get(0)).startsWith("15");
    // what this session alone has set is no fact of the engine
    assertThat(values(id, "settings/statement_timeout")).isEmpty();
    assertThat(state(id).get("restart").asString()).isEmpty();

    engine.run("postgres", "alter system set max_connections = 140");
    engine.run("postgres", "select pg_reload_conf()");
    server.send("POST", "/api/instances/" + id + "/pause", null);
    assertThat(state(id).get("state").asString()).isEqualTo("paused");
    server.send("POST", "/api/instances/" + id + "/resume", null);
    Bodies.await(
        "it waits for a restart",
        () -> state(id).get("restart").asString().equals("max_connections"));

    engine.restart();
    Bodies.await("it is done", () -> state(id).get("restart").asString().isEmpty());
    Bodies.await(
        "the change is kept",
        () -> values(id, "settings/max_connections").equals(List.of("140", "120")));
    Bodies.await("it is marked", () -> markers().contains("max_connections 120 → 140"));
    JsonNode found = server.get("/api/instances/" + id + "/facts");
    assertThat(found.toString()).doesNotContain("\"p\"");
  }

  private static List<String> values(int id, String name) throws Exception {
    return server
        .get("/api/instances/" + id + "/facts")
        .valueStream()
        .filter(f -> f.get("name").asString().equals(name))
        .map(f -> f.get("value").asString())
        .toList();
  }

  private static JsonNode state(int id) throws Exception {
    return server.get("/api/instances/" + id).get("state");
  }

  private static String markers() throws Exception {
    long now = System.currentTimeMillis();
    return server.get("/api/markers?from=" + (now - 600_000) + "&to=" + (now + 1000)).toString();
  }
}
