package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.store.cluster.PrivateCluster;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.facts.FactRow;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Forty instances from one file, some of them wrong in every way that there is. */
class EstateApiTest {
  private static final String SECRET = "planted-estate-secret";
  private static RunningServer server;
  private static TemporaryCluster engine;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = TemporaryCluster.shared();
    engine.run("postgres", "create role estate_reader login password '" + SECRET + "'");
    engine.run("postgres", "grant pg_monitor to estate_reader");
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void the_good_ones_start_the_rest_are_told_with_line_and_field_and_again_nothing_doubles()
      throws Exception {
    server.send(
        "PUT", "/api/credentials/readers", Map.of("user", "estate_reader", "secret", SECRET));
    String file = file();
    JsonNode dry = take(file, "yaml", true);
    assertThat(count(dry)).isEqualTo(Map.of("add", 32, "fault", 5, "silent", 3));
    assertThat(faults(dry))
        .containsExactly(
            at(file, "port: eighty") + " port 'eighty' is not a number",
            at(file, "zone: Europe/Skerry") + " zone 'Europe/Skerry' is not a time zone.",
            at(file, "tls: maybe") + " tls is off, encrypted or checked",
            at(file, "kind: teapot") + " kind is not a kind that can be watched yet",
            at(file, "# twice") + " name stands on line " + at(file, "name: db-0}") + " already");
    assertThat(failing(dry)).containsExactly("unknown Name", "closed Reach", "barred Sign in");
    assertThat(own()).isEmpty();

    JsonNode taken = take(file, "yaml", false);
    assertThat(count(taken)).isEqualTo(count(dry));
    assertThat(own()).hasSize(32).doesNotContain("unknown", "closed", "barred", "no-port");
    Bodies.await("32 are read", () -> server.get("/api/health").get("reading").asInt() == 32);
    assertThat(server.get("/api/groups").toString()).contains("\"expected\":32");

    JsonNode again = take(file, "yaml", false);
    assertThat(count(again)).isEqualTo(Map.of("same", 32, "fault", 5, "silent", 3));
    assertThat(own()).hasSize(32);

    JsonNode slower = take(file.replace("interval: 1", "interval: 2"), "yaml", true);
    assertThat(count(slower)).containsEntry("change", 32);
    assertThat(slower.get("lines").get(0).get("changes").toString()).isEqualTo("[\"interval\"]");

    // what is given out is taken in again as it is, and holds no password
    for (String format : List.of("yaml", "csv")) {
      String out = server.text("/api/estate/estate." + format);
      assertThat(out).contains("db-31").doesNotContain(SECRET);
      assertThat(count(take(out, format, false))).isEqualTo(Map.of("same", 32));
    }
    assertThat(server.get("/api/credentials").toString())
        .contains("\"name\":\"readers\"")
        .doesNotContain(SECRET);
  }

  @Test
  void a_credential_goes_only_when_nobody_under_watch_uses_it() throws Exception {
    String path = "/api/credentials/lent";
    server.send("PUT", path, Map.of("user", "estate_reader", "secret", SECRET));
    Map<String, Object> body = Bodies.engine("lent-to", engine.cluster().port(), "", "");
    body.put("credential", Map.of("user", "", "secret", "", "name", "lent"));
    int id = server.send("POST", "/api/instances", body).body().get("id").asInt();
    Bodies.await(
        "it signs in",
        () ->
            server
                .get("/api/instances/" + id)
                .get("state")
                .get("state")
                .asString()
                .equals("reading"));
    assertThat(server.send("DELETE", path, null).body().get("detail").asString())
        .startsWith("1 instances still use it");
    server.send("DELETE", "/api/instances/" + id, null);
    assertThat(server.send("DELETE", path, null).status()).isEqualTo(204);
    assertThat(server.get("/api/credentials").toString()).doesNotContain("lent");
  }

  @Test
  void a_run_tells_how_far_it_is_and_when_it_is_stopped_nothing_is_taken() throws Exception {
    try (ServerSocket silent = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
      StringBuilder text =
          new StringBuilder("defaults: {kind: jvm, tls: 'off', host: 127.0.0.1}\n");
      text.append("instances:\n");
      for (int i = 0; i < 40; i++) {
        text.append("- {name: mute-").append(i).append(", port: ");
        text.append(silent.getLocalPort()).append("}\n");
      }
      String run = "/api/estate/import/long-one";
      Map<String, String> body = Map.of("text", text.toString(), "format", "yaml");
      CompletableFuture<JsonNode> result =
          CompletableFuture.supplyAsync(
              () -> {
                try {
                  return server
                      .send("POST", "/api/estate/import?dry=false&insist=true&run=long-one", body)
                      .body();
                } catch (Exception e) {
                  throw new IllegalStateException(e);
                }
              });
      Bodies.await("it is tried", () -> server.send("GET", run, null).status() == 200);
      assertThat(server.get(run).get("total").asInt()).isEqualTo(40);
      assertThat(server.send("DELETE", run, null).status()).isEqualTo(204);
      Map<String, Integer> told = count(result.get(60, TimeUnit.SECONDS));
      assertThat(told.get("untried")).isGreaterThanOrEqualTo(24);
      assertThat(server.get("/api/instances").toString()).doesNotContain("mute-");
      assertThat(server.send("DELETE", run, null).status()).isEqualTo(404);
    }
  }

  @Test
  void what_an_instance_uses_is_taken_in_given_out_and_follows_another_name() throws Exception {
    String port = ", port: " + engine.cluster().port() + "}\n";
    String text =
        "defaults: {kind: postgresql, tls: 'off', host: 127.0.0.1, credential: readers, interval: 2}\n"
            + "instances:\n"
            + "- {name: uses-two, uses: [stock pool=used-db, other], group: linked"
            + port
            + "- {name: used-db, group: linked"
            + port;
    server.send(
        "PUT", "/api/credentials/readers", Map.of("user", "estate_reader", "secret", SECRET));
    assertThat(count(take(text, "yaml", false))).isEqualTo(Map.of("add", 2));
    assertThat(uses("uses-two")).isEqualTo("[\"stock pool=used-db\",\"other\"]");
    assertThat(count(take(text, "yaml", false))).isEqualTo(Map.of("same", 2));

    JsonNode used = named("used-db");
    Map<String, Object> body = Bodies.engine("stock-db", engine.cluster().port(), "", "");
    body.put("credential", Map.of("user", "", "secret", "", "name", "readers"));
    server.send("PUT", "/api/instances/" + used.get("id").asInt(), body);
    assertThat(uses("uses-two")).isEqualTo("[\"stock pool=stock-db\",\"other\"]");
    assertThat(server.text("/api/estate/estate.yaml")).contains("uses: stock pool=stock-db, other");
    // a body that says nothing of it leaves it as it is
    body.put("name", "uses-two");
    server.send("PUT", "/api/instances/" + named("uses-two").get("id").asInt(), body);
    assertThat(uses("uses-two")).isEqualTo("[\"stock pool=stock-db\",\"other\"]");
    for (String name : List.of("uses-two", "stock-db")) {
      server.send("DELETE", "/api/instances/" + named(name).get("id").asInt(), null);
    }
  }

  @Test
  void an_address_leads_to_who_is_watched_there_and_is_a_link_once_it_is_confirmed()
      throws Exception {
    int writer = server.instance("led-db", "", "");
    int node =
        server
            .send("POST", "/api/instances?insist=true", Bodies.engine("led-node", 2, "who", "p"))
            .body()
            .get("id")
            .asInt();
    Instant now = Instant.now();
    String address = "jdbc:postgresql://localhost:1/led";
    server.store().facts().add(new FactRow(node, "leads to/ledPool", address, now, null));
    server.store().facts().add(new FactRow(node, "arguments", "-Ddb=" + address, now, null));
    JsonNode found = ofNode(node);
    assertThat(found.get("through").asString()).isEqualTo("ledPool");
    assertThat(found.get("to").asString()).isEqualTo("led-db");
    assertThat(found.get("address").asString()).isEqualTo("localhost:1");

    String path = "/api/instances/" + node + "/uses";
    assertThat(server.send("POST", path, Map.of("use", " ")).status()).isEqualTo(422);
    // done twice it is once
    server.send("POST", path, Map.of("use", found.get("use").asString()));
    server.send("POST", path, Map.of("use", "ledPool=led-db"));
    assertThat(uses("led-node")).isEqualTo("[\"ledPool=led-db\"]");
    assertThat(ofNode(node)).isNull();
    for (int id : new int[] {writer, node}) {
      server.send("DELETE", "/api/instances/" + id, null);
    }
  }

  private static JsonNode ofNode(int id) throws Exception {
    return server
        .get("/api/links/found")
        .valueStream()
        .filter(link -> link.get("instance").asInt() == id)
        .reduce(
            (a, b) -> {
              throw new AssertionError("told twice: " + a + b);
            })
        .orElse(null);
  }

  private static JsonNode named(String name) throws Exception {
    return server
        .get("/api/instances")
        .valueStream()
        .filter(i -> i.get("name").asString().equals(name))
        .findFirst()
        .orElseThrow();
  }

  private static String uses(String name) throws Exception {
    return named(name).get("uses").toString();
  }

  @Test
  void a_file_that_is_none_is_told_and_csv_faults_have_their_lines() throws Exception {
    JsonNode broken = take("instances: [", "yaml", true);
    assertThat(broken.get("faults").get(0).get("sentence").asString()).startsWith("not YAML");
    assertThat(broken.get("faults").get(0).get("line").asInt()).isEqualTo(1);
    JsonNode misspelt = take("instances:\n- name: a\n  hots: b\n", "yaml", true);
    assertThat(misspelt.get("faults").get(0).get("line").asInt()).isEqualTo(3);
    assertThat(misspelt.get("faults").get(0).get("field").asString()).isEqualTo("hots");
    String csv = "name,kind,host,port,colour\na,jvm,127.0.0.1\nb,jvm,127.0.0.1,x,red\n";
    JsonNode told = take(csv, "csv", true);
    assertThat(told.get("faults").get(0).toString()).contains("\"line\":1", "\"field\":\"colour\"");
    assertThat(told.get("faults").get(1).toString()).contains("\"line\":2", "3 fields");
    assertThat(told.get("lines").get(0).toString()).contains("\"line\":3", "'x' is not a number");
  }

  private static String file() {
    StringBuilder text = new StringBuilder();
    text.append("groups:\n- {name: books, site: Northquay, expected: 32}\n");
    text.append("defaults: {kind: postgresql, group: books, site: Northquay, tls: 'off',");
    text.append(" host: 127.0.0.1, port: ").append(engine.cluster().port());
    text.append(", credential: readers, interval: 1, zone: Europe/Oslo}\n");
    text.append("instances:\n");
    for (int i = 0; i < 32; i++) {
      text.append("- {name: db-").append(i).append("}\n");
    }
    text.append("- {name: unknown, host: nowhere.invalid}\n");
    text.append("- {name: closed, port: ").append(PrivateCluster.freePort()).append("}\n");
    text.append("- {name: barred, credential: '', user: estate_reader, secret: wrong}\n");
    text.append("- name: no-port\n  port: eighty\n");
    text.append("- name: no-zone\n  zone: Europe/Skerry\n");
    text.append("- name: no-tls\n  tls: maybe\n");
    text.append("- name: no-kind\n  kind: teapot\n");
    text.append("- {name: db-0} # twice\n");
    return text.toString();
  }

  /** The line on which something first stands. */
  private static int at(String file, String what) {
    return (int) file.substring(0, file.indexOf(what)).chars().filter(c -> c == '\n').count() + 1;
  }

  private static JsonNode take(String file, String format, boolean dry) throws Exception {
    RunningServer.Answer answer =
        server.send(
            "POST", "/api/estate/import?dry=" + dry, Map.of("text", file, "format", format));
    assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
    assertThat(answer.body().toString()).doesNotContain(SECRET);
    return answer.body();
  }

  private static Map<String, Integer> count(JsonNode result) {
    Map<String, Integer> count = new TreeMap<>();
    result
        .get("lines")
        .forEach(line -> count.merge(line.get("action").asString(), 1, Integer::sum));
    return count;
  }

  private static List<String> faults(JsonNode result) {
    List<String> all = new ArrayList<>();
    for (JsonNode line : result.get("lines")) {
      for (JsonNode fault : line.get("faults")) {
        all.add(
            fault.get("line").asInt()
                + " "
                + fault.get("field").asString()
                + " "
                + fault.get("sentence").asString());
      }
    }
    return all;
  }

  private static List<String> failing(JsonNode result) {
    List<String> all = new ArrayList<>();
    for (JsonNode line : result.get("lines")) {
      for (JsonNode check : line.get("failing")) {
        all.add(line.get("name").asString() + " " + check.get("check").asString());
      }
    }
    return all;
  }

  private static List<String> own() throws Exception {
    return server
        .get("/api/instances")
        .valueStream()
        .filter(i -> !i.get("kind").asString().equals("jamjar"))
        .map(i -> i.get("name").asString())
        .toList();
  }
}
