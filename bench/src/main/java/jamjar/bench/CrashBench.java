package jamjar.bench;

import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import tools.jackson.databind.json.JsonMapper;

/**
 * Stand-ins that number their answers are read every second, while the server is killed, its
 * database is killed or stands still: afterwards each answer is stored once, but for those that
 * were under way when the server was killed.
 */
public final class CrashBench implements AutoCloseable {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int TARGETS = 8;

  private enum Crash {
    SERVER_KILLED,
    DATABASE_KILLED,
    DATABASE_STOPPED
  }

  private final TemporaryCluster cluster = TemporaryCluster.start(Map.of());
  private final String database = cluster.newDatabase();
  private final Path folder = Files.createTempDirectory("jamjar-crash");
  private final ServerProcess server;
  private final Random random;
  private final Map<Integer, SimServer> targets = new LinkedHashMap<>();

  /**
   * What was there afterwards.
   *
   * @param answers how many were given, by all targets
   * @param stored how many of them are stored; none is twice
   * @param missing per target
   * @param sealed how many are stored once all are packed
   */
  public record Outcome(long answers, long stored, List<Integer> missing, long sealed) {}

  /**
   * @param jar the server's executable jar
   */
  public CrashBench(Path jar, long seed) throws Exception {
    this.server = new ServerProcess(jar, cluster, database);
    this.random = new Random(seed);
  }

  static void run(String[] options) throws Exception {
    int each = options.length > 0 ? Integer.parseInt(options[0]) : 20;
    int stopped = options.length > 1 ? Integer.parseInt(options[1]) : 90;
    Path home = Path.of(System.getProperty("jamjar.home", "."));
    try (CrashBench bench =
        new CrashBench(home.resolve("server/target/server-0.1.0-exec.jar"), 7)) {
      Outcome outcome = bench.run(each, each, each, Duration.ofSeconds(stopped));
      System.out.printf(
          "%d times each: kill -9 of the server, of its database, SIGSTOP of that for %d s%n",
          each, stopped);
      System.out.printf(
          "%d targets gave %d answers; stored %d, none twice; missing per target %s, of which a kill"
              + " of the server may take one each%n",
          TARGETS, outcome.answers(), outcome.stored(), outcome.missing());
      System.out.printf("once all are packed there are %d%n", outcome.sealed());
    }
  }

  /** Does all of it, one after the other, in an order by chance. */
  public Outcome run(int kills, int databaseKills, int stops, Duration stopped) throws Exception {
    List<Crash> all = new ArrayList<>();
    all.addAll(Collections.nCopies(kills, Crash.SERVER_KILLED));
    all.addAll(Collections.nCopies(databaseKills, Crash.DATABASE_KILLED));
    all.addAll(Collections.nCopies(stops, Crash.DATABASE_STOPPED));
    Collections.shuffle(all, random);
    try (Servers servers =
        Servers.start(Skerry.servers().subList(0, TARGETS), folder, Clock.systemUTC(), 5)) {
      server.start();
      for (SimServer target : servers.all()) {
        targets.put(add(target), target);
      }
      for (Crash crash : all) {
        awaitMore(3);
        Thread.sleep(random.nextInt(1_000));
        crash(crash, stopped);
      }
      awaitMore(5);
      server.kill();
      // what was kept and not stored yet is now
      server.start();
      awaitMore(1);
      server.kill();
      return outcome();
    }
  }

  private Outcome outcome() {
    long answers = 0;
    long stored = 0;
    long sealed = 0;
    List<Integer> missing = new ArrayList<>();
    try (Store store = store()) {
      for (Map.Entry<Integer, SimServer> target : targets.entrySet()) {
        double[] numbers = Numbered.stored(store, target.getKey(), Instant.EPOCH);
        answers += target.getValue().answered();
        stored += numbers.length;
        missing.add(Numbered.missing(numbers));
      }
      store.readings().sealer().run(Instant.now().plus(Duration.ofDays(2)));
      for (int id : targets.keySet()) {
        sealed += Numbered.stored(store, id, Instant.EPOCH).length;
      }
    }
    return new Outcome(answers, stored, missing, sealed);
  }

  private void crash(Crash crash, Duration stopped) throws Exception {
    switch (crash) {
      case SERVER_KILLED -> {
        server.kill();
        server.start();
      }
      case DATABASE_KILLED -> {
        cluster.signal("KILL");
        cluster.awaitEnd();
        cluster.startAgain();
      }
      case DATABASE_STOPPED -> {
        cluster.signal("STOP");
        try {
          Thread.sleep(stopped.toMillis());
        } finally {
          cluster.signal("CONT");
        }
      }
    }
  }

  /** Waits until so many more answers of each target are stored. */
  private void awaitMore(int more) throws Exception {
    try (Store store = store()) {
      Map<Integer, Double> wanted = new LinkedHashMap<>();
      for (int id : targets.keySet()) {
        wanted.put(id, last(store, id) + more);
      }
      for (int id : targets.keySet()) {
        Bench.await("more answers of " + id, () -> last(store, id) >= wanted.get(id));
      }
    }
  }

  private static double last(Store store, int id) {
    double[] numbers = Numbered.stored(store, id, Instant.EPOCH);
    return numbers.length == 0 ? 0 : numbers[numbers.length - 1];
  }

  private Store store() {
    return Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password());
  }

  private int add(SimServer target) throws Exception {
    HttpRequest request =
        server
            .request("/api/instances")
            .header("Content-Type", "application/json")
            .POST(
                BodyPublishers.ofString(
                    JSON.writeValueAsString(WatchedInstance.server(target, 1).body())))
            .build();
    String answer = HttpClient.newHttpClient().send(request, BodyHandlers.ofString()).body();
    return JSON.readTree(answer).get("id").asInt();
  }

  @Override
  public void close() throws Exception {
    server.close();
    cluster.cluster().remove();
  }
}
