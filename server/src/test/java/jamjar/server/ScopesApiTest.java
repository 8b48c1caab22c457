package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.RunningServer.Answer;
import jamjar.server.security.Permits;
import jamjar.server.security.Permits.Bound;
import jamjar.server.security.Role;
import jamjar.store.cluster.TemporaryCluster;
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
 * One of two instances is in the scope of who asks. All that is of the other is named hidden, and
 * every call of the API is made for it.
 */
class ScopesApiTest {
  private static final String HIDDEN = "hidden";
  private static final String SECRET = "planted-scope-secret";
  private static final String COUNTER = "sessions.workers";

  private static RunningServer server;
  private static String scoped;
  private static String other;
  private static Thing in;
  private static Thing out;
  private static long began;

  /** An instance with what is of it. */
  private record Thing(int instance, int series, int limit, long alert, int marker) {
    String in(String path) {
      return path.replace("{instance}", Integer.toString(instance))
          .replace("{series}", Integer.toString(series))
          .replace("{limit}", Integer.toString(limit))
          .replace("{alert}", Long.toString(alert))
          .replace("{marker}", Integer.toString(marker));
    }
  }

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    began = System.currentTimeMillis();
    TemporaryCluster engine = TemporaryCluster.shared();
    engine.run("postgres", "create role scope_reader login password '" + SECRET + "'");
    engine.run("postgres", "grant pg_monitor to scope_reader");
    for (String name : List.of("plain-readers", "hidden-readers")) {
      server.send(
          "PUT", "/api/credentials/" + name, Map.of("user", "scope_reader", "secret", SECRET));
    }
    scoped = token("scoped", "shape", List.of("site:Inside", "tag:none"));
    other = token("other", "shape", List.of());
    out = thing("hidden", engine);
    in = thing("plain", engine);
    Map<String, Object> uses = new HashMap<>(body("plain", engine));
    uses.put("uses", List.of("hidden-db"));
    assertThat(server.send("PUT", "/api/instances/" + in.instance + "?insist=true", uses).status())
        .isEqualTo(200);
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static String token(String name, String role, List<String> scope) throws Exception {
    Map<String, Object> body = new HashMap<>();
    body.put("name", name);
    body.put("role", role);
    body.put("scope", scope);
    body.put("endsAt", began + 3_600_000);
    return server.send("POST", "/api/tokens", body).body().get("token").asString();
  }

  private static Map<String, Object> body(String name, TemporaryCluster engine) {
    Map<String, Object> body = Bodies.engine(name + "-db", engine.cluster().port(), "", "");
    body.put("credential", Map.of("user", "", "name", name + "-readers"));
    body.put("group", name + "-group");
    body.put("site", name.equals(HIDDEN) ? "hidden-port" : "Inside");
    body.put("machine", name + "-machine");
    body.put("tags", List.of(name + "-tag"));
    return body;
  }

  /** Read, and with a limit that is passed. */
  private static Thing thing(String name, TemporaryCluster engine) throws Exception {
    Answer added = server.send("POST", "/api/instances?insist=true", body(name, engine));
    int instance = added.body().get("id").asInt();
    String id = Integer.toString(instance);
    String group = name + "-group";
    server.send("PUT", "/api/groups", group(name, 3));
    server.send("PUT", "/api/what-to-do", whatToDo("group", group, name + " is to be told"));
    server.send("PUT", "/api/arrangements", arrangement(id));
    int marker =
        server.send("POST", "/api/markers", marker("group", group, name)).body().get("id").asInt();
    int limit = server.send("POST", "/api/limits", limit("instance", id)).body().get("id").asInt();
    server.send("PUT", "/api/what-to-do", whatToDo("limit", "" + limit, name + " is passed"));
    Bodies.await("it is read", () -> series(instance) > 0);
    Bodies.await("it is told", () -> alert(instance) > 0);
    return new Thing(instance, series(instance), limit, alert(instance), marker);
  }

  private static Map<String, Object> group(String name, int expected) {
    return Map.of(
        "name",
        name + "-group",
        "site",
        name.equals(HIDDEN) ? "hidden-port" : "Inside",
        "expected",
        expected,
        "command",
        "");
  }

  private static Map<String, Object> whatToDo(String reach, String of, String words) {
    return Map.of("reach", reach, "of", of, "words", words);
  }

  private static Map<String, Object> arrangement(String instance) {
    return Map.of("reach", "instance", "of", instance, "charts", List.of(COUNTER));
  }

  private static Map<String, Object> marker(String level, String of, String title) {
    Map<String, Object> body = new HashMap<>();
    body.put("kind", "note");
    body.put("title", title + " marker");
    body.put("note", "");
    body.put("from", began - 60_000);
    body.put("to", null);
    body.put("reach", Map.of("level", level, "of", of));
    return body;
  }

  private static Map<String, Object> limit(String level, String of) {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", COUNTER);
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", level, "of", of));
    body.put("condition", "above");
    body.put("warning", 0);
    body.put("hold", Map.of("m", 1, "n", 1));
    body.put("clear", Map.of());
    body.put("offReason", "");
    return body;
  }

  private static int series(int instance) throws Exception {
    return server
        .get("/api/instances/" + instance + "/series")
        .valueStream()
        .filter(series -> series.get("counter").asString().equals(COUNTER))
        .map(series -> series.get("id").asInt())
        .findFirst()
        .orElse(0);
  }

  private static long alert(int instance) throws Exception {
    return server
        .get("/api/alerts")
        .valueStream()
        .filter(alert -> alert.get("instance").asInt() == instance)
        .map(alert -> alert.get("id").asLong())
        .findFirst()
        .orElse(0L);
  }

  /** What is sent for the hidden one; a call that needs a body and is not here fails the test. */
  private static Map<String, Object> bodies() {
    long now = System.currentTimeMillis();
    List<Integer> series = List.of(out.series);
    Map<String, Object> window = Map.of("series", series, "from", began, "to", now);
    Map<String, Object> points = new HashMap<>(window);
    points.put("maxPoints", 10);
    Map<String, Object> tried = new HashMap<>();
    tried.put("limit", limit("instance", Integer.toString(out.instance)));
    tried.put("series", null);
    tried.put("weeks", 1);
    Map<String, Object> hidden = body(HIDDEN, TemporaryCluster.shared());
    Map<String, Object> bodies = new HashMap<>();
    bodies.put("POST /api/points", points);
    bodies.put("POST /api/figures", window);
    bodies.put("POST /api/moment", Map.of("series", series, "at", now));
    bodies.put("POST /api/limits/replay", tried);
    bodies.put("POST /api/limits/replay/numbers", tried);
    bodies.put("POST /api/live/{stream}", Map.of("instances", List.of(out.instance)));
    bodies.put("POST /api/markers", marker("group", "hidden-group", "another"));
    bodies.put("PUT /api/what-to-do", whatToDo("group", "hidden-group", "mine now"));
    bodies.put("PUT /api/arrangements", arrangement(Integer.toString(out.instance)));
    bodies.put("PUT /api/groups", group(HIDDEN, 9));
    bodies.put("POST /api/instances", hidden);
    bodies.put("POST /api/instances/preflight", hidden);
    bodies.put("POST /api/limits", limit("group", "hidden-group"));
    bodies.put(
        "PUT /api/limits",
        List.of(
            Map.of("id", out.limit, "limit", limit("instance", Integer.toString(out.instance)))));
    return bodies;
  }

  /** Of what a call needs besides its path, that of the hidden one. */
  private static String query(String call) {
    long now = System.currentTimeMillis();
    String window = "?from=" + (began - 3_600_000) + "&to=" + (now + 1);
    return switch (call) {
      case "GET /api/alerts" -> window + "&state=all";
      case "GET /api/baselines" -> "?series=" + out.series;
      case "GET /api/changes", "GET /api/markers", "GET /api/moved" -> window;
      case "GET /api/changes/of" -> "?what=limit&of=" + out.limit;
      case "GET /api/gaps" -> window + "&instance=" + out.instance;
      case "GET /api/together/strip" -> window + "&counter=" + COUNTER + "&of=";
      case "POST /api/limits/replay/numbers" -> "?wanted=1";
      case "DELETE /api/arrangements" -> "?reach=instance&of=" + out.instance;
      default -> "";
    };
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
      Answer hidden = server.as(scoped, row.method(), out.in(rest), body);
      Answer nowhere = server.as(scoped, row.method(), nothing.in(rest), body);
      String told = hidden.text().replaceAll(" \\d+\\.\"", "");
      String words = nowhere.text().replaceAll(" \\d+\\.\"", "");
      if (hidden.status() != 404 || nowhere.status() != 404 || !told.equals(words)) {
        wrong.add(row.method() + " " + row.path() + ": " + hidden + " is not " + nowhere);
      }
      for (String written :
          List.of("0x" + Integer.toHexString(out.instance), "%2B" + out.instance)) {
        String path = rest.replaceAll("\\{(instance|series|alert|marker|limit)}", written);
        int status = server.as(scoped, row.method(), path, body).status();
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
      String path = in.in(row.path()).replaceAll("\\{\\w+}", "one");
      Object body = row.method().matches("GET|DELETE") ? null : Map.of();
      Answer answer = server.as(scoped, row.method(), path, body);
      if (answer.status() != 403) {
        wrong.add(row.method() + " " + row.path() + ": " + answer);
      }
    }
    assertThat(wrong).isEmpty();
  }

  @Test
  void nothing_else_tells_of_what_is_out_of_the_scope_or_changes_it() throws Exception {
    Map<String, Object> bodies = bodies();
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
      String asked = row.path().replace("{stream}", "one") + query(call);
      boolean reads = row.method().equals("GET");
      Object body = reads || row.method().equals("DELETE") ? null : bodies.get(call);
      if (!reads && !row.method().equals("DELETE") && body == null) {
        wrong.add(call + ": say with what it is to be tried");
        continue;
      }
      String answer = text(scoped, row.method(), asked, body);
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
      if (reads && text(other, row.method(), asked, null).contains(HIDDEN)) {
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
            "GET /api/together",
            "GET /api/together/strip",
            "GET /api/what-to-do");
  }

  @Test
  void what_is_told_by_number_alone_is_of_the_scope_too() throws Exception {
    String hidden = Integer.toString(out.instance);
    for (String path :
        List.of("/api/limits", "/api/limits/noise", "/api/arrangements", "/api/endpoints")) {
      assertThat(
              server.get(path).findValuesAsString("of").contains(hidden)
                  || server.get(path).findValuesAsString("instance").contains(hidden))
          .as(path)
          .isTrue();
      JsonNode told = server.as(scoped, "GET", path, null).body();
      assertThat(told.findValuesAsString("of")).as(path).doesNotContain(hidden);
      assertThat(told.findValuesAsString("instance")).as(path).doesNotContain(hidden);
    }
    String change = "/api/changes/of" + query("GET /api/changes/of");
    assertThat(server.as(other, "GET", change, null).body()).isNotEmpty();
    assertThat(server.as(scoped, "GET", change, null).body()).isEmpty();
    assertThat(server.as(scoped, "GET", "/api/gaps" + query("GET /api/gaps"), null).status())
        .isEqualTo(404);
    assertThat(instances(scoped)).containsExactly("plain-db");
    assertThat(instances(other)).contains("plain-db", "hidden-db", "Jam Jar");
    assertThat(server.as(scoped, "GET", "/api/session", null).body().get("scope").toString())
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
        int status = server.as(scoped, "GET", in.in(row.path()) + needed(), null).status();
        // of a counter, a bean or a pool that it has not
        if (status == 403 || status == 404 || status >= 500) {
          wrong.add(row.path() + ": " + status);
        }
      }
    }
    assertThat(wrong).isEmpty();
    List<Integer> series = List.of(in.series);
    assertThat(
            server
                .as(scoped, "POST", "/api/moment", Map.of("series", series, "at", began))
                .body()
                .get(0)
                .get("series")
                .asInt())
        .isEqualTo(in.series);
  }

  private static String needed() {
    return "?from="
        + (began - 3_600_000)
        + "&to="
        + (began + 1)
        + "&at="
        + began
        + "&counter="
        + COUNTER
        + "&user=nobody&program=none&bean=a:b=c";
  }

  @Test
  void who_may_shape_shapes_the_own_and_nothing_wider() throws Exception {
    String own = Integer.toString(in.instance);
    assertThat(put("/api/limits/" + in.limit, limit("instance", own))).isEqualTo(200);
    assertThat(put("/api/limits/" + in.limit, limit("kind", "postgresql"))).isEqualTo(403);
    assertThat(put("/api/limits/" + in.limit, limit("instance", "" + out.instance))).isEqualTo(403);
    int shipped = shipped();
    assertThat(put("/api/limits/" + shipped, limit("kind", "postgresql"))).isEqualTo(403);
    assertThat(server.as(scoped, "DELETE", "/api/limits/" + shipped, null).status()).isEqualTo(403);
    assertThat(put("/api/markers/" + in.marker, marker("all", "", "wider"))).isEqualTo(403);
    assertThat(put("/api/markers/" + in.marker, marker("site", "Inside", "own"))).isEqualTo(200);
    assertThat(put("/api/groups", group("plain", 4))).isEqualTo(200);
    // out of the scope with it, or another's password with it into the scope
    Map<String, Object> away = body("plain", TemporaryCluster.shared());
    away.put("site", "elsewhere");
    String path = "/api/instances/" + in.instance + "?insist=true";
    assertThat(put(path, away)).isEqualTo(403);
    Map<String, Object> taken = body("plain", TemporaryCluster.shared());
    taken.put("credential", Map.of("user", "", "name", "hidden-readers"));
    assertThat(put(path, taken)).isEqualTo(422);
    assertThat(server.as(scoped, "POST", "/api/instances/preflight", taken).status())
        .isEqualTo(422);
    // what it uses and is not told of stays
    Map<String, Object> same = body("plain", TemporaryCluster.shared());
    same.put("uses", List.of());
    assertThat(put(path, same)).isEqualTo(200);
    assertThat(server.get("/api/instances/" + in.instance).get("uses").toString())
        .isEqualTo("[\"hidden-db\"]");
    assertThat(server.as(scoped, "GET", "/api/instances/" + in.instance, null).body().get("uses"))
        .isEmpty();
  }

  private static int put(String path, Object body) throws Exception {
    return server.as(scoped, "PUT", path, body).status();
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
    assertThat(told(other)).contains(out.instance, in.instance);
    assertThat(told(scoped)).containsOnly(in.instance);
  }

  /** Which instances it told of until it told three readings of the one in the scope. */
  private static List<Integer> told(String token) throws Exception {
    HttpRequest request =
        HttpRequest.newBuilder(
                server.uri("/api/live?instances=" + in.instance + "," + out.instance))
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
          readings += data.has("values") && data.get("instance").asInt() == in.instance ? 1 : 0;
        }
        if (readings == 3) {
          break;
        }
      }
    }
    return told;
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
