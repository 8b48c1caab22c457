package jamjar.server;

import static jamjar.server.TwoScopes.COUNTER;
import static jamjar.server.TwoScopes.HIDDEN;
import static jamjar.server.TwoScopes.body;
import static jamjar.server.TwoScopes.group;
import static jamjar.server.TwoScopes.limit;
import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.RunningServer.Answer;
import jamjar.server.TwoScopes.Thing;
import jamjar.server.security.Permits;
import jamjar.server.security.Permits.Bound;
import jamjar.server.security.Role;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * One of two instances is in the scope of who asks: every call of the API is made for the other.
 */
class ScopesApiTest {
  private static TwoScopes world;
  private static RunningServer server;

  @BeforeAll
  static void start() throws Exception {
    world = new TwoScopes();
    server = world.server;
  }

  @AfterAll
  static void end() throws Exception {
    world.close();
  }

  private static List<Permits.Row> rows(Bound bound) {
    return Permits.rows().stream()
        .filter(row -> row.bound() == bound)
        .filter(row -> row.least().map(Role.SHAPE::may).orElse(true))
        .toList();
  }

  private static final List<String> GUARDED =
      List.of("{instance}", "{series}", "{alert}", "{marker}", "{limit}");

  @Test
  void what_a_path_names_is_not_there_out_of_the_scope_in_the_words_of_what_is_nowhere()
      throws Exception {
    List<String> wrong = new ArrayList<>();
    List<Permits.Row> guarded =
        Permits.rows().stream()
            .filter(row -> GUARDED.stream().anyMatch(row.path()::contains))
            .filter(row -> row.bound() != Bound.WHOLE)
            .toList();
    assertThat(guarded).hasSizeGreaterThan(40);
    for (Permits.Row row : guarded) {
      String rest = row.path().replaceAll("\\{(frozen|at)}", "1").replace("{fingerprint}", "ab");
      Object body = row.method().matches("GET|DELETE") ? null : Map.of();
      Thing nothing = new Thing(987_654, 987_654, 987_654, 987_654, 987_654);
      Answer hidden = server.as(world.scoped, row.method(), world.out.in(rest), body);
      Answer nowhere = server.as(world.scoped, row.method(), nothing.in(rest), body);
      String told = hidden.text().replaceAll(" \\d+\\.\"", "");
      String words = nowhere.text().replaceAll(" \\d+\\.\"", "");
      if (hidden.status() != 404 || nowhere.status() != 404 || !told.equals(words)) {
        wrong.add(row.method() + " " + row.path() + ": " + hidden + " is not " + nowhere);
      }
      for (String written :
          List.of("0x" + Integer.toHexString(world.out.instance()), "%2B" + world.out.instance())) {
        String path = rest.replaceAll("\\{(instance|series|alert|marker|limit)}", written);
        int status = server.as(world.scoped, row.method(), path, body).status();
        if (status < 400 || status == 500) {
          wrong.add(row.method() + " " + path + ": " + status);
        }
      }
    }
    assertThat(wrong).isEmpty();
  }

  @Test
  void what_is_about_the_whole_estate_is_refused() throws Exception {
    List<String> wrong = new ArrayList<>();
    for (Permits.Row row : rows(Bound.WHOLE)) {
      String path = world.in.in(row.path()).replaceAll("\\{\\w+}", "one");
      Object body = row.method().matches("GET|DELETE") ? null : Map.of();
      Answer answer = server.as(world.scoped, row.method(), path, body);
      if (answer.status() != 403) {
        wrong.add(row.method() + " " + row.path() + ": " + answer);
      }
    }
    assertThat(wrong).isEmpty();
  }

  @Test
  void nothing_else_tells_of_what_is_out_of_the_scope_or_changes_it() throws Exception {
    Map<String, Object> bodies = world.bodies();
    world.told();
    List<String> wrong = new ArrayList<>();
    List<String> told = new ArrayList<>();
    for (Permits.Row row :
        Stream.concat(rows(Bound.WITHIN).stream(), rows(Bound.SAME).stream()).toList()) {
      String call = row.method() + " " + row.path();
      if (call.equals("GET /api/live")
          || call.contains("/api/session")
          || call.contains("{alert}")
          || call.contains("/account")
          || call.contains("{key}")) {
        continue;
      }
      String path = row.path().replace("{stream}", "one").replace("{rose}", world.alertKey());
      String asked = path + world.query(call);
      boolean reads = row.method().equals("GET");
      Object body = reads || row.method().equals("DELETE") ? null : bodies.get(call);
      if (!reads && !row.method().equals("DELETE") && body == null) {
        wrong.add(call + ": say with what it is to be tried");
        continue;
      }
      String answer = text(world.scoped, row.method(), asked, body);
      if (answer.toLowerCase(Locale.ROOT).contains(HIDDEN)) {
        wrong.add(call + " told " + answer);
      }
      int status = Integer.parseInt(answer.substring(0, 3));
      if (!reads && row.bound() == Bound.WITHIN && status < 400 && !asked.contains("replay")) {
        wrong.add(call + " was let: " + answer);
      }
      if (status >= 500) {
        wrong.add(call + " failed: " + answer);
      }
      if (reads && text(world.other, row.method(), asked, null).contains(HIDDEN)) {
        told.add(call);
      }
    }
    assertThat(wrong).isEmpty();
    // it would have been found
    assertThat(new TreeSet<>(told))
        .contains(
            "GET /api/alerts",
            "GET /api/changes",
            "GET /api/credentials",
            "GET /api/estate/estate.csv",
            "GET /api/estate/estate.yaml",
            "GET /api/groups",
            "GET /api/instances",
            "GET /api/markers",
            "GET /api/messages",
            "GET /api/messages/picture",
            "GET /api/together",
            "GET /api/together/strip",
            "GET /api/what-to-do");
  }

  @Test
  void what_is_told_by_number_alone_is_of_the_scope_too() throws Exception {
    String hidden = Integer.toString(world.out.instance());
    for (String path :
        List.of("/api/limits", "/api/limits/noise", "/api/arrangements", "/api/endpoints")) {
      assertThat(
              server.get(path).findValuesAsString("of").contains(hidden)
                  || server.get(path).findValuesAsString("instance").contains(hidden))
          .as(path)
          .isTrue();
      JsonNode told = server.as(world.scoped, "GET", path, null).body();
      assertThat(told.findValuesAsString("of")).as(path).doesNotContain(hidden);
      assertThat(told.findValuesAsString("instance")).as(path).doesNotContain(hidden);
    }
    String change = "/api/changes/of" + world.query("GET /api/changes/of");
    assertThat(server.as(world.other, "GET", change, null).body()).isNotEmpty();
    assertThat(server.as(world.scoped, "GET", change, null).body()).isEmpty();
    assertThat(
            server
                .as(world.scoped, "GET", "/api/gaps" + world.query("GET /api/gaps"), null)
                .status())
        .isEqualTo(404);
    assertThat(instances(world.scoped)).containsExactly("plain-db");
    assertThat(instances(world.other)).contains("plain-db", "hidden-db", "Jam Jar");
    assertThat(server.as(world.scoped, "GET", "/api/session", null).body().get("scope").toString())
        .isEqualTo("[\"site:Inside\",\"tag:none\"]");
  }

  private static List<String> instances(String token) throws Exception {
    return server.as(token, "GET", "/api/instances", null).body().findValuesAsString("name");
  }

  @Test
  void what_is_in_the_scope_is_there() throws Exception {
    List<String> wrong = new ArrayList<>();
    for (Permits.Row row : rows(Bound.PATH)) {
      if (row.method().equals("GET")
          && !row.path().replaceAll("\\{(instance|series|alert|marker)}", "").contains("{")) {
        int status =
            server.as(world.scoped, "GET", world.in.in(row.path()) + needed(), null).status();
        // of a counter, a bean or a pool that it has not
        if (status == 403 || status == 404 || status >= 500) {
          wrong.add(row.path() + ": " + status);
        }
      }
    }
    assertThat(wrong).isEmpty();
    List<Integer> series = List.of(world.in.series());
    assertThat(
            server
                .as(
                    world.scoped,
                    "POST",
                    "/api/moment",
                    Map.of("series", series, "at", world.began))
                .body()
                .get(0)
                .get("series")
                .asInt())
        .isEqualTo(world.in.series());
  }

  private static String needed() {
    return "?from="
        + (world.began - 3_600_000)
        + "&to="
        + (world.began + 1)
        + "&at="
        + world.began
        + "&counter="
        + COUNTER
        + "&user=nobody&program=none&bean=a:b=c";
  }

  @Test
  void who_may_shape_shapes_the_own_and_nothing_wider() throws Exception {
    String own = Integer.toString(world.in.instance());
    assertThat(put("/api/limits/" + world.in.limit(), limit("instance", own))).isEqualTo(200);
    assertThat(put("/api/limits/" + world.in.limit(), limit("kind", "postgresql"))).isEqualTo(403);
    assertThat(put("/api/limits/" + world.in.limit(), limit("instance", "" + world.out.instance())))
        .isEqualTo(403);
    int shipped = shipped();
    assertThat(put("/api/limits/" + shipped, limit("kind", "postgresql"))).isEqualTo(403);
    assertThat(server.as(world.scoped, "DELETE", "/api/limits/" + shipped, null).status())
        .isEqualTo(403);
    assertThat(put("/api/markers/" + world.in.marker(), world.marker("all", "", "wider")))
        .isEqualTo(403);
    assertThat(put("/api/markers/" + world.in.marker(), world.marker("site", "Inside", "own")))
        .isEqualTo(200);
    assertThat(put("/api/groups", group("plain", 4))).isEqualTo(200);
    // out of the scope with it, or another's password with it into the scope
    Map<String, Object> away = body("plain");
    away.put("site", "elsewhere");
    String path = "/api/instances/" + world.in.instance() + "?insist=true";
    assertThat(put(path, away)).isEqualTo(403);
    Map<String, Object> taken = body("plain");
    taken.put("credential", Map.of("user", "", "name", "hidden-readers"));
    assertThat(put(path, taken)).isEqualTo(422);
    assertThat(server.as(world.scoped, "POST", "/api/instances/preflight", taken).status())
        .isEqualTo(422);
    // what it uses and is not told of stays
    Map<String, Object> same = body("plain");
    same.put("uses", List.of());
    assertThat(put(path, same)).isEqualTo(200);
    assertThat(server.get("/api/instances/" + world.in.instance()).get("uses").toString())
        .isEqualTo("[\"hidden-db\"]");
    assertThat(
            server
                .as(world.scoped, "GET", "/api/instances/" + world.in.instance(), null)
                .body()
                .get("uses"))
        .isEmpty();
  }

  private static int put(String path, Object body) throws Exception {
    return server.as(world.scoped, "PUT", path, body).status();
  }

  private static int shipped() throws Exception {
    return server
        .get("/api/limits")
        .valueStream()
        .filter(limit -> limit.get("scope").get("level").asString().equals("kind"))
        .findFirst()
        .orElseThrow()
        .get("id")
        .asInt();
  }

  @Test
  void the_live_stream_tells_of_the_scope_alone() throws Exception {
    assertThat(told(world.other)).contains(world.out.instance(), world.in.instance());
    assertThat(told(world.scoped)).containsOnly(world.in.instance());
  }

  /** Which instances it told of until it told three readings of the one in the scope. */
  private static List<Integer> told(String token) throws Exception {
    HttpRequest request =
        HttpRequest.newBuilder(
                server.uri(
                    "/api/live?instances=" + world.in.instance() + "," + world.out.instance()))
            .header("Authorization", "Bearer " + token)
            .build();
    List<Integer> told = new ArrayList<>();
    int readings = 0;
    try (Stream<String> lines =
        HttpClient.newHttpClient().send(request, BodyHandlers.ofLines()).body()) {
      for (String line : (Iterable<String>) lines::iterator) {
        JsonNode data =
            line.startsWith("data:")
                ? RunningServer.read(line.substring(5))
                : RunningServer.read("");
        if (data.has("instance")) {
          told.add(data.get("instance").asInt());
          readings +=
              data.has("values") && data.get("instance").asInt() == world.in.instance() ? 1 : 0;
        }
        if (readings == 3) {
          break;
        }
      }
    }
    return told;
  }

  @Test
  void who_is_given_another_role_keeps_the_scope_that_is_not_spoken_of() throws Exception {
    Map<String, Object> body = new HashMap<>();
    body.put("name", "torunn");
    body.put("role", "look");
    body.put("scope", List.of("site:Inside"));
    body.put("off", false);
    int id = server.send("POST", "/api/accounts", body).body().get("id").asInt();
    body.remove("scope");
    body.put("role", "act");
    Answer changed = server.send("PUT", "/api/accounts/" + id, body);
    assertThat(changed.body().get("role").asString()).isEqualTo("act");
    assertThat(changed.body().get("scope").toString()).isEqualTo("[\"site:Inside\"]");
    body.put("role", "administer");
    changed = server.send("PUT", "/api/accounts/" + id, body);
    assertThat(changed.body().get("scope")).isEmpty();
  }

  @Test
  void nobody_administers_with_a_scope() throws Exception {
    Answer account =
        server.send(
            "POST",
            "/api/accounts",
            Map.of(
                "name",
                "half",
                "role",
                "administer",
                "scope",
                List.of("site:Inside"),
                "off",
                false));
    assertThat(account.status()).isEqualTo(422);
    assertThat(account.body().get("field").asString()).isEqualTo("scope");
    Answer words =
        server.send(
            "POST",
            "/api/accounts",
            Map.of("name", "half", "role", "look", "scope", List.of("everything"), "off", false));
    assertThat(words.status()).isEqualTo(422);
  }

  private static String text(String token, String method, String path, Object body)
      throws Exception {
    Answer answer = server.as(token, method, path, body);
    return answer.status() + " " + answer.text();
  }
}
