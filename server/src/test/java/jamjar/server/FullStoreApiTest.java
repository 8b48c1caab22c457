package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.intake.Intake;
import jamjar.store.readings.ReadingStore;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The disk of Jam Jar's own database is full: it answers, but takes no readings. */
class FullStoreApiTest {
  /** Longer than the silence of an instance takes to be told, in ms. */
  private static final long TOLD_BY_THEN = 9_000;

  private static RunningServer server;
  private static TemporaryCluster cluster;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    cluster = TemporaryCluster.shared();
    cluster.run("postgres", "create role full_reader login password 'p' in role pg_monitor");
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void it_is_told_what_is_wrong_nobody_is_called_silent_and_all_goes_on_when_there_is_room()
      throws Exception {
    int port = cluster.cluster().port();
    int id =
        server
            .send("POST", "/api/instances", Bodies.engine("well", port, "full_reader", "p"))
            .body()
            .get("id")
            .asInt();
    Bodies.await("it is read", () -> state(id).get("state").asString().equals("reading"));
    long from = System.currentTimeMillis();

    // what PostgreSQL answers when a file can't be extended
    cluster.run(
        server.database(),
        "create function full_disk() returns trigger language plpgsql as $$ begin raise exception"
            + " 'could not extend file: No space left on device' using errcode = 'disk_full';"
            + " end $$");
    cluster.run(
        server.database(),
        "create trigger full_disk before insert on reading for each row"
            + " execute function full_disk()");
    Intake intake = server.bean(Intake.class);
    Bodies.await("it is noticed", () -> intake.behindSeconds() > 1);
    // it is read and judged on, and kept beside
    long last = state(id).get("lastAt").asLong();
    Bodies.await("it is read on", () -> state(id).get("lastAt").asLong() > last + TOLD_BY_THEN);
    assertThat(state(id).get("state").asString()).isEqualTo("reading");
    // what is there can still be asked
    assertThat(server.send("GET", "/api/limits", null).status()).isEqualTo(200);
    assertThat(alerts(id)).isEmpty();
    assertThat(told("watch.behind")).isPositive();

    cluster.run(server.database(), "drop trigger full_disk on reading");
    Bodies.await("all is stored", () -> intake.behindBytes() == 0);
    assertThat(alerts(id)).isEmpty();
    assertThat(gaps(id, from)).isEmpty();
    ReadingStore readings = server.store().readings();
    assertThat(readings.count(id, 1)).isEqualTo(readings.lastSeq(id, 1));
  }

  /** What Jam Jar's own instance says of a counter. */
  private static double told(String counter) throws Exception {
    double[] value = {Double.NaN};
    Bodies.await(
        counter + " is told",
        () -> {
          for (JsonNode series : server.get("/api/instances/1/series")) {
            if (series.get("counter").asString().equals(counter)) {
              value[0] = series.get("value").asDouble();
            }
          }
          return value[0] > 0;
        });
    return value[0];
  }

  private static JsonNode state(int id) throws Exception {
    return server.get("/api/instances/" + id).get("state");
  }

  private static List<String> alerts(int id) throws Exception {
    return server
        .get("/api/alerts?state=all")
        .valueStream()
        .filter(alert -> alert.get("instance").asInt() == id)
        .map(alert -> alert.get("condition").asString() + " " + alert.get("counter").asString())
        .filter(words -> words.startsWith("silent") || words.startsWith("unreachable"))
        .toList();
  }

  private static List<String> gaps(int id, long from) throws Exception {
    int series =
        server
            .get("/api/instances/" + id + "/series")
            .valueStream()
            .filter(s -> s.get("counter").asString().equals("own.queries"))
            .findFirst()
            .orElseThrow()
            .get("id")
            .asInt();
    Map<String, Object> body =
        Map.of(
            "series",
            List.of(series),
            "from",
            from,
            "to",
            System.currentTimeMillis(),
            "maxPoints",
            2000);
    return server
        .send("POST", "/api/points", body)
        .body()
        .get(0)
        .get("spans")
        .valueStream()
        .map(span -> span.get("why").asString())
        .toList();
  }
}
