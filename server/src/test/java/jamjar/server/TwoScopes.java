package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.server.RunningServer.Answer;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.telling.MessageRow;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * A server with two instances that are read, of which one is in the scope of who asks. All that is
 * of the other is named hidden.
 */
final class TwoScopes implements AutoCloseable {
  static final String HIDDEN = "hidden";
  private static final String SECRET = "planted-scope-secret";
  static final String COUNTER = "sessions.workers";

  final RunningServer server = new RunningServer();
  final long began = System.currentTimeMillis();

  /** Of who may shape what is in the scope. */
  final String scoped;

  /** Of who may shape all. */
  final String other;

  final Thing in;
  final Thing out;

  /** An instance with what is of it. */
  record Thing(int instance, int series, int limit, long alert, int marker) {
    String in(String path) {
      return path.replace("{instance}", Integer.toString(instance))
          .replace("{series}", Integer.toString(series))
          .replace("{limit}", Integer.toString(limit))
          .replace("{alert}", Long.toString(alert))
          .replace("{marker}", Integer.toString(marker));
    }
  }

  TwoScopes() throws Exception {
    TemporaryCluster engine = TemporaryCluster.shared();
    engine.run("postgres", "create role scope_reader login password '" + SECRET + "'");
    engine.run("postgres", "grant pg_monitor to scope_reader");
    for (String name : List.of("plain-readers", "hidden-readers")) {
      server.send(
          "PUT", "/api/credentials/" + name, Map.of("user", "scope_reader", "secret", SECRET));
    }
    scoped = token("scoped", "shape", List.of("site:Inside", "tag:none"));
    other = token("other", "shape", List.of());
    out = thing("hidden");
    in = thing("plain");
    Map<String, Object> uses = new HashMap<>(body("plain"));
    uses.put("uses", List.of("hidden-db"));
    assertThat(server.send("PUT", "/api/instances/" + in.instance + "?insist=true", uses).status())
        .isEqualTo(200);
  }

  @Override
  public void close() throws IOException {
    server.close();
  }

  private String token(String name, String role, List<String> scope) throws Exception {
    Map<String, Object> body = new HashMap<>();
    body.put("name", name);
    body.put("role", role);
    body.put("scope", scope);
    body.put("endsAt", began + 3_600_000);
    return server.send("POST", "/api/tokens", body).body().get("token").asString();
  }

  static Map<String, Object> body(String name) {
    Map<String, Object> body =
        Bodies.engine(name + "-db", TemporaryCluster.shared().cluster().port(), "", "");
    body.put("credential", Map.of("user", "", "name", name + "-readers"));
    body.put("group", name + "-group");
    body.put("site", name.equals(HIDDEN) ? "hidden-port" : "Inside");
    body.put("machine", name + "-machine");
    body.put("tags", List.of(name + "-tag"));
    return body;
  }

  /** Read, and with a limit that is passed. */
  private Thing thing(String name) throws Exception {
    Answer added = server.send("POST", "/api/instances?insist=true", body(name));
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

  static Map<String, Object> group(String name, int expected) {
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

  Map<String, Object> marker(String level, String of, String title) {
    Map<String, Object> body = new HashMap<>();
    body.put("kind", "note");
    body.put("title", title + " marker");
    body.put("note", "");
    body.put("from", began - 60_000);
    body.put("to", null);
    body.put("reach", Map.of("level", level, "of", of));
    return body;
  }

  static Map<String, Object> limit(String level, String of) {
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

  private int series(int instance) throws Exception {
    return server
        .get("/api/instances/" + instance + "/series")
        .valueStream()
        .filter(series -> series.get("counter").asString().equals(COUNTER))
        .map(series -> series.get("id").asInt())
        .findFirst()
        .orElse(0);
  }

  private long alert(int instance) throws Exception {
    return server
        .get("/api/alerts")
        .valueStream()
        .filter(alert -> alert.get("instance").asInt() == instance)
        .map(alert -> alert.get("id").asLong())
        .findFirst()
        .orElse(0L);
  }

  /** What is sent for the hidden one; a call that needs a body and is not here fails the test. */
  Map<String, Object> bodies() {
    long now = System.currentTimeMillis();
    List<Integer> series = List.of(out.series);
    Map<String, Object> window = Map.of("series", series, "from", began, "to", now);
    Map<String, Object> points = new HashMap<>(window);
    points.put("maxPoints", 10);
    Map<String, Object> tried = new HashMap<>();
    tried.put("limit", limit("instance", Integer.toString(out.instance)));
    tried.put("series", null);
    tried.put("weeks", 1);
    Map<String, Object> hidden = body(HIDDEN);
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

  /** As it stands in the links of messages. */
  String alertKey() {
    return out.instance + "-" + out.series + "-above-5";
  }

  /** Somebody was told of the hidden one, with a picture. */
  void told() {
    server
        .store()
        .telling()
        .add(
            new MessageRow(
                alertKey() + "/rise-2/anna/mail",
                Instant.now(),
                "rise",
                alertKey(),
                "anna",
                "mail",
                "anna@skerry.invalid",
                new String[0],
                "all",
                "critical",
                new String[] {alertKey()},
                HIDDEN + " is silent",
                HIDDEN + " is silent",
                "",
                HIDDEN.getBytes(StandardCharsets.UTF_8)));
  }

  /** Of what a call needs besides its path, that of the hidden one. */
  String query(String call) {
    long now = System.currentTimeMillis();
    String window = "?from=" + (began - 3_600_000) + "&to=" + (now + 1);
    return switch (call) {
      case "GET /api/alerts" -> window + "&state=all";
      case "GET /api/baselines" -> "?series=" + out.series;
      case "GET /api/changes", "GET /api/markers", "GET /api/moved", "GET /api/messages" -> window;
      case "GET /api/messages/picture" -> "?key=" + alertKey() + "/rise-2/anna/mail";
      case "GET /api/changes/of" -> "?what=limit&of=" + out.limit;
      case "GET /api/gaps" -> window + "&instance=" + out.instance;
      case "GET /api/together/strip" -> window + "&counter=" + COUNTER + "&of=";
      case "POST /api/limits/replay/numbers" -> "?wanted=1";
      case "DELETE /api/arrangements" -> "?reach=instance&of=" + out.instance;
      default -> "";
    };
  }
}
