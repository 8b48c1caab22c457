package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.ServerProcess;
import jamjar.store.cluster.OtherClock;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** The clock of Jam Jar's machine is set, forward and back by an hour, while it watches. */
class ClockSetBench {
  private static final Duration SOON = Duration.ofSeconds(90);
  private static final String COUNTER = "threads.live";
  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private Api api;
  private int instance;
  private int limit;

  @Test
  void limits_are_judged_again_at_once_nothing_is_told_falsely_and_it_is_told(@TempDir Path folder)
      throws Exception {
    Path offset = folder.resolve("offset");
    Files.writeString(offset, "+0");
    try (ServerProcess server =
        new ServerProcess(
            Path.of("..", "server", "target", "server-0.1.0-exec.jar"),
            cluster,
            cluster.newDatabase(),
            OtherClock.from(offset))) {
      server.start();
      api = new Api(server::address, server.token());
      // its own instance: by such a clock the process is slow
      instance = api.get("/api/instances").get(0).get("id").asInt();
      Await.until("it is read", SOON, () -> api.value(instance, COUNTER) != null);
      limit = api.send("POST", "/api/limits", limit(1_000_000)).get("id").asInt();
      for (String set : List.of("+1h", "+0")) {
        Files.writeString(offset, set);
        int gaps = set.equals("+1h") ? 1 : 2;
        Await.until("it is told", SOON, () -> told().size() == gaps);
        rises();
        settles();
      }
      assertThat(told().get(0)).contains("set forward by 60 min");
      assertThat(told().get(1)).contains("set back by 60 min");
      List<String> alerts = new ArrayList<>();
      for (JsonNode alert : api.get("/api/alerts?state=all")) {
        if (alert.get("instance").asInt() == instance) {
          alerts.add(alert.get("counter").asString() + " " + alert.get("condition").asString());
        }
      }
      assertThat(alerts).containsExactly(COUNTER + " above", COUNTER + " above");
    }
  }

  private void rises() throws Exception {
    api.send("PUT", "/api/limits/" + limit, limit(1));
    Await.until("it is judged", SOON, () -> open() == 1);
  }

  private void settles() throws Exception {
    api.send("PUT", "/api/limits/" + limit, limit(1_000_000));
    Await.until("it is calm again", SOON, () -> open() == 0);
  }

  private long open() throws Exception {
    return api.get("/api/alerts")
        .valueStream()
        .filter(alert -> alert.get("instance").asInt() == instance)
        .count();
  }

  /** What stands on the rail of Jam Jar's own instance. */
  private List<String> told() throws Exception {
    List<String> told = new ArrayList<>();
    long now = System.currentTimeMillis();
    for (JsonNode marker :
        api.get("/api/markers?from=" + (now - 7_200_000) + "&to=" + (now + 7_200_000))) {
      if (marker.get("title").asString().startsWith("clock set")) {
        told.add(marker.get("id").asInt() + " " + marker.get("title").asString());
      }
    }
    // in the order in which it happened: their times are not
    told.sort(null);
    return told;
  }

  private Map<String, Object> limit(double number) {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", COUNTER);
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", "instance", "of", Integer.toString(instance)));
    body.put("condition", "above");
    body.put("warning", number);
    body.put("hold", Map.of("m", 1, "n", 1));
    body.put("clear", Map.of("seconds", 0));
    body.put("on", true);
    body.put("offReason", "");
    return body;
  }
}
