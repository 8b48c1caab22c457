package jamjar.bench;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.baseline.Normal;
import jamjar.core.limit.Condition;
import jamjar.server.limits.Replay;
import jamjar.standins.WatchedInstance;
import jamjar.store.Store;
import jamjar.store.alerts.AlertRow;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.alerts.TransitionRow;
import jamjar.store.cluster.Secrets;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import tools.jackson.databind.json.JsonMapper;

/**
 * Kills the server (kill -9) at random moments while alerts rise and settle, and compares the
 * transitions in the store with those of a replay of the stored readings.
 */
public final class KilledJudging implements AutoCloseable {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final Instant EVER = Instant.EPOCH;

  private final SplittableRandom random;
  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database = cluster.newDatabase();
  private final String watched = cluster.newDatabase();
  private final String password = Secrets.random();
  private final HttpClient client = HttpClient.newHttpClient();
  private final ServerProcess server;

  /**
   * @param stored transitions in the store, in words, by alert
   * @param replayed those of the replay
   */
  public record Outcome(int kills, int alerts, List<String> stored, List<String> replayed) {
    public boolean equal() {
      return stored.equals(replayed);
    }
  }

  /**
   * @param jar the server's executable jar
   */
  public KilledJudging(Path jar, long seed) throws Exception {
    this.random = new SplittableRandom(seed);
    this.server = new ServerProcess(jar, cluster, database);
    cluster.run(watched, "create role " + watched + "_reader login password '" + password + "'");
    cluster.run(watched, "grant pg_monitor to " + watched + "_reader");
  }

  /** Kills as often as told, each some seconds after the server is up again. */
  public Outcome run(int kills) throws Exception {
    server.start();
    // in force before the first reading, as in the replay
    post("/api/limits", limit());
    post("/api/instances", instance());
    try (Crowd crowd = new Crowd()) {
      for (int kill = 0; kill < kills; kill++) {
        Thread.sleep(6_000 + random.nextInt(12_000));
        server.kill();
        server.start();
      }
      // what was building when it came back may still rise
      Thread.sleep(12_000);
    }
    server.kill();
    return compare(kills);
  }

  private Outcome compare(int kills) throws Exception {
    String again = cluster.newDatabase();
    try (Store store = open(database);
        Store replay = open(again)) {
      // all of them, in their order, so that each has the same number again
      List<InstanceRow> all =
          store.instances().all().stream()
              .sorted(Comparator.comparingInt(InstanceRow::id))
              .toList();
      all.forEach(row -> replay.instances().add(row));
      InstanceRow instance =
          all.stream().filter(row -> row.kind().equals("postgresql")).findFirst().orElseThrow();
      for (Judged judged :
          Replay.asItWas(
              store,
              RecipeFile.shipped("postgresql").recipe(),
              instance,
              (series, at) -> Normal.NONE,
              EVER,
              Instant.now())) {
        replay.judged().write(judged);
      }
      List<String> stored = transitions(store, instance.id());
      int open =
          (int) store.alerts().open().stream().filter(a -> a.instance() == instance.id()).count();
      return new Outcome(kills, open, stored, transitions(replay, instance.id()));
    }
  }

  private Store open(String name) {
    return Store.open(cluster.cluster().url(name), "postgres", cluster.cluster().password());
  }

  /** In words, without the numbers that a database gives; the silence of the instance left out. */
  private static List<String> transitions(Store store, int instance) {
    List<String> all = new ArrayList<>();
    for (AlertRow alert : store.alerts().touching(EVER, Instant.now(), null, 10_000)) {
      if (alert.instance() == instance && !Condition.valueOf(alert.condition()).ofInstance()) {
        for (TransitionRow t : store.alerts().transitions(new long[] {alert.id()})) {
          all.add(
              String.join(
                  " ",
                  alert.counter(),
                  alert.since().toString(),
                  t.at().toString(),
                  t.arrived().toString(),
                  t.fromState(),
                  t.toState(),
                  Double.toString(t.value()),
                  Double.toString(t.number())));
        }
      }
    }
    return all.stream().sorted().toList();
  }

  /** Idle sessions that come and go, so that a limit on them is passed and cleared. */
  private final class Crowd implements AutoCloseable {
    private static final int[] SIZES = {0, 14, 30};
    private final Deque<Connection> sessions = new ArrayDeque<>();
    private final Thread thread = new Thread(this::comeAndGo, "crowd");

    Crowd() {
      thread.start();
    }

    private void comeAndGo() {
      try {
        // the first rises
        for (int size = SIZES[1]; ; size = SIZES[random.nextInt(SIZES.length)]) {
          while (sessions.size() < size) {
            sessions.add(cluster.connect(watched));
          }
          while (sessions.size() > size) {
            sessions.remove().close();
          }
          Thread.sleep(8_000 + random.nextInt(14_000));
        }
      } catch (SQLException e) {
        throw new IllegalStateException(e);
      } catch (InterruptedException e) {
        // over
      }
    }

    @Override
    public void close() throws Exception {
      thread.interrupt();
      thread.join();
      for (Connection session : sessions) {
        session.close();
      }
    }
  }

  private void post(String path, Map<String, Object> body) throws Exception {
    HttpResponse<String> answer =
        send(
            server
                .request(path)
                .header("Content-Type", "application/json")
                .POST(BodyPublishers.ofString(JSON.writeValueAsString(body))));
    if (answer.statusCode() != 201) {
      throw new IllegalStateException(answer.statusCode() + ": " + answer.body());
    }
  }

  private HttpResponse<String> send(HttpRequest.Builder request)
      throws java.io.IOException, InterruptedException {
    return client.send(request.build(), BodyHandlers.ofString());
  }

  private Map<String, Object> instance() {
    return WatchedInstance.engine(
            "killed", cluster.cluster().port(), watched, watched + "_reader", password, 1)
        .body();
  }

  /** Between the sizes of the crowd, whoever else is connected. */
  private static Map<String, Object> limit() {
    return Map.of(
        "counter",
        "sessions.idle",
        "labels",
        Map.of(),
        "scope",
        Map.of("level", "kind", "of", "postgresql"),
        "condition",
        "above",
        "warning",
        10,
        "critical",
        24,
        "hold",
        Map.of("m", 1, "n", 1),
        "clear",
        Map.of("number", 8, "seconds", 10),
        "on",
        true,
        "offReason",
        "");
  }

  @Override
  public void close() throws Exception {
    server.close();
  }
}
