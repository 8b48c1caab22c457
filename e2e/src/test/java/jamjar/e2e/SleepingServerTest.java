package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.ServerProcess;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The machine that Jam Jar runs on sleeps: its process stands still while all others go on. */
class SleepingServerTest {
  private static final Duration SOON = Duration.ofSeconds(90);
  private static final Duration ASLEEP = Duration.ofSeconds(12);
  private static final Duration TOLD_BY_THEN = Duration.ofSeconds(20);
  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final ServerProcess server =
      new ServerProcess(
          Path.of("..", "server", "target", "server-0.1.0-exec.jar"),
          cluster,
          cluster.newDatabase());
  private final Api api = new Api(server::address, server.token());
  private final List<Integer> ids = new ArrayList<>();

  SleepingServerTest() throws Exception {}

  @Test
  void nobody_is_called_silent_for_it_and_the_gap_says_that_it_stood_still() throws Exception {
    Path folder = Files.createTempDirectory("jamjar-sleeping");
    try (server;
        Servers servers =
            Servers.start(Skerry.servers().subList(0, 3), folder, Clock.systemUTC(), 5)) {
      server.start();
      for (SimServer target : servers.all()) {
        Object body = WatchedInstance.server(target, 4).body();
        ids.add(api.send("POST", "/api/instances", body).get("id").asInt());
      }
      Await.until("all are read", SOON, this::allRead);
      long from = System.currentTimeMillis();
      server.signal("STOP");
      passes(ASLEEP);
      server.signal("CONT");
      Await.until("all are read again", SOON, this::allRead);
      passes(TOLD_BY_THEN);
      for (JsonNode alert : api.get("/api/alerts?state=all")) {
        assertThat(alert.get("condition").asString()).isNotIn("silent", "unreachable");
      }
      for (int id : ids) {
        JsonNode spans =
            api.points(id, "cpu.process", from, System.currentTimeMillis()).get("spans");
        assertThat(spans.valueStream().map(span -> span.get("why").asString()))
            .anyMatch(why -> why.startsWith("stood still"))
            .noneMatch(why -> why.startsWith("timed out"));
      }
    }
  }

  private boolean allRead() throws Exception {
    for (int id : ids) {
      JsonNode state = api.get("/api/instances/" + id).get("state");
      boolean fresh =
          !state.get("lastAt").isNull()
              && System.currentTimeMillis() - state.get("lastAt").asLong() < 6_000;
      if (!fresh || !state.get("state").asString().equals("reading")) {
        return false;
      }
    }
    return true;
  }

  private static void passes(Duration time) throws Exception {
    long until = System.nanoTime() + time.toNanos();
    Await.until(time + " pass", SOON, () -> System.nanoTime() > until);
  }
}
