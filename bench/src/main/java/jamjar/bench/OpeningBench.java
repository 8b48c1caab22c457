package jamjar.bench;

import jamjar.store.cluster.PrivateCluster;
import java.io.BufferedReader;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The demo as one opens it first: how long after the first screen the last day is there, and all
 * six weeks; how long learning all of it takes; and how long a second start does.
 */
final class OpeningBench {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String COUNTER = "cpu.process";
  private static final String ENGINE_COUNTER = "transactions.committed";

  /** With Jam Jar itself. */
  private static final int WATCHED = 22;

  private static final Duration LONGEST = Duration.ofMinutes(15);
  private static final long DAY = Duration.ofDays(1).toMillis();

  private final HttpClient client = HttpClient.newHttpClient();
  private final Path home;
  private final Path data;
  private final int port = PrivateCluster.freePort();

  private OpeningBench(Path home, Path data) {
    this.home = home;
    this.data = data;
  }

  static void run(String[] options) throws Exception {
    Path home = Path.of(System.getProperty("jamjar.home", ".")).toAbsolutePath();
    Path data = Files.createTempDirectory("jamjar-opening");
    // the clusters run as another user, who must be able to pass through
    data.toFile().setExecutable(true, false);
    OpeningBench bench = new OpeningBench(home, data);
    try {
      bench.measure();
    } finally {
      bench.jamjar("stop");
    }
  }

  private void measure() throws Exception {
    double first = jamjar("demo", "--fresh", "--detach", "--port", Integer.toString(port));
    System.out.printf("first start: the first screen after %.1f s%n", first);
    long shown = System.currentTimeMillis();
    Bench.await("all are watched", () -> send("GET", "/api/instances", null).size() == WATCHED);
    List<Integer> servers = series(false);
    told("the last day, servers and JVMs", shown, servers, shown - DAY + 600_000);
    List<Integer> series = new ArrayList<>(series(true));
    // what these were is told by their first minute under watch
    told("the last day, engines", shown, series, shown - DAY + 600_000);
    series.addAll(servers);
    told("six weeks", shown, series, shown - 42 * DAY + DAY / 2);
    Bench.await("history is learned", () -> Files.exists(data.resolve("demo/estate/learned")));
    System.out.printf("learned, and judged afterwards: %.1f s%n", seconds(shown));
    relearned();
    jamjar("stop");
    System.out.printf(
        "second start: the first screen after %.1f s%n",
        jamjar("demo", "--detach", "--port", Integer.toString(port)));
  }

  private static double seconds(long since) {
    return (System.currentTimeMillis() - since) / 1e3;
  }

  /** Runs a command of the start script to its end; tells when its address was there, in s. */
  private double jamjar(String... words) throws Exception {
    List<String> command = new ArrayList<>(List.of(home.resolve("jamjar").toString()));
    command.addAll(List.of(words));
    ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
    builder.environment().put("JAMJAR_DATA", data.toString());
    long began = System.nanoTime();
    Process process = builder.start();
    double shown = 0;
    try (BufferedReader out =
        new BufferedReader(
            new java.io.InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      for (String line = out.readLine(); line != null; line = out.readLine()) {
        if (line.startsWith("Jam Jar: ")) {
          shown = (System.nanoTime() - began) / 1e9;
        }
      }
    }
    if (process.waitFor() != 0) {
      throw new IllegalStateException(String.join(" ", command) + " failed");
    }
    return shown;
  }

  /** One of each engine, or of all else: a series that says whether its past is there. */
  private List<Integer> series(boolean engines) throws Exception {
    List<Integer> all = new ArrayList<>();
    for (JsonNode instance : send("GET", "/api/instances", null)) {
      String kind = instance.get("kind").asString();
      boolean isEngine = kind.equals("postgresql");
      String counter = isEngine ? ENGINE_COUNTER : COUNTER;
      if (kind.equals("jamjar")
          || isEngine != engines
          || instance.get("name").asString().equals("gate-4")) {
        continue;
      }
      String path = "/api/instances/" + instance.get("id").asInt() + "/series";
      Bench.await("it is read", () -> found(path, counter) > 0);
      all.add(found(path, counter));
    }
    return all;
  }

  private int found(String path, String counter) throws Exception {
    for (JsonNode one : send("GET", path, null)) {
      if (one.get("counter").asString().equals(counter) && one.get("whole").asBoolean()) {
        return one.get("id").asInt();
      }
    }
    return 0;
  }

  /** Waits until each has values at a moment of the past. */
  private void told(String what, long shown, List<Integer> series, long at) throws Exception {
    long until = System.nanoTime() + LONGEST.toNanos();
    for (int one : series) {
      // one after the other: what looks must not take the time of what it looks for
      while (!isThere(one, at)) {
        if (System.nanoTime() > until) {
          throw new IllegalStateException("never: " + what);
        }
        Thread.sleep(500);
      }
    }
    System.out.printf(
        "%s of %d instances: %.1f s after the first screen%n", what, series.size(), seconds(shown));
  }

  private boolean isThere(int series, long at) throws Exception {
    Map<String, Object> body =
        Map.of("series", List.of(series), "from", at, "to", at + DAY / 8, "maxPoints", 20);
    JsonNode told = send("POST", "/api/points", body).get(0);
    return told.get("mean").valueStream().anyMatch(mean -> !mean.isNull());
  }

  /** Everything anew, one instance after the other. */
  private void relearned() throws Exception {
    long began = System.nanoTime();
    int count = 0;
    for (JsonNode instance : send("GET", "/api/instances", null)) {
      send("POST", "/api/instances/" + instance.get("id").asInt() + "/learn", null);
      count++;
    }
    System.out.printf(
        "%d instances learned anew in %.1f s%n", count, (System.nanoTime() - began) / 1e9);
  }

  private JsonNode send(String method, String path, Object body)
      throws IOException, InterruptedException {
    HttpRequest request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .header(
                "Authorization",
                "Bearer " + Files.readString(data.resolve("demo/program.token")).strip())
            .header("Content-Type", "application/json")
            .timeout(LONGEST)
            .method(
                method,
                body == null
                    ? BodyPublishers.noBody()
                    : BodyPublishers.ofString(JSON.writeValueAsString(body)))
            .build();
    HttpResponse<String> answer = client.send(request, BodyHandlers.ofString());
    if (answer.statusCode() >= 300) {
      throw new IllegalStateException(path + " " + answer.statusCode() + ": " + answer.body());
    }
    return answer.body().isEmpty() ? JSON.nullNode() : JSON.readTree(answer.body());
  }
}
