package jamjar.bench;

import jamjar.standins.LimitBodies;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Mischief;
import jamjar.standins.servers.Mischief.Kind;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Jam Jar's own database does not answer any more (SIGSTOP of all its processes), then is stopped,
 * while servers are read every second, and one of them gets into trouble in the first time and out
 * of it in the second: what is told meanwhile, and what is there afterwards.
 */
public final class StalledStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int TARGETS = 4;
  private static final String TROUBLE = "pool.waiting";
  private static final Duration SOON = Duration.ofSeconds(120);

  private final HttpClient client = HttpClient.newHttpClient();
  private final TemporaryCluster cluster = TemporaryCluster.start(Map.of());
  private final String database = cluster.newDatabase();
  private final ServerProcess server;
  private final int everyS;
  private final List<Integer> instances = new ArrayList<>();

  /**
   * What was seen.
   *
   * @param refused statuses of answers while it was away
   * @param slowest the slowest of them, in s
   * @param states what instances were said to be while it was away
   * @param alerts of any kind that passed a limit after the database stood still
   * @param passed when the alerts of the one in trouble passed into each state first, in s since
   *     the first of both
   * @param gaps why there is nothing in the charts, by stretch
   * @param missing how many answers of the servers are not stored; none is twice
   * @param again how long after it was back until all was stored, in s
   */
  public record Outcome(
      List<Integer> refused,
      double slowest,
      List<String> states,
      List<String> alerts,
      Map<String, Double> passed,
      List<String> gaps,
      int missing,
      List<Double> again) {}

  /**
   * @param jar the server's executable jar
   * @param everyS seconds between two readings
   */
  public StalledStore(Path jar, int everyS) throws Exception {
    this.everyS = everyS;
    server = new ServerProcess(jar, cluster, database);
  }

  static void run(String[] options) throws Exception {
    Path home = Path.of(System.getProperty("jamjar.home", "."));
    int stalled = options.length > 0 ? Integer.parseInt(options[0]) : 40;
    int down = options.length > 1 ? Integer.parseInt(options[1]) : 120;
    Outcome outcome =
        new StalledStore(home.resolve("server/target/server-0.1.0-exec.jar"), 1)
            .run(Duration.ofSeconds(stalled), Duration.ofSeconds(down));
    System.out.printf(
        "stopped with SIGSTOP for %d s, then stopped and started after %d s%n", stalled, down);
    System.out.printf(
        "answers meanwhile: %d, statuses %s, slowest %.2f s%n",
        outcome.refused().size(), new TreeSet<>(outcome.refused()), outcome.slowest());
    System.out.println("instances were said to be " + outcome.states());
    System.out.println("alerts: " + outcome.alerts());
    System.out.println("the one in trouble, s since the first: " + outcome.passed());
    outcome.gaps().forEach(gap -> System.out.println("gap: " + gap));
    System.out.println("answers that are missing: " + outcome.missing() + ", twice: 0");
    System.out.println("all stored again after, s: " + outcome.again());
  }

  /** Does both, one after the other. */
  public Outcome run(Duration stalled, Duration down) throws Exception {
    Path folder = Files.createTempDirectory("jamjar-stalled");
    List<Integer> refused = new ArrayList<>();
    TreeSet<String> states = new TreeSet<>();
    List<Double> again = new ArrayList<>();
    double[] slowest = {0};
    try (server;
        Servers servers =
            Servers.start(Skerry.servers().subList(0, TARGETS), folder, Clock.systemUTC(), 3)) {
      server.start();
      for (SimServer target : servers.all()) {
        instances.add(
            send("POST", "/api/instances", WatchedInstance.server(target, everyS).body())
                .get("id")
                .asInt());
      }
      Bench.await("all are read", this::allRead);
      Mischief mischief = new Mischief(folder.resolve("mischief"), Clock.systemUTC());
      String troubled = servers.all().get(0).name();
      send("POST", "/api/limits", LimitBodies.atOnce(instances.get(0), TROUBLE, 0.5));
      long from = System.currentTimeMillis();
      cluster.signal("STOP");
      mischief.begin(troubled, Kind.FILL_POOL, Duration.ofHours(1));
      try {
        meanwhile(stalled, refused, slowest, states);
      } finally {
        cluster.signal("CONT");
      }
      again.add(Bench.await("all is stored", this::allStored));
      Thread.sleep(6_000);
      cluster.cluster().stop();
      mischief.end(troubled, Kind.FILL_POOL);
      meanwhile(down, refused, slowest, states);
      cluster.startAgain();
      again.add(Bench.await("all is stored", this::allStored));
      // a silence would be told by now
      Thread.sleep(12_000);
      long to = System.currentTimeMillis();
      return new Outcome(
          refused,
          slowest[0],
          List.copyOf(states),
          alerts(from),
          passed(from),
          gaps(from, to),
          missing(),
          again);
    } finally {
      cluster.cluster().remove();
    }
  }

  /** Asks all the time, once it is known that the database is away. */
  private void meanwhile(
      Duration howLong, List<Integer> refused, double[] slowest, TreeSet<String> states)
      throws Exception {
    long until = System.nanoTime() + howLong.toNanos();
    Bench.await("it is known", () -> answer("GET", "/api/health", null).statusCode() == 503);
    while (System.nanoTime() < until) {
      long began = System.nanoTime();
      HttpResponse<String> answer = answer("GET", "/api/alerts", null);
      refused.add(answer.statusCode());
      slowest[0] = Math.max(slowest[0], (System.nanoTime() - began) / 1e9);
      if (!answer.body().contains("store-away")) {
        throw new IllegalStateException("not told in words: " + answer.body());
      }
      Thread.sleep(200);
    }
    states.addAll(streamed());
  }

  /** What the live stream says of the instances; it needs no database. */
  private TreeSet<String> streamed() throws Exception {
    TreeSet<String> states = new TreeSet<>();
    HttpResponse<java.util.stream.Stream<String>> live =
        client.send(server.request("/api/live").build(), BodyHandlers.ofLines());
    try (java.util.stream.Stream<String> lines = live.body()) {
      lines
          .filter(line -> line.startsWith("data:") && line.contains("\"state\""))
          .limit(TARGETS + 1)
          .map(line -> JSON.readTree(line.substring("data:".length())))
          .forEach(
              state ->
                  states.add(
                      state.get("state").asString() + " (" + state.get("reason").asString() + ")"));
    }
    return states;
  }

  private boolean allRead() throws Exception {
    long now = System.currentTimeMillis();
    HttpResponse<String> answer = answer("GET", "/api/instances", null);
    if (answer.statusCode() != 200) {
      return false;
    }
    for (JsonNode instance : JSON.readTree(answer.body())) {
      JsonNode state = instance.get("state");
      boolean fresh = !state.get("lastAt").isNull() && now - state.get("lastAt").asLong() < 3_000;
      if (instances.contains(instance.get("id").asInt())
          && !(fresh && state.get("state").asString().equals("reading"))) {
        return false;
      }
    }
    return true;
  }

  /** What was read a moment ago is in the database. */
  private boolean allStored() throws Exception {
    if (!allRead()) {
      return false;
    }
    try (Store store = store()) {
      for (int instance : instances) {
        if (Numbered.stored(store, instance, Instant.now().minusSeconds(3)).length == 0) {
          return false;
        }
      }
    }
    return true;
  }

  private int missing() {
    int missing = 0;
    try (Store store = store()) {
      for (int instance : instances) {
        missing += Numbered.missing(Numbered.stored(store, instance, Instant.EPOCH));
      }
    }
    return missing;
  }

  private Store store() {
    return Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password());
  }

  /** By alert and state the first time that it passed into it. */
  private Map<String, Double> passed(long from) throws Exception {
    Map<String, Double> passed = new LinkedHashMap<>();
    Set<String> told = new HashSet<>();
    for (JsonNode alert : send("GET", "/api/alerts?state=all", null)) {
      if (alert.get("counter").asString().equals(TROUBLE)) {
        for (JsonNode t : alert.get("transitions")) {
          String to = alert.get("id").asInt() + " " + t.get("to").asString();
          if (!told.add(to + t.get("at"))) {
            throw new IllegalStateException(to + " is told twice");
          }
          passed.putIfAbsent(to, (t.get("at").asLong() - from) / 1e3);
        }
      }
    }
    return passed;
  }

  /** Those that passed a limit after a moment: who is slow to begin was silent before it. */
  private List<String> alerts(long from) throws Exception {
    List<String> all = new ArrayList<>();
    for (JsonNode alert : send("GET", "/api/alerts?state=all", null)) {
      if (alert.get("transitions").valueStream().noneMatch(t -> isPassing(t, from))) {
        continue;
      }
      all.add(
          alert.get("instanceName").asString()
              + " "
              + alert.get("condition").asString()
              + " "
              + alert.get("counter").asString());
    }
    return all;
  }

  private static boolean isPassing(JsonNode transition, long from) {
    String to = transition.get("to").asString();
    return transition.get("at").asLong() >= from && !to.equals("settling") && !to.equals("calm");
  }

  private List<String> gaps(long from, long to) throws Exception {
    TreeSet<String> gaps = new TreeSet<>();
    for (int instance : instances) {
      for (JsonNode series : send("GET", "/api/instances/" + instance + "/series", null)) {
        if (series.get("counter").asString().equals("cpu.process")) {
          Map<String, Object> body =
              Map.of(
                  "series",
                  List.of(series.get("id").asInt()),
                  "from",
                  from,
                  "to",
                  to,
                  "maxPoints",
                  4000);
          send("POST", "/api/points", body)
              .get(0)
              .get("spans")
              .forEach(span -> gaps.add(span.get("why").asString()));
        }
      }
    }
    return List.copyOf(gaps);
  }

  private HttpResponse<String> answer(String method, String path, Object body) throws Exception {
    HttpRequest.Builder request =
        server
            .request(path)
            .timeout(SOON)
            .method(
                method,
                body == null
                    ? BodyPublishers.noBody()
                    : BodyPublishers.ofString(JSON.writeValueAsString(body)));
    if (body != null) {
      request.header("Content-Type", "application/json");
    }
    return client.send(request.build(), BodyHandlers.ofString());
  }

  private JsonNode send(String method, String path, Object body) throws Exception {
    HttpResponse<String> answer = answer(method, path, body);
    if (answer.statusCode() >= 300) {
      throw new IllegalStateException(answer.statusCode() + ": " + answer.body());
    }
    return JSON.readTree(answer.body());
  }
}
