package jamjar.server;

import jamjar.server.security.Secrets;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.instances.InstanceRow;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Comparator;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The server on a database of its own, with nothing under watch but what a test puts there. */
final class RunningServer implements AutoCloseable {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database = cluster.newDatabase();
  private final Path data = Files.createTempDirectory("jamjar-server");
  private final ConfigurableApplicationContext context;
  private final HttpClient client = HttpClient.newHttpClient();

  private final String token = Secrets.fresh();

  /**
   * @param options as on the command line
   */
  RunningServer(String... options) throws IOException {
    Files.writeString(data.resolve("program.token"), token);
    // one after the other: while it starts it writes properties of the process and of its logging
    synchronized (RunningServer.class) {
      context =
          JamJarServer.application()
              .run(
                  Stream.concat(
                          Stream.of(
                              "--server.port=0",
                              "--jamjar.data=" + data,
                              "--jamjar.database.url=" + cluster.cluster().url(database),
                              "--jamjar.database.user=postgres",
                              "--jamjar.database.password=" + cluster.cluster().password()),
                          Stream.of(options))
                      .toArray(String[]::new));
    }
  }

  /** The name of its database. */
  String database() {
    return database;
  }

  Store store() {
    return bean(Store.class);
  }

  <T> T bean(Class<T> type) {
    return context.getBean(type);
  }

  /**
   * What it answered.
   *
   * @param body null for a file of another kind
   */
  record Answer(int status, JsonNode body, String text) {}

  Answer send(String method, String path, Object body) throws Exception {
    return as(token, method, path, body);
  }

  /** As who has a token. */
  Answer as(String bearer, String method, String path, Object body) throws Exception {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(uri(path))
            .header("Authorization", "Bearer " + bearer)
            .method(
                method,
                body == null
                    ? BodyPublishers.noBody()
                    : BodyPublishers.ofString(JSON.writeValueAsString(body)));
    if (body != null) {
      request.header("Content-Type", "application/json");
    }
    HttpResponse<String> answer = client.send(request.build(), BodyHandlers.ofString());
    return new Answer(answer.statusCode(), read(answer.body()), answer.body());
  }

  /** Null for a file of another kind. */
  static JsonNode read(String text) {
    return JSON.readTree(text.startsWith("{") || text.startsWith("[") ? text : "null");
  }

  JsonNode get(String path) throws Exception {
    return send("GET", path, null).body();
  }

  /**
   * A key that lets in once.
   *
   * @param name of an account; empty for the first administrator
   */
  String entryKey(String name) throws Exception {
    String path = send("POST", "/api/keys", Map.of("name", name)).body().get("path").asString();
    return path.substring(path.indexOf('=') + 1);
  }

  /** What a file that is given out holds. */
  String text(String path) throws Exception {
    return client.send(request(path).build(), BodyHandlers.ofString()).body();
  }

  /** As the program that it ships with. */
  private HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(uri(path)).header("Authorization", "Bearer " + token);
  }

  URI uri(String path) {
    return URI.create("http://127.0.0.1:" + port() + path);
  }

  String port() {
    return context.getEnvironment().getProperty("local.server.port");
  }

  /** Why what was tried in its database did not come to be. */
  String changesRefuse(String statement) {
    try {
      cluster.run(database, statement);
      return "";
    } catch (RuntimeException e) {
      return String.valueOf(e.getMessage()) + e.getCause();
    }
  }

  /** An instance in the store that nobody reads. */
  int instance(String name, String group, String site) {
    return store()
        .instances()
        .add(
            new InstanceRow(
                0,
                name,
                "postgresql",
                group,
                site,
                "",
                new String[0],
                "127.0.0.1",
                1,
                "postgres",
                "off",
                "",
                "reader",
                new byte[] {1},
                "postgresql",
                10,
                "Europe/Oslo",
                Instant.now(),
                null,
                false,
                new String[0]));
  }

  @Override
  public void close() throws IOException {
    context.close();
    try (Stream<Path> left = Files.walk(data)) {
      for (Path path : left.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }

  /** An answer as it came. */
  record Raw(int status, String type, String body) {}

  /** Sends anything; an empty type for none. */
  Raw raw(String method, String path, String body, String type) throws Exception {
    HttpRequest.Builder request =
        request(path).method(method, HttpRequest.BodyPublishers.ofString(body));
    if (!type.isEmpty()) {
      request.header("Content-Type", type);
    }
    HttpResponse<String> answer =
        client.send(request.build(), HttpResponse.BodyHandlers.ofString());
    return new Raw(
        answer.statusCode(), answer.headers().firstValue("Content-Type").orElse(""), answer.body());
  }
}
