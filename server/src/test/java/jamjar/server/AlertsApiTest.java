package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.counter.CounterDefinition;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Rule.Hold;
import jamjar.core.limit.Scope;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.store.alerts.JudgedStore.Judged;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Alerts over the API: told with value, normal and limit, acknowledged, muted by maintenance. */
class AlertsApiTest {
  private static final SeriesKey WAITERS = SeriesKey.of("sessions.waiting_lock");
  private static final CounterDefinition COUNTER =
      RecipeFile.shipped("postgresql").recipe().counters().get(WAITERS.counter());
  private static final int SERIES = 3;
  private static RunningServer server;
  private static int made;
  private int instance;
  private long alert;
  private long began;
  private int stored;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @BeforeEach
  void anAlertOfAnInstanceOfItsOwn() throws Exception {
    made++;
    instance = server.instance("db-" + made, "group-" + made, "site-" + made);
    rise();
    alert =
        server
            .get("/api/alerts")
            .valueStream()
            .filter(a -> a.get("instance").asInt() == instance)
            .findFirst()
            .orElseThrow()
            .get("id")
            .asLong();
  }

  @Test
  void it_is_told_with_value_normal_limit_and_transitions() throws Exception {
    JsonNode told = server.get("/api/alerts/" + alert);
    assertThat(told.get("instanceName").asString()).isEqualTo("db-" + made);
    assertThat(told.get("title").asString()).isEqualTo("Sessions waiting for a lock");
    assertThat(told.get("state").asString()).isEqualTo("warning");
    assertThat(told.get("value").asDouble()).isEqualTo(9);
    assertThat(told.get("normalLow").asDouble()).isZero();
    assertThat(told.get("normalHigh").asDouble()).isEqualTo(2);
    assertThat(told.get("number").asDouble()).isEqualTo(5);
    assertThat(told.get("ended").isNull()).isTrue();
    assertThat(told.get("transitions").valueStream().map(t -> t.get("to").asString()))
        .containsExactly("building", "warning");
    assertThat(server.get("/api/alerts/" + alert + "/rang").get("times").asInt()).isEqualTo(1);
  }

  @Test
  void it_is_acknowledged_with_a_note_and_commented() throws Exception {
    server.send("POST", "/api/alerts/" + alert + "/acknowledge", Map.of("note", "looking"));
    server.send("POST", "/api/alerts/" + alert + "/comments", Map.of("note", "fare reload"));
    JsonNode told = server.get("/api/alerts/" + alert);
    assertThat(told.get("acknowledged").get("note").asString()).isEqualTo("looking");
    assertThat(told.get("acknowledged").get("who").asString()).isEqualTo("program");
    assertThat(told.get("notes").get(0).get("note").asString()).isEqualTo("fare reload");
    assertThat(
            server.send("POST", "/api/alerts/" + alert + "/comments", Map.of("note", " ")).status())
        .isEqualTo(422);
    assertThat(server.send("POST", "/api/alerts/999999/acknowledge", Map.of("note", "")).status())
        .isEqualTo(404);
  }

  @Test
  void it_is_given_to_who_may_act_and_sees_it_and_to_nobody_else() throws Exception {
    account("may-" + made, "act", List.of());
    account("looks-" + made, "look", List.of());
    account("elsewhere-" + made, "act", List.of("site:elsewhere"));
    account("here-" + made, "shape", List.of("site:site-" + made));
    String path = "/api/alerts/" + alert + "/assigned";
    assertThat(server.get("/api/alerts/" + alert + "/assignable").valueStream())
        .extracting(JsonNode::asString)
        .contains("may-" + made, "here-" + made)
        .doesNotContain("looks-" + made, "elsewhere-" + made);
    assertThat(server.send("PUT", path, Map.of("to", "here-" + made)).status()).isEqualTo(200);
    JsonNode told = server.get("/api/alerts/" + alert);
    assertThat(told.get("assigned").asString()).isEqualTo("here-" + made);
    for (String nobody : List.of("looks-", "elsewhere-", "never-")) {
      assertThat(server.send("PUT", path, Map.of("to", nobody + made)).status()).isEqualTo(422);
    }
    // called otherwise, it is theirs still
    String name = "renamed-" + made;
    Map<String, Object> renamed =
        Map.of("name", name, "role", "shape", "off", false, "scope", List.of("site:site-" + made));
    server.send("PUT", "/api/accounts/" + id("here-" + made), renamed);
    assertThat(server.get("/api/alerts/" + alert).get("assigned").asString()).isEqualTo(name);
    assertThat(server.send("PUT", path, Map.of("to", "")).status()).isEqualTo(200);
    JsonNode last = server.get("/api/changes/of?what=alert&of=" + alert);
    assertThat(last.get(0).get("before").asString()).contains(name);
    assertThat(last.get(0).get("after").asString()).isEqualTo("{\"assigned\": \"\"}");
  }

  private static int id(String name) throws Exception {
    return server
        .get("/api/accounts")
        .valueStream()
        .filter(account -> account.get("name").asString().equals(name))
        .findFirst()
        .orElseThrow()
        .get("id")
        .asInt();
  }

  private static void account(String name, String role, List<String> scope) throws Exception {
    Map<String, Object> body = Map.of("name", name, "role", role, "scope", scope, "off", false);
    assertThat(server.send("POST", "/api/accounts", body).status()).isEqualTo(200);
  }

  @Test
  void maintenance_of_its_site_group_instance_or_everything_mutes_it_and_no_other()
      throws Exception {
    assertMuted("site", "site-" + made, true);
    assertMuted("group", "group-" + made, true);
    assertMuted("instance", Integer.toString(instance), true);
    assertMuted("all", "", true);
    assertMuted("site", "elsewhere", false);
  }

  @Test
  void one_who_knows_of_it_makes_it_step_back_until_then_or_until_it_gets_worse() throws Exception {
    long now = System.currentTimeMillis();
    String acknowledge = "/api/alerts/" + alert + "/acknowledge";
    assertThat(
            server
                .send("POST", acknowledge, Map.of("note", "", "until", now - 1))
                .body()
                .get("field")
                .asString())
        .isEqualTo("until");
    JsonNode told =
        server.send("POST", acknowledge, Map.of("note", "", "until", now + 3_600_000)).body();
    assertThat(told.get("known").asBoolean()).isTrue();
    assertThat(told.get("acknowledged").get("evenIfWorse").asBoolean()).isFalse();
    worsen();
    assertThat(server.get("/api/alerts/" + alert).get("known").asBoolean()).isFalse();
    assertThat(
            server
                .send("POST", acknowledge, Map.of("note", "", "evenIfWorse", true))
                .body()
                .get("known")
                .asBoolean())
        .isTrue();
  }

  @Test
  void what_it_is_read_with_is_told_with_it() throws Exception {
    long rule = server.get("/api/alerts/" + alert).get("limit").asLong();
    Map<String, Object> body =
        Map.of("reach", "limit", "of", "" + rule, "words", " ring the fares team ");
    assertThat(server.send("PUT", "/api/what-to-do", body).status()).isEqualTo(200);
    JsonNode story = server.get("/api/alerts/" + alert + "/story");
    assertThat(story.get("whatToDo").get(0).get("words").asString())
        .isEqualTo("ring the fares team");
    assertThat(story.get("suggests").asString()).isNotEmpty();
    assertThat(story.get("earlier")).isEmpty();
    assertThat(
            server
                .send("PUT", "/api/what-to-do", Map.of("reach", "site", "of", "x", "words", ""))
                .status())
        .isEqualTo(422);
    server.send("PUT", "/api/what-to-do", Map.of("reach", "limit", "of", "" + rule, "words", ""));
    assertThat(server.get("/api/alerts/" + alert + "/story").get("whatToDo")).isEmpty();
  }

  @Test
  void maintenance_that_comes_again_mutes_it_each_time_at_the_same_time_of_the_day()
      throws Exception {
    long now = System.currentTimeMillis();
    Map<String, Object> body = new HashMap<>();
    body.put("kind", "maintenance");
    body.put("title", "nightly backup");
    body.put("note", "");
    body.put("from", now - 3 * 86_400_000L - 600_000);
    body.put("to", now - 3 * 86_400_000L + 600_000);
    body.put("reach", Map.of("level", "instance", "of", "" + instance));
    body.put("repeats", "day");
    body.put("zone", "UTC");
    int marker = server.send("POST", "/api/markers", body).body().get("id").asInt();
    assertThat(server.get("/api/alerts/" + alert).get("quiet").asString()).isEqualTo("maintenance");
    long times =
        server
            .get("/api/markers?from=" + (now - 4 * 86_400_000L) + "&to=" + now)
            .valueStream()
            .filter(m -> m.get("id").asInt() == marker)
            .count();
    assertThat(times).isEqualTo(4);
    // each week it is on another day, and what has come for the last time comes no more
    body.put("repeats", "week");
    server.send("PUT", "/api/markers/" + marker, body);
    assertThat(server.get("/api/alerts/" + alert).get("quiet").asString()).isEmpty();
    body.put("repeats", "day");
    body.put("until", now - 86_400_000L);
    server.send("PUT", "/api/markers/" + marker, body);
    assertThat(server.get("/api/alerts/" + alert).get("quiet").asString()).isEmpty();
    body.put("to", now);
    assertThat(server.send("PUT", "/api/markers/" + marker, body).body().get("field").asString())
        .isEqualTo("to");
    server.send("DELETE", "/api/markers/" + marker, null);
  }

  @Test
  void an_alert_of_a_past_window_is_found_there_and_nowhere_else() throws Exception {
    long since = server.get("/api/alerts/" + alert).get("since").asLong();
    assertThat(ids("/api/alerts?state=all&from=" + since + "&to=" + (since + 1))).contains(alert);
    assertThat(ids("/api/alerts?state=all&from=1&to=2")).isEmpty();
    assertThat(server.send("GET", "/api/alerts?state=odd", null).status()).isEqualTo(422);
  }

  private static List<Long> ids(String path) throws Exception {
    return server.get(path).valueStream().map(a -> a.get("id").asLong()).toList();
  }

  private void assertMuted(String level, String of, boolean muted) throws Exception {
    Map<String, Object> body = new HashMap<>();
    body.put("kind", "maintenance");
    body.put("title", "announced");
    body.put("note", "");
    body.put("from", System.currentTimeMillis() - 1000);
    body.put("reach", Map.of("level", level, "of", of));
    int marker = server.send("POST", "/api/markers", body).body().get("id").asInt();
    assertThat(server.get("/api/alerts/" + alert).get("quiet").asString())
        .isEqualTo(muted ? "maintenance" : "");
    server.send("DELETE", "/api/markers/" + marker, null);
    assertThat(server.get("/api/alerts/" + alert).get("quiet").asString()).isEmpty();
  }

  private void rise() {
    judged(9, 9, 9, 9);
  }

  private void worsen() {
    judged(9, 9, 9, 9, 30, 30, 30, 30);
  }

  /** Judged as live judging would, and stored the same way; what is stored already is left. */
  private void judged(double... values) {
    Rule rule =
        new Rule(
            1,
            WAITERS.counter(),
            Map.of(),
            Scope.instance(instance),
            Condition.ABOVE,
            5.0,
            20.0,
            new Hold(2, 2),
            null,
            null,
            null,
            null,
            true);
    InForce inForce =
        InForce.of(
                List.of(rule),
                new InForce.Place(instance, "", "postgresql"),
                WAITERS,
                COUNTER,
                true,
                10_000)
            .get(0);
    long from = began == 0 ? System.currentTimeMillis() - 90_000 : began;
    began = from;
    Docket docket =
        new Docket(
            List.of(new Docket.Entry(SERIES, COUNTER, inForce)),
            Map.of(),
            from,
            from,
            (series, at) -> new Normal(0, 0, 0, 1, 2, 90, Basis.ALL));
    for (int reading = 0; reading < values.length; reading++) {
      long at = from + 10_000L * reading;
      List<Docket.Change> changes =
          docket.read(
              at,
              at + 5,
              new int[] {SERIES},
              List.of(new Shown(WAITERS, values[reading], null, values[reading], 1)));
      if (reading >= stored) {
        server
            .store()
            .judged()
            .write(new Judged(instance, changes, changes.stream().map(c -> WAITERS).toList()));
        stored++;
      }
    }
  }
}
