package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Every way in which an open alert loses the limit that holds it: it ends, once, with its reason,
 * and nothing stays open when all is gone.
 */
class LostLimitsApiTest {
  private static final String LIVE = "threads.live";
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
  void an_alert_that_nothing_holds_any_more_ends_once_with_its_reason() throws Exception {
    // the shipped limit of the kind would hold some of them still
    JsonNode shipped =
        server
            .get("/api/limits")
            .valueStream()
            .filter(
                l ->
                    l.get("condition").asString().equals("unreachable")
                        && l.get("scope").get("of").asString().equals("jvm"))
            .findFirst()
            .orElseThrow();
    Map<String, Object> off = unreachable("kind", "jvm", 2.0);
    off.put("on", false);
    off.put("offReason", "each is looked at by itself");
    server.send("PUT", "/api/limits/" + shipped.get("id").asInt(), off);
    server.send("POST", "/api/limits", unreachable("group", "gates", 2.0));
    Map<String, Integer> ids = new LinkedHashMap<>();
    for (String name :
        List.of("switched", "deleted", "moved", "paused", "removed", "paused-then-removed")) {
      ids.put(name, add(name, name.equals("moved") ? "gates" : ""));
    }
    Map<String, Integer> limits = new HashMap<>();
    for (String name : ids.keySet()) {
      if (!name.equals("moved")) {
        limits.put(name, limit(unreachable("instance", ids.get(name).toString(), 2.0)));
      }
    }
    int own = ownInstance();
    int live = limit(counter(LIVE, own, 1.0));
    Map<String, Long> alerts = new LinkedHashMap<>();
    for (Map.Entry<String, Integer> one : ids.entrySet()) {
      Bodies.await(one.getKey() + " is told", () -> open(one.getValue()) != 0);
      alerts.put(one.getKey(), open(one.getValue()));
    }
    Bodies.await("Jam Jar's own is told", () -> open(own) != 0);
    alerts.put("left out", open(own));

    Map<String, Object> switched = unreachable("instance", ids.get("switched").toString(), 2.0);
    switched.put("on", false);
    switched.put("offReason", "known");
    server.send("PUT", "/api/limits/" + limits.get("switched"), switched);
    server.send("DELETE", "/api/limits/" + limits.get("deleted"), null);
    Map<String, Object> moved = body("moved", "elsewhere");
    server.send("PUT", "/api/instances/" + ids.get("moved") + "?insist=true", moved);
    server.send("POST", "/api/instances/" + ids.get("paused") + "/pause", null);
    server.send("DELETE", "/api/instances/" + ids.get("removed"), null);
    server.send("POST", "/api/instances/" + ids.get("paused-then-removed") + "/pause", null);
    server.send("DELETE", "/api/instances/" + ids.get("paused-then-removed"), null);
    server.send(
        "PUT",
        "/api/recipes/jamjar",
        Map.of(
            "text", "kind: jamjar\nname: Jam Jar\nbasedOn: [jamjar]\nwithout: [" + LIVE + "]\n"));

    Map<String, String> why =
        Map.of(
            "switched", "switched off",
            "deleted", "switched off",
            "moved", "moved to another group",
            "paused", "paused",
            "removed", "removed",
            "paused-then-removed", "paused",
            "left out", "left out of the recipe");
    for (Map.Entry<String, Long> alert : alerts.entrySet()) {
      Bodies.await(
          alert.getKey() + " has ended",
          () -> !server.get("/api/alerts/" + alert.getValue()).get("ended").isNull());
      List<String> states = states(alert.getValue());
      assertThat(states).as(alert.getKey()).endsWith(why.get(alert.getKey()));
      assertThat(states).as(alert.getKey()).containsOnlyOnce(why.get(alert.getKey()));
    }

    // back in force it is a new alert, and goes with its instance
    server.send("POST", "/api/instances/" + ids.get("paused") + "/resume", null);
    Bodies.await("told again", () -> open(ids.get("paused")) != 0);
    assertThat(open(ids.get("paused"))).isNotEqualTo(alerts.get("paused"));
    for (String name : List.of("switched", "deleted", "moved", "paused")) {
      server.send("DELETE", "/api/instances/" + ids.get(name), null);
    }
    server.send("DELETE", "/api/limits/" + live, null);
    assertThat(server.get("/api/alerts").size()).isZero();
    assertThat(server.store().alerts().open()).isEmpty();
    for (int id : ids.values()) {
      assertThat(server.store().states().ofInstance(id)).isEmpty();
    }
    tellsWhoChangedWhat(ids.get("moved"));
  }

  /** Each change stands in the history, as it was before and after. */
  private static void tellsWhoChangedWhat(int moved) throws Exception {
    long now = System.currentTimeMillis();
    List<String> changes = new ArrayList<>();
    JsonNode all = server.get("/api/changes?from=" + (now - 600_000) + "&to=" + now);
    for (JsonNode change : all) {
      assertThat(change.get("who").asString()).isEqualTo("program");
      if (change.get("what").asString().equals("instance")
          && change.get("of").asString().equals(Integer.toString(moved))) {
        changes.add(change.get("before") + " → " + change.get("after"));
      }
    }
    assertThat(changes).hasSize(3);
    assertThat(changes.get(0)).endsWith("→ null");
    assertThat(changes.get(1)).contains("gates").contains("elsewhere");
    assertThat(changes.get(2)).startsWith("null →");
    assertThat(all.toString()).doesNotContain("planted-secret");
  }

  private static List<String> states(long alert) throws Exception {
    return server
        .get("/api/alerts/" + alert)
        .get("transitions")
        .valueStream()
        .map(t -> t.get("to").asString())
        .toList();
  }

  /** The number of the open alert of an instance; 0 for none. */
  private static long open(int instance) throws Exception {
    return server
        .get("/api/alerts")
        .valueStream()
        .filter(a -> a.get("instance").asInt() == instance)
        .mapToLong(a -> a.get("id").asLong())
        .findFirst()
        .orElse(0);
  }

  private static int ownInstance() throws Exception {
    return server
        .get("/api/instances")
        .valueStream()
        .filter(i -> i.get("kind").asString().equals("jamjar"))
        .findFirst()
        .orElseThrow()
        .get("id")
        .asInt();
  }

  private static int add(String name, String group) throws Exception {
    RunningServer.Answer answer =
        server.send("POST", "/api/instances?insist=true", body(name, group));
    assertThat(answer.status()).isEqualTo(201);
    return answer.body().get("id").asInt();
  }

  /** A JVM where nobody listens. */
  private static Map<String, Object> body(String name, String group) {
    Map<String, Object> body = Bodies.engine(name, 1, "reader", "planted-secret");
    body.put("kind", "jvm");
    body.put("recipe", "jvm");
    body.put("group", group);
    return body;
  }

  private static int limit(Map<String, Object> body) throws Exception {
    RunningServer.Answer answer = server.send("POST", "/api/limits", body);
    assertThat(answer.status()).isEqualTo(201);
    return answer.body().get("id").asInt();
  }

  private static Map<String, Object> unreachable(String level, String of, double intervals) {
    Map<String, Object> body = limitBody("", level, of, "unreachable");
    body.put("warning", intervals);
    return body;
  }

  private static Map<String, Object> counter(String counter, int instance, double number) {
    Map<String, Object> body = limitBody(counter, "instance", Integer.toString(instance), "above");
    body.put("warning", number);
    return body;
  }

  private static Map<String, Object> limitBody(
      String counter, String level, String of, String condition) {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", counter);
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", level, "of", of));
    body.put("condition", condition);
    body.put("hold", Map.of("m", 1, "n", 1));
    body.put("clear", Map.of());
    body.put("on", true);
    body.put("offReason", "");
    return body;
  }
}
