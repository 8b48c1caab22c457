package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.preflight.LastChecks;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What an instance may be made into, and Jam Jar itself among them. */
class InstancesApiTest {
  private static RunningServer server;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void jam_jar_itself_is_there_once_is_not_counted_and_cannot_be_added_or_removed()
      throws Exception {
    List<JsonNode> own =
        server
            .get("/api/instances")
            .valueStream()
            .filter(i -> i.get("kind").asString().equals("jamjar"))
            .toList();
    assertThat(own).hasSize(1);
    assertThat(server.get("/api/health").get("instances").asInt()).isZero();
    assertThat(server.send("POST", "/api/instances?insist=true", body("jamjar", "jamjar")).status())
        .isEqualTo(422);
    int id = own.get(0).get("id").asInt();
    assertThat(server.send("DELETE", "/api/instances/" + id, null).status()).isEqualTo(422);
    assertThat(server.get("/api/instances/" + id).get("name").asString()).isEqualTo("Jam Jar");
  }

  @Test
  void it_tells_how_large_its_store_is_and_not_what_it_cannot_know() throws Exception {
    int own =
        server
            .get("/api/instances")
            .valueStream()
            .filter(i -> i.get("kind").asString().equals("jamjar"))
            .findFirst()
            .orElseThrow()
            .get("id")
            .asInt();
    Bodies.await(
        "the size is known",
        () ->
            server
                .get("/api/instances/" + own + "/series")
                .valueStream()
                .anyMatch(
                    s ->
                        s.get("counter").asString().equals("store.size")
                            && s.get("value").asDouble() > 1_000_000));
    assertThat(server.get("/api/instances/" + own + "/series").valueStream())
        .filteredOn(s -> s.get("counter").asString().equals("store.free"))
        .as("the database is elsewhere")
        .allMatch(s -> s.get("value").isNull());
  }

  @Test
  void an_instance_stays_of_its_kind_so_that_its_checks_are_not_got_round() throws Exception {
    int id = server.instance("booking-db-a", "", "");
    RunningServer.Answer answer = server.send("PUT", "/api/instances/" + id, body("jvm", "jvm"));
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body().get("field").asString()).isEqualTo("kind");
  }

  @Test
  void what_a_kind_needs_is_asked_for_with_the_field() throws Exception {
    assertField("recipe", body("jvm", "tomcat"));
    Map<String, Object> nowhere = body("appserver", "tomcat");
    nowhere.put("endpoint", endpoint("127.0.0.1", 0));
    assertField("endpoint.port", nowhere);
    Map<String, Object> which = body("jvm", "jvm");
    which.put("endpoint", endpoint("", 0));
    assertField("endpoint.database", which);
  }

  @Test
  void recipes_are_offered_without_those_that_only_serve_others() throws Exception {
    assertThat(
            server
                .get("/api/recipes")
                .get("recipes")
                .valueStream()
                .map(r -> r.get("key").asString()))
        .contains("postgresql", "jvm", "tomcat")
        .doesNotContain("appserver");
  }

  @Test
  void an_arrangement_is_kept_for_a_kind_or_an_instance_until_it_is_forgotten() throws Exception {
    String path = "/api/arrangements";
    Map<String, Object> kind =
        Map.of("reach", "kind", "of", "jvm", "charts", List.of("heap.used@2x1", "threads.live"));
    server.send("PUT", path, kind);
    server.send(
        "PUT", path, Map.of("reach", "instance", "of", "7", "charts", List.of("threads.live")));
    assertThat(server.get(path).toString())
        .contains("[\"heap.used@2x1\",\"threads.live\"]", "\"of\":\"7\"");
    server.send("PUT", path, Map.of("reach", "kind", "of", "jvm", "charts", List.of("heap.used")));
    assertThat(server.get(path).toString()).contains("[\"heap.used\"]").doesNotContain("@2x1");
    assertThat(server.send("DELETE", path + "?reach=kind&of=jvm", null).status()).isEqualTo(204);
    assertThat(server.get(path).toString()).contains("\"of\":\"7\"").doesNotContain("jvm");
    assertField(
        "reach", "PUT", path, Map.of("reach", "all", "of", "jvm", "charts", List.of("heap.used")));
    assertField("charts", "PUT", path, Map.of("reach", "kind", "of", "jvm", "charts", List.of()));
  }

  @Test
  void one_that_is_another_version_is_checked_by_itself() throws Exception {
    Map<String, Object> body = body("jvm", "jvm");
    body.put("name", "upgraded");
    int id = server.send("POST", "/api/instances?insist=true", body).body().get("id").asInt();
    // it is not read: what it says of itself is said here
    server.send("POST", "/api/instances/" + id + "/pause", null);
    LastChecks checks = server.bean(LastChecks.class);
    for (String version : List.of("17.0.4", "17.0.4")) {
      checks.facts(id, Instant.now(), Map.of("version", version));
    }
    assertThat(checkedBy(id)).isNotEqualTo("version");
    checks.facts(id, Instant.now(), Map.of("version", "21.0.1"));
    Bodies.await("it is checked", () -> checkedBy(id).equals("version"));
    server.send("DELETE", "/api/instances/" + id, null);
  }

  private static String checkedBy(int id) throws Exception {
    return server.get("/api/instances/" + id + "/preflight").get("by").asString();
  }

  @Test
  void the_expected_number_of_a_group_is_kept_and_changed() throws Exception {
    Map<String, Object> gates = Map.of("name", "gates", "site", "Southmole", "expected", 3);
    server.send("PUT", "/api/groups", gates);
    server.send("PUT", "/api/groups", Map.of("name", "gates", "site", "Southmole", "expected", 2));
    assertThat(server.get("/api/groups").toString())
        .isEqualTo("[{\"name\":\"gates\",\"site\":\"Southmole\",\"expected\":2,\"command\":\"\"}]");
    assertThat(
            server
                .send("PUT", "/api/groups", Map.of("name", "gates", "site", "", "expected", -1))
                .status())
        .isEqualTo(422);
  }

  private static void assertField(String field, Map<String, Object> body) throws Exception {
    assertField(field, "POST", "/api/instances", body);
  }

  private static void assertField(
      String field, String method, String path, Map<String, Object> body) throws Exception {
    RunningServer.Answer answer = server.send(method, path, body);
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body().get("field").asString()).isEqualTo(field);
  }

  private static Map<String, Object> endpoint(String host, int port) {
    return Map.of("host", host, "port", port, "database", "", "tls", "off", "ca", "");
  }

  private static Map<String, Object> body(String kind, String recipe) {
    Map<String, Object> body = Bodies.engine("one of " + kind, 1, "", "");
    body.put("kind", kind);
    body.put("endpoint", endpoint("127.0.0.1", 1));
    body.put("recipe", recipe);
    body.put("interval", 10);
    return body;
  }
}
