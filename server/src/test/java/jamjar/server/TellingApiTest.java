package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.RunningServer.Answer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Who is told, and by what: what can be set, and what is refused. */
class TellingApiTest {
  private static final JsonMapper JSON = new JsonMapper();
  private static RunningServer server;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
  }

  @AfterAll
  static void stop() throws Exception {
    server.close();
  }

  private static Map<String, Object> mail(String from, String secret) {
    return mail("mail.invalid", "starttls", from, secret);
  }

  private static Map<String, Object> mail(String host, String tls, String from, String secret) {
    Map<String, Object> body = new HashMap<>();
    body.put(
        "mail",
        Map.of("host", host, "port", 587, "tls", tls, "ca", "", "user", "jj", "from", from));
    body.put("hook", null);
    body.put("secret", secret);
    return body;
  }

  private static Map<String, Object> hook(String url, String template) {
    Map<String, Object> body = new HashMap<>();
    body.put("mail", null);
    body.put("hook", Map.of("url", url, "ca", "", "template", template));
    body.put("secret", null);
    return body;
  }

  private static void refused(String field, Answer answer) {
    assertThat(answer.status()).as(answer.body().toString()).isEqualTo(422);
    assertThat(answer.body().get("field").asString()).isEqualTo(field);
  }

  private static Answer put(String path, Object body) throws Exception {
    return server.send("PUT", path, body);
  }

  @SuppressWarnings("unchecked")
  private static Map<String, Object> plan() throws Exception {
    return JSON.readValue(server.get("/api/telling").toString(), Map.class);
  }

  @Test
  void a_channel_keeps_its_secret_to_itself_and_to_the_place_it_was_typed_for() throws Exception {
    assertThat(put("/api/channels/post", mail("a@b.invalid", "planted-secret")).status())
        .isEqualTo(204);
    assertThat(server.get("/api/channels").toString())
        .contains("mail.invalid")
        .contains("\"hasSecret\":true")
        .doesNotContain("planted-secret");
    // as it is
    assertThat(put("/api/channels/post", mail("c@b.invalid", null)).status()).isEqualTo(204);
    Map<String, Object> elsewhere = mail("other.invalid", "starttls", "a@b.invalid", null);
    refused("secret", put("/api/channels/post", elsewhere));
    assertThat(server.get("/api/audit?from=0&to=4000000000000&words=").toString())
        .contains("post")
        .doesNotContain("planted-secret");
  }

  @Test
  void the_address_of_a_hook_is_a_secret_too() throws Exception {
    Map<String, Object> body = hook("https://hook.invalid/planted-path/x", "");
    body.put("secret", "planted-secret");
    assertThat(put("/api/channels/room", body).status()).isEqualTo(204);
    String told = server.get("/api/channels").toString();
    assertThat(told).contains("https://hook.invalid/…").doesNotContain("planted");
    // as it was told: as it is
    Map<String, Object> again = hook("https://hook.invalid/…", "{\"text\": \"{{subject}}\"}");
    assertThat(put("/api/channels/room", again).status()).isEqualTo(204);
    refused("hook.url", put("/api/channels/room", hook("https://other.invalid/…", "")));
    // a secret goes nowhere else
    refused("secret", put("/api/channels/room", hook("https://other.invalid/y", "")));
    assertThat(server.get("/api/audit?from=0&to=4000000000000&words=room").toString())
        .contains("hook.invalid")
        .doesNotContain("planted");
  }

  @Test
  void what_would_do_harm_is_refused() throws Exception {
    refused("mail.from", put("/api/channels/x", mail("a@b.invalid\r\nBcc: c@d.invalid", "")));
    for (String own :
        List.of("http://10.0.0.1/x", "http://[::1]/x", "http://169.254.169.254/latest")) {
      refused("hook.url", put("/api/channels/x", hook(own, "")));
    }
    Map<String, Object> bare = mail("mail.invalid", "off", "a@b.invalid", "secret");
    refused("mail.tls", put("/api/channels/x", bare));
    refused("hook.url", put("/api/channels/x", hook("file:///etc/passwd", "")));
    refused("hook.url", put("/api/channels/x", hook("https://a:b@hook.invalid/", "")));
    refused("hook.template", put("/api/channels/x", hook("https://hook.invalid/", "{{secret}}")));
    Map<String, Object> neither = mail("a@b.invalid", "");
    neither.put("mail", null);
    refused("kind", put("/api/channels/x", neither));
    assertThat(server.get("/api/channels").toString()).doesNotContain("\"x\"");
  }

  @Test
  void a_plan_is_whole_and_is_not_written_over() throws Exception {
    put("/api/channels/letters", mail("a@b.invalid", ""));
    Map<String, Object> plan = plan();
    List<Object> rules = new ArrayList<>((List<?>) plan.get("rules"));
    Map<String, Object> changed = new HashMap<>(plan);
    changed.put("rules", rules.subList(0, rules.size() - 1));
    refused("rules", put("/api/telling", changed));
    Map<String, Object> person =
        Map.of(
            "name", "anna",
            "ways", List.of(Map.of("channel", "letters", "address", "anna@b.invalid")),
            "hours", Map.of("days", List.of(), "from", 0, "to", 0, "holidays", "as_any"));
    changed.put("rules", rules);
    changed.put("people", List.of(person));
    Answer kept = put("/api/telling", changed);
    assertThat(kept.status()).as(kept.body().toString()).isEqualTo(200);
    assertThat(kept.body().get("version").asInt()).isEqualTo((int) plan.get("version") + 1);
    // of two at once the second is told
    refused("version", put("/api/telling", changed));
    Map<String, Object> nobody = new HashMap<>(plan());
    nobody.put("people", List.of());
    assertThat(put("/api/telling", nobody).status()).isEqualTo(200);
    Map<String, Object> evil = new HashMap<>(plan());
    evil.put(
        "people",
        List.of(
            Map.of(
                "name", "anna",
                "ways",
                    List.of(
                        Map.of("channel", "letters", "address", "a@b.invalid\nBcc: c@d.invalid")),
                "hours", Map.of("days", List.of(), "from", 0, "to", 0, "holidays", "as_any"))));
    refused("people", put("/api/telling", evil));
    Map<String, Object> used = new HashMap<>(plan());
    used.put("heartbeats", List.of(Map.of("channel", "letters", "address", "", "everyMinutes", 5)));
    put("/api/telling", used);
    assertThat(server.send("DELETE", "/api/channels/letters", null).status()).isEqualTo(422);
  }

  @Test
  void a_trial_tells_what_answered_and_a_swap_holds_for_its_time() throws Exception {
    put("/api/channels/nowhere", mail("a@b.invalid", ""));
    Answer trial =
        server.send("POST", "/api/channels/nowhere/trial", Map.of("address", "anna@b.invalid"));
    assertThat(trial.body().get("outcome").asString()).isEqualTo("again");
    assertThat(trial.body().get("answer").asString()).contains("mail.invalid");
    Map<String, Object> plan = plan();
    plan.put(
        "people",
        List.of(
            Map.of(
                "name", "bo",
                "ways", List.of(),
                "hours", Map.of("days", List.of(), "from", 0, "to", 0, "holidays", "as_any"))));
    assertThat(put("/api/telling", plan).status()).isEqualTo(200);
    long now = System.currentTimeMillis();
    Map<String, Object> swap = Map.of("from", now - 1_000, "to", now + 3_600_000, "person", "bo");
    Answer swapped = server.send("POST", "/api/telling/duty/on%20call/swap", swap);
    assertThat(swapped.status()).as(swapped.body().toString()).isEqualTo(200);
    JsonNode duty = server.get("/api/telling/duty").get(0);
    assertThat(duty.get("person").asString()).isEqualTo("bo");
    assertThat(duty.get("until").asLong()).isBetween(now + 3_000_000, now + 3_700_000);
    refused(
        "duties",
        server.send(
            "POST",
            "/api/telling/duty/on%20call/swap",
            Map.of("from", now, "to", now + 1_000, "person", "nobody there")));
  }
}
