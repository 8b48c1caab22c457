package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.RunningServer.Answer;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Limits over the API: what is refused and why, what is shipped, and how it comes back. */
class LimitsApiTest {
  private static RunningServer server;
  private static int instance;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    instance = server.instance("booking-db-a", "booking-db", "Northquay");
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void sensible_limits_are_shipped_for_the_kind() throws Exception {
    JsonNode limits = server.get("/api/limits");
    assertThat(limits.valueStream().map(l -> l.get("counter").asString()))
        .contains(
            "",
            "connections.share",
            "sessions.waiting_lock",
            "locks.oldest_wait",
            "sessions.longest_transaction",
            "blocks.hit_ratio",
            "deadlocks",
            "replication.replay_delay",
            "vacuum.age");
    assertThat(limits.valueStream())
        .allSatisfy(l -> assertThat(l.get("shipped").asBoolean()).isTrue());
  }

  @ParameterizedTest(name = "{0} = {1}: {2}")
  @CsvSource({
    "counter, no.such, counter",
    "counter, '', counter",
    "critical, 2, critical",
    "clear, 9, clear.number",
    "condition, sideways, condition",
    "offReason, '', offReason",
  })
  void what_cannot_be_is_refused_with_the_field_at_fault(String field, String value, String fault)
      throws Exception {
    Map<String, Object> body = body("sessions.active");
    switch (field) {
      case "critical" -> body.put("critical", Double.valueOf(value));
      case "clear" -> body.put("clear", Map.of("number", Double.valueOf(value)));
      case "offReason" -> body.put("on", false);
      default -> body.put(field, value);
    }
    Answer answer = server.send("POST", "/api/limits", body);
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body().get("field").asString()).isEqualTo(fault);
    assertThat(answer.body().get("detail").asString()).isNotBlank();
  }

  @Test
  void a_hold_of_more_than_all_is_refused() throws Exception {
    Map<String, Object> body = body("sessions.active");
    body.put("hold", Map.of("m", 4, "n", 3));
    assertThat(server.send("POST", "/api/limits", body).body().get("field").asString())
        .isEqualTo("hold");
  }

  @Test
  void there_are_no_two_of_the_same_reach() throws Exception {
    Map<String, Object> body = body("sessions.idle");
    Answer first = server.send("POST", "/api/limits", body);
    assertThat(first.status()).isEqualTo(201);
    Answer second = server.send("POST", "/api/limits", body);
    assertThat(second.status()).isEqualTo(422);
    assertThat(second.body().get("detail").asString()).contains("already");
    int id = first.body().get("id").asInt();
    assertThat(server.send("DELETE", "/api/limits/" + id, null).status()).isEqualTo(204);
    assertThat(server.send("PUT", "/api/limits/" + id, body).status()).isEqualTo(404);
  }

  @Test
  void several_are_changed_at_once_or_none_where_one_is_at_fault() throws Exception {
    Map<String, Object> idle = body("sessions.idle");
    Map<String, Object> total = body("sessions.total");
    int first = server.send("POST", "/api/limits", idle).body().get("id").asInt();
    int second = server.send("POST", "/api/limits", total).body().get("id").asInt();
    idle.put("warning", 70);
    idle.put("critical", 90);
    total.put("clear", Map.of("number", 9_999));
    Answer refused = server.send("PUT", "/api/limits", both(first, idle, second, total));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.body().get("field").asString()).isEqualTo("clear.number");
    assertThat(refused.body().get("detail").asString()).startsWith("sessions.total above");
    assertThat(find("sessions.idle").get("warning").asDouble()).isNotEqualTo(70);

    // one of them is gone: the other stays as it was too
    total.put("clear", Map.of());
    Answer gone = server.send("PUT", "/api/limits", both(first, idle, 99_999, total));
    assertThat(gone.status()).isEqualTo(404);
    assertThat(find("sessions.idle").get("warning").asDouble()).isNotEqualTo(70);

    for (String abusive : List.of("[]", "[null]", "[{}]", "{}", "[{\"id\":1,\"limit\":{}}]")) {
      assertThat(server.raw("PUT", "/api/limits", abusive, "application/json").status())
          .as(abusive)
          .isIn(400, 422);
    }

    Answer done = server.send("PUT", "/api/limits", both(first, idle, second, total));
    assertThat(done.status()).isEqualTo(200);
    assertThat(done.body()).hasSize(2);
    assertThat(find("sessions.idle").get("warning").asDouble()).isEqualTo(70);
    server.send("DELETE", "/api/limits/" + first, null);
    server.send("DELETE", "/api/limits/" + second, null);
  }

  private static List<Map<String, Object>> both(
      int first, Map<String, Object> one, int second, Map<String, Object> other) {
    return List.of(Map.of("id", first, "limit", one), Map.of("id", second, "limit", other));
  }

  @Test
  void a_shipped_limit_that_was_changed_comes_back_as_it_was_shipped() throws Exception {
    JsonNode shipped = find("locks.oldest_wait");
    Map<String, Object> body = body("locks.oldest_wait");
    body.put("scope", Map.of("level", "kind", "of", "postgresql"));
    body.put("warning", 99);
    body.put("critical", 999);
    server.send("PUT", "/api/limits/" + shipped.get("id").asInt(), body);
    JsonNode changed = find("locks.oldest_wait");
    assertThat(changed.get("warning").asDouble()).isEqualTo(99);
    assertThat(changed.get("shipped").asBoolean()).isFalse();

    server.send("DELETE", "/api/limits/" + changed.get("id").asInt(), null);
    JsonNode again = find("locks.oldest_wait");
    assertThat(again.get("warning")).isEqualTo(shipped.get("warning"));
    assertThat(again.get("shipped").asBoolean()).isTrue();
  }

  @Test
  void markers_are_set_changed_and_removed_and_must_end_after_they_begin() throws Exception {
    Map<String, Object> body = new HashMap<>();
    body.put("kind", "maintenance");
    body.put("title", "swap of a disk");
    body.put("note", "");
    body.put("from", 1_000_000);
    body.put("to", 999_999);
    body.put("reach", Map.of("level", "site", "of", "Northquay"));
    Answer wrong = server.send("POST", "/api/markers", body);
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.body().get("field").asString()).isEqualTo("to");

    body.put("to", 2_000_000);
    int id = server.send("POST", "/api/markers", body).body().get("id").asInt();
    assertThat(server.get("/api/markers?from=1500000&to=1600000")).hasSize(1);
    assertThat(server.get("/api/markers?from=2500000&to=2600000")).isEmpty();
    // while it lasts it touches every later time
    body.put("to", null);
    server.send("PUT", "/api/markers/" + id, body);
    assertThat(server.get("/api/markers?from=2500000&to=2600000")).hasSize(1);
    assertThat(server.send("DELETE", "/api/markers/" + id, null).status()).isEqualTo(204);
    assertThat(server.get("/api/markers?from=0&to=9999999")).isEmpty();
  }

  private static JsonNode find(String counter) throws Exception {
    return server
        .get("/api/limits")
        .valueStream()
        .filter(l -> l.get("counter").asString().equals(counter))
        .findFirst()
        .orElseThrow();
  }

  private static Map<String, Object> body(String counter) {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", counter);
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", "instance", "of", Integer.toString(instance)));
    body.put("condition", "above");
    body.put("warning", 5);
    body.put("critical", 20);
    body.put("clear", Map.of());
    body.put("offReason", "");
    return body;
  }
}
