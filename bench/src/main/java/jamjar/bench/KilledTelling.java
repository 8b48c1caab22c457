package jamjar.bench;

import jamjar.standins.LimitBodies;
import jamjar.standins.WatchedInstance;
import jamjar.standins.inbox.Inbox;
import jamjar.standins.inbox.TellingBodies;
import jamjar.standins.servers.Mischief;
import jamjar.standins.servers.Mischief.Kind;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
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
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Kills the server (kill -9) at random moments while people are told, in half of them with its
 * database standing still, and holds what came at an inbox against what a trial over the alerts
 * that are stored says was to be told.
 */
public final class KilledTelling {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final Duration FOR_EVER = Duration.ofHours(2);
  private static final Duration SOON = Duration.ofSeconds(120);

  /** What has been open for that long is told: twenty seconds are gathered. */
  private static final Duration TOLD_AFTER = Duration.ofSeconds(27);

  /** What comes and goes more often within an hour is not told again. */
  private static final int MOST_EACH = 2;

  private final HttpClient client = HttpClient.newHttpClient();
  private final TemporaryCluster cluster = TemporaryCluster.start(Map.of());
  private final ServerProcess server;
  private final Random random;

  /**
   * What was there afterwards.
   *
   * @param wanted what a trial says was to be told, by the keys of it
   * @param kept the keys of the messages that the server knows
   * @param came the keys that came, however often
   * @param times how often anything came in all
   * @param notSent what became of the messages that were not sent
   */
  public record Outcome(
      int kills,
      TreeSet<String> wanted,
      TreeSet<String> kept,
      TreeSet<String> came,
      int times,
      List<String> notSent) {
    public boolean whole() {
      return wanted.equals(kept) && wanted.equals(came) && notSent.isEmpty();
    }
  }

  /**
   * @param jar the server's executable jar
   */
  public KilledTelling(Path jar, long seed) throws Exception {
    server =
        new ServerProcess(
            jar, cluster, cluster.newDatabase(), List.of(), "--jamjar.hooks.own-network=127.0.0.1");
    random = new Random(seed);
  }

  static void run(String[] options) throws Exception {
    int kills = options.length > 0 ? Integer.parseInt(options[0]) : 20;
    Path home = Path.of(System.getProperty("jamjar.home", "."));
    Outcome outcome =
        new KilledTelling(home.resolve("server/target/server-0.1.0-exec.jar"), 5).run(kills);
    System.out.printf(
        "kill -9 at %d random moments, in half of them with the database standing still%n",
        outcome.kills());
    System.out.printf(
        "to be told %d, kept %d, came %d different ones %d times: %s%n",
        outcome.wanted().size(),
        outcome.kept().size(),
        outcome.came().size(),
        outcome.times(),
        outcome.whole() ? "each at least once, none under another key" : "NOT EQUAL");
    outcome.notSent().forEach(one -> System.out.println("not sent: " + one));
    differences(outcome.wanted(), outcome.came(), "to be told, and did not come: ");
    differences(outcome.came(), outcome.wanted(), "came, and was not to be told: ");
  }

  private static void differences(TreeSet<String> of, TreeSet<String> without, String words) {
    of.stream()
        .filter(one -> !without.contains(one))
        .forEach(one -> System.out.println(words + one));
  }

  /** Kills as often as told. */
  public Outcome run(int kills) throws Exception {
    Path folder = Files.createTempDirectory("jamjar-telling");
    // each alert is a matter of its own
    List<Profile> profiles =
        Skerry.servers().stream().filter(profile -> !profile.pools().isEmpty()).toList();
    try (server;
        Inbox inbox = Inbox.start(0, 0, Clock.systemUTC());
        Servers servers = Servers.start(profiles, folder, Clock.systemUTC(), 9)) {
      server.start();
      for (SimServer target : servers.all()) {
        WatchedInstance one =
            WatchedInstance.server(target, 2)
                .withoutUses()
                .at("group of " + target.name(), "Northquay", "");
        int id = send("POST", "/api/instances", one.body()).get("id").asInt();
        send("POST", "/api/limits", LimitBodies.atOnce(id, "pool.waiting", 0.5));
      }
      send("PUT", "/api/channels/hook", TellingBodies.hook(inbox.hook("told"), "", "shared"));
      send("PUT", "/api/telling", plan(servers.all()));
      Thread.sleep(8_000);
      Trouble trouble =
          new Trouble(new Mischief(folder.resolve("mischief"), Clock.systemUTC()), servers.all());
      for (int kill = 0; kill < kills; kill++) {
        boolean away = kill % 2 == 1;
        trouble.moreOrLess();
        long alive = 12_000 + random.nextInt(20_000);
        Thread.sleep(alive / 2);
        if (away) {
          cluster.signal("STOP");
        }
        Thread.sleep(alive / 2);
        server.kill();
        if (away) {
          cluster.signal("CONT");
        }
        server.start();
      }
      Thread.sleep(TOLD_AFTER.toMillis());
      trouble.end();
      Bench.await("all alerts are over", this::allOver);
      // each that is over is told within two steps
      Thread.sleep(20_000);
      Bench.await("all is sent", this::allSent);
      return outcome(kills, inbox);
    } finally {
      cluster.cluster().remove();
    }
  }

  private Map<String, Object> plan(List<SimServer> all) {
    List<Map<String, Object>> people = new ArrayList<>();
    List<Map<String, Object>> rules = new ArrayList<>();
    for (SimServer one : all) {
      String name = "who looks after " + one.name();
      people.add(TellingBodies.person(name, "hook", ""));
      rules.add(
          TellingBodies.rule(
              "of " + one.name(),
              Map.of("instances", List.of(one.name()), "counters", List.of("pool.waiting")),
              List.of(TellingBodies.step("person:" + name, 0, "wake"))));
    }
    rules.add(TellingBodies.rule("nobody is told of the rest", Map.of(), List.of()));
    return TellingBodies.plan(
        0, TellingBodies.noonZone(Instant.now()), people, List.of(), rules, List.of());
  }

  /** Pools that run empty here and there, each long enough to be told. */
  private final class Trouble {
    private final Mischief mischief;
    private final List<SimServer> all;
    private final Map<String, Integer> times = new HashMap<>();
    private final Map<String, Long> since = new HashMap<>();

    Trouble(Mischief mischief, List<SimServer> all) {
      this.mischief = mischief;
      this.all = all;
    }

    void moreOrLess() throws Exception {
      long now = System.currentTimeMillis();
      for (String name : List.copyOf(since.keySet())) {
        if (now - since.get(name) > TOLD_AFTER.toMillis() && random.nextBoolean()) {
          mischief.end(name, Kind.FILL_POOL);
          since.remove(name);
        }
      }
      for (int more = 0; more < 2; more++) {
        String name = all.get(random.nextInt(all.size())).name();
        if (!since.containsKey(name) && times.merge(name, 1, Integer::sum) <= MOST_EACH) {
          mischief.begin(name, Kind.FILL_POOL, FOR_EVER);
          since.put(name, now);
        }
      }
    }

    void end() {
      since.keySet().forEach(name -> mischief.end(name, Kind.FILL_POOL));
    }
  }

  private JsonNode messages() throws Exception {
    long now = System.currentTimeMillis();
    return send(
        "GET", "/api/messages?from=" + (now - FOR_EVER.toMillis()) + "&to=" + (now + 60_000), null);
  }

  private boolean allOver() throws Exception {
    for (JsonNode one : send("GET", "/api/alerts", null)) {
      if (one.get("counter").asString().equals("pool.waiting")) {
        return false;
      }
    }
    return true;
  }

  private boolean allSent() throws Exception {
    for (JsonNode one : messages()) {
      if (one.get("state").asString().equals("waiting")) {
        return false;
      }
    }
    return true;
  }

  private Outcome outcome(int kills, Inbox inbox) throws Exception {
    TreeSet<String> wanted = new TreeSet<>();
    Map<String, Object> trial =
        Map.of("plan", JSON.treeToValue(send("GET", "/api/telling", null), Map.class), "weeks", 1);
    for (JsonNode one : send("POST", "/api/telling/trial", trial).get("latest")) {
      wanted.add(one.get("key").asString() + "/hook");
    }
    TreeSet<String> kept = new TreeSet<>();
    List<String> notSent = new ArrayList<>();
    for (JsonNode one : messages()) {
      kept.add(one.get("key").asString());
      if (!one.get("state").asString().equals("sent")) {
        notSent.add(one.toString());
      }
    }
    TreeSet<String> came = new TreeSet<>();
    inbox.hooked().forEach(one -> came.add(JSON.readTree(one.body()).get("key").asString()));
    return new Outcome(kills, wanted, kept, came, inbox.hooked().size(), notSent);
  }

  private JsonNode send(String method, String path, Object body) throws Exception {
    HttpRequest.Builder request =
        server
            .request(path)
            .timeout(SOON)
            .header("Content-Type", "application/json")
            .method(
                method,
                body == null
                    ? BodyPublishers.noBody()
                    : BodyPublishers.ofString(JSON.writeValueAsString(body)));
    HttpResponse<String> answer = client.send(request.build(), BodyHandlers.ofString());
    if (answer.statusCode() >= 300) {
      throw new IllegalStateException(path + " " + answer.statusCode() + ": " + answer.body());
    }
    return answer.body().isEmpty() ? JSON.nullNode() : JSON.readTree(answer.body());
  }
}
