package jamjar.standins;

import jamjar.standins.servers.Skerry;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The Jam Jar that watches the estate, as the demo talks to it. */
final class Watching {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final Duration LEARNED_WITHIN = Duration.ofMinutes(10);

  /** One of them is not there, and is watched for all that. */
  private static final String INSIST = "?insist=true";

  private final HttpClient client = HttpClient.newHttpClient();
  private final URI server;
  private final Path token;

  /**
   * @param token the file of the token by which it lets its programs in
   */
  Watching(URI server, Path token) {
    this.server = server;
    this.token = token;
  }

  void awaitHealthy() throws InterruptedException {
    long end = System.nanoTime() + Duration.ofSeconds(90).toNanos();
    while (System.nanoTime() < end) {
      try {
        if (call(request("/api/health").GET()).statusCode() == 200) {
          return;
        }
      } catch (IOException e) {
        // not up yet
      }
      Thread.sleep(200);
    }
    throw new IllegalStateException("no healthy answer from " + server + " within 90 s");
  }

  /** Where nobody has an account yet, the ferry company's people have. */
  void people() throws IOException, InterruptedException {
    if (!JSON.readTree(call(request("/api/accounts")).body()).isEmpty()) {
      return;
    }
    for (Skerry.Person person : Skerry.people()) {
      String body =
          JSON.writeValueAsString(
              Map.of(
                  "name",
                  person.name(),
                  "role",
                  person.role(),
                  "scope",
                  person.scope(),
                  "off",
                  false));
      require(call(json("/api/accounts").POST(BodyPublishers.ofString(body))));
    }
  }

  /**
   * Adds the instance, or corrects the address of the one that is there: ports may change between
   * two starts.
   */
  void watch(WatchedInstance wanted) throws IOException, InterruptedException {
    String body = JSON.writeValueAsString(wanted.body());
    HttpResponse<String> all = call(request("/api/instances").GET());
    for (JsonNode instance : JSON.readTree(all.body())) {
      if (instance.get("name").asString().equals(wanted.name())) {
        if (instance.get("endpoint").get("port").asInt() != wanted.port()) {
          String one = "/api/instances/" + instance.get("id").asInt() + INSIST;
          require(call(json(one).PUT(BodyPublishers.ofString(body))));
        }
        return;
      }
    }
    require(call(json("/api/instances" + INSIST).POST(BodyPublishers.ofString(body))));
  }

  /** What is answered at a path. */
  JsonNode get(String path) throws IOException, InterruptedException {
    HttpResponse<String> answer = call(request(path).GET());
    require(answer);
    return JSON.readTree(answer.body());
  }

  void put(String path, Object body) throws IOException, InterruptedException {
    require(call(json(path).PUT(BodyPublishers.ofString(JSON.writeValueAsString(body)))));
  }

  /** Sets a marker. */
  void mark(Map<String, Object> body) throws IOException, InterruptedException {
    require(
        call(json("/api/markers").POST(BodyPublishers.ofString(JSON.writeValueAsString(body)))));
  }

  /**
   * What is normal is learned from what was before, at once.
   *
   * @param engines the names of those whose statements are followed
   */
  void learn(List<String> engines) throws IOException, InterruptedException {
    HttpResponse<String> all = call(request("/api/instances").GET());
    for (JsonNode instance : JSON.readTree(all.body())) {
      String path = "/api/instances/" + instance.get("id").asInt() + "/learn";
      HttpRequest.Builder request = json(path).POST(BodyPublishers.noBody());
      // one after the other, of weeks
      require(client.send(request.timeout(LEARNED_WITHIN).build(), BodyHandlers.ofString()));
      if (engines.contains(instance.get("name").asString())) {
        String follow = "/api/instances/" + instance.get("id").asInt() + "/statements/follow";
        require(call(json(follow).POST(BodyPublishers.noBody())));
      }
    }
  }

  /** The alerts that there would have been are there, too. */
  void judge() throws IOException, InterruptedException {
    long began = System.nanoTime();
    HttpRequest.Builder request = json("/api/limits/afterwards").POST(BodyPublishers.noBody());
    HttpResponse<String> answer =
        client.send(request.timeout(LEARNED_WITHIN).build(), BodyHandlers.ofString());
    require(answer);
    System.out.printf(
        "%d alerts of the past judged in %.0f s%n",
        JSON.readTree(answer.body()).get("alerts").asInt(), (System.nanoTime() - began) / 1e9);
  }

  /** How many of each group there should be at each site. */
  void expected() throws IOException, InterruptedException {
    for (Skerry.Expected group : Skerry.expected()) {
      String body =
          JSON.writeValueAsString(
              Map.of("name", group.group(), "site", group.site(), "expected", group.count()));
      require(call(json("/api/groups").PUT(BodyPublishers.ofString(body))));
    }
  }

  /** Read each time: a Jam Jar that was started anew has another one. */
  private HttpRequest.Builder request(String path) throws IOException {
    return HttpRequest.newBuilder(server.resolve(path))
        .header("Authorization", "Bearer " + Files.readString(token).strip());
  }

  private HttpRequest.Builder json(String path) throws IOException {
    return request(path).header("Content-Type", "application/json");
  }

  private HttpResponse<String> call(HttpRequest.Builder request)
      throws IOException, InterruptedException {
    return client.send(request.timeout(Duration.ofSeconds(30)).build(), BodyHandlers.ofString());
  }

  private static void require(HttpResponse<String> answer) {
    if (answer.statusCode() >= 300) {
      throw new IllegalStateException(
          "the server answered " + answer.statusCode() + ": " + answer.body());
    }
  }
}
