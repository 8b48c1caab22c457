package jamjar.bench;

import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The server's API, as a benchmark uses it. */
final class Rest {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private final HttpClient client = HttpClient.newHttpClient();
  private final ServerProcess server;

  Rest(ServerProcess server) {
    this.server = server;
  }

  JsonNode get(String path) throws IOException, InterruptedException {
    return send(server.request(path).GET());
  }

  /** The status that a question is answered with; 0 where nobody answers. */
  int status(String path) throws InterruptedException {
    try {
      HttpRequest request = server.request(path).GET().build();
      return client.send(request, BodyHandlers.discarding()).statusCode();
    } catch (IOException e) {
      return 0;
    }
  }

  JsonNode post(String path, Object body) throws IOException, InterruptedException {
    return send(
        server
            .request(path)
            .header("Content-Type", "application/json")
            .POST(BodyPublishers.ofString(JSON.writeValueAsString(body))));
  }

  JsonNode put(String path, Object body) throws IOException, InterruptedException {
    return send(
        server
            .request(path)
            .header("Content-Type", "application/json")
            .PUT(BodyPublishers.ofString(JSON.writeValueAsString(body))));
  }

  void delete(String path) throws IOException, InterruptedException {
    send(server.request(path).DELETE());
  }

  private JsonNode send(HttpRequest.Builder request) throws IOException, InterruptedException {
    HttpResponse<String> answer = client.send(request.build(), BodyHandlers.ofString());
    if (answer.statusCode() >= 300) {
      throw new IOException(answer.statusCode() + ": " + answer.body());
    }
    return answer.body().isEmpty() ? null : JSON.readTree(answer.body());
  }
}
