package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;

/**
 * Every call of the description with what nobody should send: told as a problem of who sent it, in
 * words, and never as one of the server.
 */
class FuzzApiTest {
  /** The bench of the same name takes another each time. */
  private static final long SEED = Long.getLong("fuzz.seed", 20261126);

  private static final int ROUNDS = Integer.getInteger("fuzz.rounds", 12);
  private static final String SECRET = "planted-" + "fuzz-stone";
  private static RunningServer server;
  private final SplittableRandom random = new SplittableRandom(SEED);

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    server.send("POST", "/api/instances?insist=true", Bodies.engine("fuzzed", 1, "reader", SECRET));
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void no_call_fails_on_our_side_shows_a_stack_or_tells_a_secret() throws Exception {
    JsonNode description = server.get("/api/openapi.json");
    List<String> wrong = new ArrayList<>();
    for (Map.Entry<String, JsonNode> path : description.get("paths").properties()) {
      for (Map.Entry<String, JsonNode> method : path.getValue().properties()) {
        // the stream answers for ever
        if (!path.getKey().equals("/api/live")) {
          for (int round = 0; round < ROUNDS; round++) {
            call(description, path.getKey(), method.getKey(), method.getValue(), wrong);
          }
        }
      }
    }
    assertThat(wrong).as("seed " + SEED).isEmpty();
  }

  @Test
  void what_never_comes_to_a_controller_is_a_problem_document_too() throws Exception {
    List<String> wrong = new ArrayList<>();
    for (String[] request :
        new String[][] {
          {"GET", "/error"},
          {"POST", "/error"},
          {"PATCH", "/api/instances"},
          {"DELETE", "/api/alerts"},
          {"GET", "/api/nothing/at/all"},
          {"GET", "/api/points"},
          {"GET", "/api/markers"},
          {"GET", "/api/instances/1/ranking"},
          {"GET", "/api/baselines?series=x"},
          {"GET", "/api/recipes/..%2f..%2fsecret"},
          {"DELETE", "/api/recipes/a.b"}
        }) {
      check(request[0], request[1], "", "application/json", wrong);
    }
    for (String type : new String[] {"text/plain", "application/xml", "", "x"}) {
      check("POST", "/api/limits", "{}", type, wrong);
    }
    check("POST", "/api/estate/import", huge(), "application/json", wrong);
    check("POST", "/api/limits", "[".repeat(50_000), "application/json", wrong);
    for (String yaml : new String[] {bomb(), "a: ".concat("[".repeat(20_000)), "\u0000", "&a *a"}) {
      String text = JsonNodeFactory.instance.stringNode(yaml).toString();
      check(
          "POST",
          "/api/estate/import",
          "{\"format\": \"yaml\", \"text\": " + text + "}",
          "application/json",
          wrong);
      check(
          "PUT",
          "/api/recipes/fuzzed?dry=true",
          "{\"text\": " + text + "}",
          "application/json",
          wrong);
    }
    assertThat(wrong).isEmpty();
  }

  private void call(
      JsonNode description, String path, String method, JsonNode operation, List<String> wrong)
      throws Exception {
    String address = path;
    StringBuilder query = new StringBuilder();
    if (operation.has("parameters")) {
      for (JsonNode parameter : operation.get("parameters")) {
        String value = encoded(odd());
        String name = parameter.get("name").asString();
        if (parameter.get("in").asString().equals("path")) {
          // an empty one would be another address
          address = address.replace("{" + name + "}", value.isEmpty() ? "1" : value);
        } else if (random.nextInt(4) > 0) {
          query.append(query.isEmpty() ? "?" : "&").append(name).append('=').append(value);
        }
      }
    }
    JsonNode schema = operation.at("/requestBody/content/application~1json/schema");
    String body = schema.isMissingNode() ? "" : value(description, schema, 0);
    check(
        method.toUpperCase(java.util.Locale.ROOT),
        address + query,
        body,
        "application/json",
        wrong);
  }

  /** A value of a schema, now and then of another kind or at the edge of what there is. */
  private String value(JsonNode description, JsonNode schema, int depth) {
    if (random.nextInt(8) == 0 || depth > 6) {
      return JsonNodeFactory.instance.stringNode(odd()).toString();
    }
    if (schema.has("$ref")) {
      String name = schema.get("$ref").asString().replaceFirst(".*/", "");
      return value(description, description.get("components").get("schemas").get(name), depth + 1);
    }
    String type =
        schema.has("type")
            ? schema.get("type").isArray()
                ? schema.get("type").get(0).asString()
                : schema.get("type").asString()
            : "object";
    return switch (type) {
      case "object" -> {
        List<String> fields = new ArrayList<>();
        if (schema.has("properties")) {
          schema
              .get("properties")
              .properties()
              .forEach(
                  p -> {
                    if (random.nextInt(10) > 0) {
                      fields.add(
                          "\"" + p.getKey() + "\": " + value(description, p.getValue(), depth + 1));
                    }
                  });
        }
        yield "{" + String.join(", ", fields) + "}";
      }
      case "array" -> {
        List<String> items = new ArrayList<>();
        for (int i = random.nextInt(4); i > 0; i--) {
          items.add(value(description, schema.get("items"), depth + 1));
        }
        yield "[" + String.join(", ", items) + "]";
      }
      case "integer", "number" ->
          List.of(
                  "0",
                  "1",
                  "-1",
                  "9223372036854775807",
                  "-9223372036854775808",
                  "1e308",
                  "0.5",
                  "253402300800000",
                  "9007199254740993")
              .get(random.nextInt(9));
      case "boolean" -> random.nextBoolean() ? "true" : "false";
      default -> JsonNodeFactory.instance.stringNode(odd()).toString();
    };
  }

  private String odd() {
    return List.of(
            "",
            " ",
            "1",
            "-1",
            "0",
            "999999999999999999999",
            "1e400",
            "NaN",
            "true",
            "null",
            "fuzzed",
            "jvm",
            "postgresql",
            "off",
            "above",
            "kind",
            "instance",
            "a\u0000b",
            "\ud800",
            "../../etc/passwd",
            "'; drop table instance; --",
            "${x}",
            "%s%n",
            "<script>",
            "ä€😀",
            "x".repeat(3_000),
            "9223372036854775807",
            "-9223372036854775808",
            "2026-02-30",
            "java.lang:type=*,*",
            "Europe/Oslo",
            "127.0.0.1/postgres?socketFactory=x&y=")
        .get(random.nextInt(32));
  }

  private static String encoded(String value) {
    return java.net.URLEncoder.encode(value, java.nio.charset.StandardCharsets.UTF_8)
        .replace("+", "%20");
  }

  private static void check(
      String method, String address, String body, String type, List<String> wrong)
      throws Exception {
    RunningServer.Raw answer = server.raw(method, address, body, type);
    String sent =
        method
            + " "
            + address.substring(0, Math.min(200, address.length()))
            + " "
            + body.substring(0, Math.min(600, body.length()))
            + " → "
            + answer.status();
    if (answer.status() >= 500 && answer.status() != 502) {
      wrong.add(sent + " " + answer.body());
    }
    if (answer.body().contains("\tat ") || answer.body().contains("Exception")) {
      wrong.add("a stack: " + sent + " " + answer.body());
    }
    if (answer.body().contains(SECRET)) {
      wrong.add("a secret: " + sent);
    }
    boolean refusedByUs = answer.status() >= 400 && !answer.type().startsWith("text/html");
    if (refusedByUs && !answer.type().startsWith("application/problem+json")) {
      wrong.add("no problem document: " + sent + " " + answer.type() + " " + answer.body());
    }
  }

  private static String huge() {
    return "{\"format\": \"yaml\", \"text\": \"" + "x".repeat(7_000_000) + "\"}";
  }

  private static String bomb() {
    StringBuilder text = new StringBuilder("a0: &a0 [x, x, x, x, x, x, x, x, x]\n");
    for (int i = 1; i < 60; i++) {
      text.append("a").append(i).append(": &a").append(i).append(" [");
      text.append(("*a" + (i - 1) + ", ").repeat(8)).append("*a").append(i - 1).append("]\n");
    }
    return text.toString();
  }
}
