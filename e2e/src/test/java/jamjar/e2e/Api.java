package jamjar.e2e;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The server's API as a program would use it. */
final class Api {
  private static final JsonMapper JSON = JsonMapper.builder().build();
  private final HttpClient client = HttpClient.newHttpClient();
  private final Supplier<String> address;
  private final String token;

  /**
   * @param token of the programs that ship with the server
   */
  Api(Supplier<String> address, String token) {
    this.address = address;
    this.token = token;
  }

  JsonNode get(String path) throws Exception {
    return send("GET", path, null);
  }

  JsonNode send(String method, String path, Object body) throws Exception {
    HttpResponse<String> answer = answer(method, path, body, Map.of());
    if (answer.statusCode() >= 300) {
      throw new IllegalStateException(answer.statusCode() + ": " + answer.body());
    }
    return JSON.readTree(answer.body());
  }

  HttpResponse<String> answer(String method, String path, Object body, Map<String, String> headers)
      throws Exception {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(address.get() + path))
            .method(
                method,
                body == null
                    ? BodyPublishers.noBody()
                    : BodyPublishers.ofString(JSON.writeValueAsString(body)));
    if (body != null) {
      request.header("Content-Type", "application/json");
    }
    // what is asked as nobody says so
    if (!headers.containsKey("Authorization")) {
      request.header("Authorization", "Bearer " + token);
    }
    headers.forEach(request::header);
    return client.send(request.build(), BodyHandlers.ofString());
  }

  /** The series of an instance that stand for the whole of it, by counter. */
  Map<String, JsonNode> series(int instance) throws Exception {
    Map<String, JsonNode> found = new HashMap<>();
    for (JsonNode series : get("/api/instances/" + instance + "/series")) {
      if (series.get("whole").asBoolean()) {
        found.put(series.get("counter").asString(), series);
      }
    }
    return found;
  }

  /** The latest value of a counter; null when there is none. */
  Double value(int instance, String counter) throws Exception {
    JsonNode series = series(instance).get(counter);
    return series == null || series.get("value").isNull() ? null : series.get("value").asDouble();
  }

  /** The points of one counter. */
  JsonNode points(int instance, String counter, long from, long to) throws Exception {
    JsonNode series = series(instance).get(counter);
    return send(
            "POST",
            "/api/points",
            Map.of(
                "series",
                List.of(series.get("id").asInt()),
                "from",
                from,
                "to",
                to,
                "maxPoints",
                4000))
        .get(0);
  }

  String state(int instance) throws Exception {
    return get("/api/instances/" + instance).get("state").get("state").asString();
  }
}
