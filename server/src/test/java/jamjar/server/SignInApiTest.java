package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.RunningServer.Answer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Who is let in, by what, for how long, and what of it fails as it must. */
class SignInApiTest {
  private static final String SECRET = "five herons on a winter quay";
  private static RunningServer server;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
  }

  @AfterAll
  static void stop() throws Exception {
    server.close();
  }

  /** An account with a password, of a browser that is signed in by it. */
  private static Browser person(String name, String role) throws Exception {
    if (server.send("GET", "/api/accounts", null).body().isEmpty()) {
      first();
    }
    server.send("POST", "/api/accounts", Map.of("name", name, "role", role, "off", false));
    Browser browser = new Browser(server);
    assertThat(
            browser.send("POST", "/api/session/key", Map.of("key", server.entryKey(name))).status())
        .isEqualTo(200);
    Map<String, String> renewed = Map.of("old", "", "password", SECRET);
    assertThat(browser.send("PUT", "/api/account/password", renewed).status()).isEqualTo(200);
    return browser;
  }

  private static Browser first() throws Exception {
    Browser browser = new Browser(server);
    browser.enterFirst("ragna", SECRET);
    return browser;
  }

  private static Answer signIn(Browser browser, String name, String password) throws Exception {
    return browser.send("POST", "/api/session", Map.of("name", name, "password", password));
  }

  private static int numberOf(String name) throws Exception {
    for (JsonNode one : server.get("/api/accounts")) {
      if (one.get("name").asString().equals(name)) {
        return one.get("id").asInt();
      }
    }
    throw new AssertionError("no account " + name);
  }

  @Test
  void the_first_administrator_is_made_by_a_key_that_lets_in_once() throws Exception {
    try (RunningServer fresh = new RunningServer()) {
      Browser browser = new Browser(fresh);
      assertThat(browser.send("GET", "/api/session", null).body().get("first").asBoolean())
          .isTrue();
      String key = fresh.entryKey("");
      Map<String, String> entering = Map.of("key", key);
      Answer asked = browser.send("POST", "/api/session/key", entering);
      assertThat(asked.body().get("first").asBoolean()).isTrue();
      // too short, and too well known
      for (String weak : List.of("herons", "password1234", "qwertyuiop12")) {
        Answer answer =
            browser.send(
                "POST",
                "/api/accounts/first",
                Map.of("key", key, "name", "ragna", "password", weak));
        assertThat(answer.status()).isEqualTo(422);
        assertThat(answer.body().get("field").asString()).isEqualTo("password");
      }
      Map<String, String> whole = Map.of("key", key, "name", "ragna", "password", SECRET);
      Answer made = browser.send("POST", "/api/accounts/first", whole);
      assertThat(made.body().get("role").asString()).isEqualTo("administer");
      assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(200);
      Browser other = new Browser(fresh);
      assertThat(other.send("POST", "/api/accounts/first", whole).status()).isEqualTo(401);
      assertThat(other.send("POST", "/api/session/key", entering).status()).isEqualTo(401);
      assertThat(other.send("GET", "/api/session", null).body().get("first").asBoolean()).isFalse();
    }
  }

  @Test
  void nobody_sees_anything_before_they_sign_in_and_nothing_after_they_sign_out() throws Exception {
    Browser browser = person("tove", "look");
    Browser stranger = new Browser(server);
    for (String path : List.of("/api/instances", "/api/alerts", "/api/live", "/api/openapi.json")) {
      assertThat(stranger.send("GET", path, null).status()).as(path).isEqualTo(401);
    }
    JsonNode health = stranger.send("GET", "/api/health", null).body();
    assertThat(health.get("database").asBoolean()).isTrue();
    assertThat(health.get("instances").isNull()).isTrue();
    assertThat(browser.send("GET", "/api/health", null).body().get("instances").isNull()).isFalse();
    assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(200);
    assertThat(browser.send("DELETE", "/api/session", null).status()).isEqualTo(204);
    assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(401);
  }

  @Test
  void a_wrong_name_and_a_wrong_password_are_told_alike_and_slowed() throws Exception {
    person("eskil", "act");
    Browser browser = new Browser(server);
    Answer wrong = signIn(browser, "eskil", "five herons");
    Answer unknown = signIn(browser, "nobody", "five herons");
    assertThat(wrong.status()).isEqualTo(401);
    assertThat(unknown).isEqualTo(wrong);
    signIn(browser, "eskil", "a");
    signIn(browser, "eskil", "b");
    // now also the right one has to wait
    assertThat(signIn(browser, "eskil", SECRET).status()).isEqualTo(429);
    assertThat(server.text("/api/audit?from=0&to=4102444800000&words=eskil+sign"))
        .doesNotContain(SECRET)
        .contains("refused", "let in");
  }

  @Test
  void signing_in_gives_the_session_another_name() throws Exception {
    Browser browser = person("fixed", "look");
    Callable<Integer> stolen = browser.stolen("/api/instances");
    assertThat(stolen.call()).isEqualTo(200);
    assertThat(signIn(browser, "fixed", SECRET).status()).isEqualTo(200);
    // the one that was known is nobody's any more
    assertThat(stolen.call()).isEqualTo(401);
    assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(200);
  }

  @Test
  void a_page_from_elsewhere_changes_nothing() throws Exception {
    Browser browser = person("sunniva", "shape");
    Answer forged = browser.forged("DELETE", "/api/account/sessions", null);
    assertThat(forged.status()).isEqualTo(403);
    assertThat(forged.body().get("type").asString()).isEqualTo("urn:jamjar:forged");
    assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(200);
    assertThat(new Browser(server).forged("POST", "/api/session", Map.of()).status())
        .isEqualTo(403);
  }

  @Test
  void a_role_that_is_changed_and_an_account_that_is_off_count_at_once() throws Exception {
    Browser browser = person("ingrid", "shape");
    int id = numberOf("ingrid");
    Map<String, Object> group = Map.of("name", "gates", "site", "Northquay", "expected", 2);
    assertThat(browser.send("PUT", "/api/groups", group).status()).isLessThan(300);
    server.send("PUT", "/api/accounts/" + id, account("ingrid", "look", false));
    Answer refused = browser.send("PUT", "/api/groups", group);
    assertThat(refused.status()).isEqualTo(403);
    assertThat(refused.body().get("detail").asString())
        .contains("takes the role 'shape'", "ingrid has 'look'");
    server.send("PUT", "/api/accounts/" + id, account("ingrid", "look", true));
    assertThat(browser.send("GET", "/api/instances", null).status()).isEqualTo(401);
    assertThat(signIn(browser, "ingrid", SECRET).status()).isEqualTo(401);
  }

  private static Map<String, Object> account(String name, String role, boolean off) {
    return Map.of("name", name, "role", role, "off", off);
  }

  @Test
  void who_forgot_the_password_comes_in_by_a_key_and_sets_another() throws Exception {
    Browser before = person("jorunn", "look");
    Map<String, String> unknown = Map.of("old", "a guess", "password", SECRET + " again");
    assertThat(before.send("PUT", "/api/account/password", unknown).status()).isEqualTo(422);
    Browser browser = new Browser(server);
    browser.send("POST", "/api/session/key", Map.of("key", server.entryKey("jorunn")));
    Map<String, String> other = Map.of("old", "", "password", SECRET + " again");
    assertThat(browser.send("PUT", "/api/account/password", other).status()).isEqualTo(200);
    // from then on it takes the old one again, and whoever knew that is out
    assertThat(browser.send("PUT", "/api/account/password", other).status()).isEqualTo(422);
    assertThat(before.send("GET", "/api/instances", null).status()).isEqualTo(401);
    assertThat(signIn(new Browser(server), "jorunn", SECRET + " again").status()).isEqualTo(200);
    assertThat(signIn(new Browser(server), "jorunn", SECRET).status()).isEqualTo(401);
  }

  @Test
  void two_who_make_the_first_at_the_same_moment_make_one() throws Exception {
    try (RunningServer fresh = new RunningServer()) {
      List<String> keys = new ArrayList<>();
      for (int i = 0; i < 2; i++) {
        keys.add(fresh.entryKey(""));
      }
      assertThat(made(fresh, keys.get(0), "Program").status()).isEqualTo(422);
      List<Integer> statuses =
          IntStream.range(0, 2)
              .parallel()
              .mapToObj(
                  i -> {
                    try {
                      return made(fresh, keys.get(i), "first " + i).status();
                    } catch (Exception e) {
                      throw new IllegalStateException(e);
                    }
                  })
              .toList();
      assertThat(statuses).containsExactlyInAnyOrder(200, 401);
      assertThat(fresh.get("/api/accounts")).hasSize(1);
    }
  }

  private static Answer made(RunningServer where, String key, String name) throws Exception {
    Map<String, String> body = Map.of("key", key, "name", name, "password", SECRET);
    return new Browser(where).send("POST", "/api/accounts/first", body);
  }

  @Test
  void a_name_is_one_persons_or_one_programs() throws Exception {
    long ends = System.currentTimeMillis() + 60_000;
    server.send("POST", "/api/accounts", account("both", "look", false));
    for (String name : List.of("Both", "program", "Jam Jar")) {
      Map<String, Object> token = Map.of("name", name, "role", "act", "endsAt", ends);
      assertThat(server.send("POST", "/api/tokens", token).status()).as(name).isEqualTo(422);
    }
    server.send("POST", "/api/tokens", Map.of("name", "robot", "role", "act", "endsAt", ends));
    assertThat(server.send("POST", "/api/accounts", account("Robot", "look", false)).status())
        .isEqualTo(422);
  }

  @Test
  void signed_out_everywhere_is_everywhere() throws Exception {
    Browser one = person("aud", "look");
    Browser other = new Browser(server);
    assertThat(signIn(other, "AUD", SECRET).status()).isEqualTo(200);
    assertThat(one.send("DELETE", "/api/account/sessions", null).status()).isEqualTo(204);
    assertThat(one.send("GET", "/api/instances", null).status()).isEqualTo(401);
    assertThat(other.send("GET", "/api/instances", null).status()).isEqualTo(401);
  }

  @Test
  void each_sees_the_own_browsers_and_signs_one_of_them_out() throws Exception {
    Browser one = person("gro", "look");
    Browser other = new Browser(server);
    assertThat(signIn(other, "gro", SECRET).status()).isEqualTo(200);
    Browser stranger = person("stig", "look");
    JsonNode told = one.send("GET", "/api/account/sessions", null).body();
    assertThat(told).hasSize(2);
    assertThat(told.get(0).get("from").asString()).isEqualTo("127.0.0.1");
    JsonNode there =
        told.valueStream().filter(b -> !b.get("here").asBoolean()).findFirst().orElseThrow();
    assertThat(there.get("by").asString()).isEqualTo("password");
    String path = "/api/account/sessions/" + there.get("name").asString();
    // another's is not there, for who asks for it
    assertThat(stranger.send("DELETE", path, null).status()).isEqualTo(404);
    assertThat(other.send("GET", "/api/instances", null).status()).isEqualTo(200);
    assertThat(one.send("DELETE", path, null).status()).isEqualTo(204);
    assertThat(other.send("GET", "/api/instances", null).status()).isEqualTo(401);
    assertThat(one.send("GET", "/api/instances", null).status()).isEqualTo(200);
    // nor does what it is called let in
    assertThat(told.toString()).doesNotContain(one.cookie("jamjar").orElseThrow());
    assertThat(server.send("GET", "/api/account/sessions", null).status()).isEqualTo(404);
  }

  @Test
  void how_somebody_likes_it_is_kept_for_every_browser_of_theirs() throws Exception {
    Browser one = person("ebba", "look");
    JsonNode told = one.send("GET", "/api/account/likes", null).body();
    assertThat(told.get("firstView").asString()).isEqualTo("shelf");
    Map<String, Object> likes =
        Map.of("theme", "dark", "keys", false, "firstView", "alerts", "zone", "Asia/Kathmandu");
    assertThat(one.send("PUT", "/api/account/likes", likes).status()).isEqualTo(200);
    Browser other = new Browser(server);
    assertThat(signIn(other, "ebba", SECRET).status()).isEqualTo(200);
    assertThat(other.send("GET", "/api/account/likes", null).body())
        .isEqualTo(one.send("GET", "/api/account/likes", null).body());
    JsonNode kept = other.send("GET", "/api/account/likes", null).body();
    assertThat(kept.get("zone").asString()).isEqualTo("Asia/Kathmandu");
    assertThat(kept.get("keys").asBoolean()).isFalse();
    // one choice undoes no other
    Answer changed = one.send("PUT", "/api/account/likes", Map.of("firstView", "limits"));
    assertThat(changed.status()).isEqualTo(200);
    assertThat(changed.body().get("theme").asString()).isEqualTo("dark");
    assertThat(changed.body().get("firstView").asString()).isEqualTo("limits");
    assertThat(changed.body().get("keys").asBoolean()).isFalse();
    Answer refused = one.send("PUT", "/api/account/likes", Map.of("zone", "Atlantis/Capital"));
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.body().get("field").asString()).isEqualTo("zone");
    // nobody else's
    Browser stranger = person("folke", "look");
    assertThat(stranger.send("GET", "/api/account/likes", null).body().get("theme").asString())
        .isEmpty();
    assertThat(server.send("GET", "/api/account/likes", null).status()).isEqualTo(404);
  }

  @Test
  void how_the_server_is_set_is_told_without_its_secrets() throws Exception {
    String told = server.text("/api/settings");
    assertThat(told).contains("127.0.0.1:" + server.port(), "secret.key", "--sign-on");
    assertThat(told).doesNotContain("password\":");
    assertThat(person("hanne", "shape").send("GET", "/api/settings", null).status()).isEqualTo(403);
  }

  @Test
  void the_last_who_administers_stays() throws Exception {
    try (RunningServer fresh = new RunningServer()) {
      fresh.send("POST", "/api/accounts", account("ragna", "administer", false));
      int id = fresh.get("/api/accounts").get(0).get("id").asInt();
      assertThat(fresh.send("DELETE", "/api/accounts/" + id, null).status()).isEqualTo(422);
      assertThat(
              fresh
                  .send("PUT", "/api/accounts/" + id, account("ragna", "administer", true))
                  .status())
          .isEqualTo(422);
      fresh.send("POST", "/api/accounts", account("second", "administer", false));
      assertThat(fresh.send("DELETE", "/api/accounts/" + id, null).status()).isEqualTo(204);
    }
  }

  @Test
  void a_token_is_told_once_goes_as_far_as_its_role_and_ends() throws Exception {
    long ends = System.currentTimeMillis() + 60_000;
    Answer made =
        server.send("POST", "/api/tokens", Map.of("name", "deploy", "role", "act", "endsAt", ends));
    String token = made.body().get("token").asString();
    assertThat(server.get("/api/tokens").toString()).contains("deploy").doesNotContain(token);
    assertThat(server.as(token, "GET", "/api/instances", null).status()).isEqualTo(200);
    // its own bounds are not its to widen
    assertThat(
            server
                .as(
                    token,
                    "POST",
                    "/api/tokens",
                    Map.of("name", "x", "role", "administer", "endsAt", ends))
                .status())
        .isEqualTo(403);
    assertThat(server.as(token, "PUT", "/api/groups", Map.of()).status()).isEqualTo(403);
    long far = System.currentTimeMillis() + 400L * 86_400_000;
    assertThat(
            server
                .send("POST", "/api/tokens", Map.of("name", "far", "role", "act", "endsAt", far))
                .status())
        .isEqualTo(422);
    int id = server.get("/api/tokens").get(0).get("id").asInt();
    server.send("DELETE", "/api/tokens/" + id, null);
    assertThat(server.as(token, "GET", "/api/instances", null).status()).isEqualTo(401);
  }

  @Test
  void who_did_what_stays_as_it_was_told() throws Exception {
    server.send("POST", "/api/accounts", account("to be seen", "look", false));
    JsonNode told = server.get("/api/audit?from=0&to=4102444800000&words=account+seen");
    assertThat(told).hasSize(1);
    assertThat(told.get(0).get("who").asString()).isEqualTo("program");
    assertThat(told.get(0).get("address").asString()).isEqualTo("127.0.0.1");
    assertThat(server.text("/api/audit.csv?from=0&to=4102444800000"))
        .startsWith("at,who,address,what,which,before,after")
        .contains("to be seen");
    // what no service tells of is told by what was asked; what only looks is not
    Map<String, Object> arrangement = Map.of("reach", "kind", "of", "jvm", "charts", List.of("a"));
    server.send("PUT", "/api/arrangements", arrangement);
    server.send("PUT", "/api/arrangements", Map.of());
    server.send("POST", "/api/points", Map.of());
    assertThat(server.get("/api/audit?from=0&to=4102444800000&words=asked").valueStream())
        .extracting(one -> one.get("of").asString())
        .containsOnlyOnce("PUT /api/arrangements")
        .doesNotContain("POST /api/points");
    server.send("POST", "/api/keys", Map.of("name", "to be seen"));
    assertThat(server.text("/api/audit?from=0&to=4102444800000&words=account+seen"))
        .contains("keyUntil");
    assertThat(server.changesRefuse("truncate change")).contains("only ever added to");
    assertThat(server.changesRefuse("delete from change")).contains("only ever added to");
    assertThat(server.changesRefuse("update change set who = 'x'")).contains("only ever added to");
  }
}
