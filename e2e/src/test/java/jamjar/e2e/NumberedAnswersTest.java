package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.bench.ServerProcess;
import jamjar.core.chart.Samples;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;

/**
 * Targets that number their answers, and a server that is killed: every answer is stored once, and
 * at most the one in flight is missing.
 */
class NumberedAnswersTest {
  private static final Duration SOON = Duration.ofSeconds(90);
  private static final SeriesKey NUMBER = SeriesKey.of("answers.number");
  private static final int TARGETS = 8;
  private static final int KILLS = 1;

  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database = cluster.newDatabase();
  private final Path folder;
  private final ServerProcess server;
  private final Api api;

  NumberedAnswersTest() throws Exception {
    folder = Files.createTempDirectory("jamjar-numbered");
    server =
        new ServerProcess(
            Path.of("..", "server", "target", "server-0.1.0-exec.jar"), cluster, database);
    api = new Api(server::address);
  }

  @Test
  void over_a_kill_every_answer_is_stored_once_and_at_most_one_in_flight_is_missing()
      throws Exception {
    try (Servers servers =
            Servers.start(Skerry.servers().subList(0, TARGETS), folder, Clock.systemUTC(), 5);
        server) {
      server.start();
      Map<Integer, SimServer> targets = new LinkedHashMap<>();
      for (SimServer target : servers.all()) {
        Object body = WatchedInstance.server(target, 1).body();
        targets.put(api.send("POST", "/api/instances", body).get("id").asInt(), target);
      }
      try (Store store =
          Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
        for (int kill = 0; kill < KILLS; kill++) {
          allStored(store, targets, 5 * (kill + 1));
          server.kill();
          server.start();
        }
        allStored(store, targets, 5 * (KILLS + 1));
        for (int id : targets.keySet()) {
          double[] numbers = numbers(store, id);
          int missing = 0;
          for (int i = 1; i < numbers.length; i++) {
            assertThat(numbers[i])
                .as("no answer twice, none out of order")
                .isGreaterThan(numbers[i - 1]);
            missing += (int) (numbers[i] - numbers[i - 1]) - 1;
          }
          assertThat(numbers[0]).isEqualTo(1);
          assertThat(missing).isLessThanOrEqualTo(KILLS);
        }
      }
    }
  }

  private static void allStored(Store store, Map<Integer, SimServer> targets, int least)
      throws Exception {
    for (int id : targets.keySet()) {
      Await.until(least + " answers of " + id, SOON, () -> numbers(store, id).length >= least);
    }
  }

  private static double[] numbers(Store store, int instance) {
    Instant now = Instant.now();
    int[] ids =
        store.readings().series(instance).entrySet().stream()
            .filter(series -> series.getValue().equals(NUMBER))
            .mapToInt(Map.Entry::getKey)
            .toArray();
    if (ids.length == 0) {
      return new double[0];
    }
    Samples samples =
        store.readings().samples(instance, ids, now.minusSeconds(900), now.plusSeconds(5));
    return samples.value();
  }
}
