package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.KilledJudging;
import jamjar.bench.ServerProcess;
import jamjar.standins.WatchedInstance;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * The server as the process that a person starts: what a kill -9 loses, and what a page from
 * elsewhere may do.
 */
class KilledServerTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final Path JAR = Path.of("..", "server", "target", "server-0.1.0-exec.jar");

  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database = cluster.newDatabase();
  private final String watched = cluster.newDatabase();
  private final ServerProcess server;
  private final Api api;

  KilledServerTest() throws Exception {
    server = new ServerProcess(JAR, cluster, database);
    api = new Api(server::address, server.token());
    cluster.run(watched, "create role " + watched + "_reader login password 'planted-secret'");
    cluster.run(watched, "grant pg_monitor to " + watched + "_reader");
  }

  @AfterEach
  void end() throws Exception {
    server.close();
  }

  @Test
  void a_kill_loses_at_most_the_reading_in_flight_and_no_interval_of_a_total() throws Exception {
    server.start();
    int instance = api.send("POST", "/api/instances", instance(1)).get("id").asInt();
    long from = System.currentTimeMillis();
    Await.until("five readings", SOON, () -> readings(instance, from) >= 5);

    try (Store store =
        Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      Totals totals = Totals.from(store, instance, watched);
      long before = readings(instance, from);
      server.kill();
      server.start();
      Await.until("five more", SOON, () -> readings(instance, from) >= before + 5);

      assertThat(api.get("/api/instances").get(0).get("name").asString()).isEqualTo("killed");
      totals.noIntervalIsLost();
      JsonNode points = api.points(instance, "own.queries", from, System.currentTimeMillis());
      assertThat(points.get("spans").toString()).contains("Jam Jar was not running");
      // the source's answers are numbered: none of those that were stored came twice or went
      // missing
      assertThat(store.readings().lastSeq(instance, 1))
          .isEqualTo(store.readings().count(instance, 1));
    }
    String log = server.log();
    assertThat(log).doesNotContain("planted-secret");
    assertThat(api.get("/api/instances").toString()).doesNotContain("planted-secret");
  }

  @Test
  void kills_while_alerts_rise_and_settle_neither_lose_nor_double_a_transition() throws Exception {
    try (KilledJudging killed = new KilledJudging(JAR, 7)) {
      KilledJudging.Outcome outcome = killed.run(2);
      assertThat(outcome.stored()).isNotEmpty().isEqualTo(outcome.replayed());
    }
  }

  @Test
  void a_page_from_elsewhere_can_neither_post_nor_read() throws Exception {
    server.start();
    HttpResponse<String> post =
        api.answer("POST", "/api/instances", instance(10), Map.of("Origin", "http://evil.invalid"));
    assertThat(post.statusCode()).isEqualTo(403);
    assertThat(post.body()).contains("urn:jamjar:elsewhere");
    // nothing but Jam Jar itself
    assertThat(api.get("/api/instances").valueStream().map(i -> i.get("kind").asString()))
        .containsExactly("jamjar");
    assertThat(rawHost("elsewhere.invalid")).startsWith("HTTP/1.1 403");
    assertThat(rawHost("127.0.0.1:" + server.port())).startsWith("HTTP/1.1 200");
  }

  @Test
  void it_refuses_to_listen_where_others_can_reach_it() throws Exception {
    assertThat(server.launch("--server.address=0.0.0.0").waitFor()).isNotZero();
    assertThat(server.log()).contains("it takes a certificate", "listens on loopback only");
  }

  /** A request with a Host of one's choice, which the ordinary client does not allow. */
  private String rawHost(String host) throws Exception {
    try (java.net.Socket socket = new java.net.Socket("127.0.0.1", server.port())) {
      socket
          .getOutputStream()
          .write(
              ("GET /api/health HTTP/1.1\r\nHost: " + host + "\r\nConnection: close\r\n\r\n")
                  .getBytes(java.nio.charset.StandardCharsets.US_ASCII));
      return new String(socket.getInputStream().readAllBytes());
    }
  }

  private long readings(int instance, long from) throws Exception {
    if (!api.series(instance).containsKey("own.queries")) {
      return 0;
    }
    JsonNode points = api.points(instance, "own.queries", from, System.currentTimeMillis() + 1);
    return points.get("mean").valueStream().filter(v -> !v.isNull()).count();
  }

  private Map<String, Object> instance(int interval) {
    return WatchedInstance.engine(
            "killed",
            cluster.cluster().port(),
            watched,
            watched + "_reader",
            "planted-secret",
            interval)
        .body();
  }
}
