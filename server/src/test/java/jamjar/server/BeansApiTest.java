package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The beans of Jam Jar's own JVM, of which it reads as of any other. */
class BeansApiTest {
  private static final String POOL = "java.lang:name=Metaspace,type=MemoryPool";
  private static RunningServer server;
  private static String beans;
  private static int id;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    id = server.get("/api/instances").get(0).get("id").asInt();
    beans = "/api/instances/" + id + "/beans";
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void an_attribute_becomes_a_counter_that_is_read_from_then_on() throws Exception {
    assertThat(server.get(beans).get("beans").toString()).contains(POOL);
    assertThat(number("PeakUsage.used").get("value").asDouble()).isPositive();
    Map<String, Object> body = body("Class data used");

    JsonNode told = server.send("POST", beans + "/counter?dry=true", body).body();
    assertThat(told.get("faults")).isEmpty();
    assertThat(told.get("added").get(0).get("key").asString()).isEqualTo("own.class_data_used");
    assertThat(told.get("usedBy").toString()).contains("Jam Jar");
    assertThat(told.get("saved").asBoolean()).isFalse();
    assertThat(number("PeakUsage.used").get("counter").asString()).isEmpty();

    told = server.send("POST", beans + "/counter", body).body();
    assertThat(told.get("saved").asBoolean()).isTrue();
    assertThat(number("PeakUsage.used").get("counter").asString()).isEqualTo("own.class_data_used");
    Bodies.await("a value of each pool", () -> series("Metaspace").isPresent());
    JsonNode series = series("Metaspace").orElseThrow();
    assertThat(series.get("unit").asString()).isEqualTo("B");
    assertThat(series.get("meaning").asString()).isEqualTo("It's what classes take.");
    assertThat(series.get("value").asDouble()).isGreaterThan(1 << 20);

    var again = server.send("POST", beans + "/counter", body);
    assertThat(again.status()).isEqualTo(422);
    assertThat(again.body().get("field").asString()).isEqualTo("title");
  }

  @Test
  void what_is_no_bean_and_what_lacks_is_told() throws Exception {
    assertThat(server.send("GET", beans + "/attributes?bean=sails", null).status()).isEqualTo(422);
    assertThat(server.send("GET", beans + "/attributes?bean=sails:type%3DNone", null).status())
        .isEqualTo(404);
    Map<String, Object> body = new HashMap<>(body("No such part"));
    body.put("label", "colour");
    var answer = server.send("POST", beans + "/counter?dry=true", body);
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body().get("detail").asString())
        .isEqualTo("The bean's name has no part 'colour'.");
  }

  private static Map<String, Object> body(String title) {
    return Map.of(
        "bean", POOL,
        "label", "name",
        "path", "PeakUsage.used",
        "flag", false,
        "title", title,
        "unit", "B",
        "shape", "level",
        "factor", 1,
        "worse", "up",
        "meaning", "It's what classes take.");
  }

  private static JsonNode number(String path) throws Exception {
    JsonNode attributes = server.get(beans + "/attributes?bean=" + POOL.replace("=", "%3D"));
    return StreamSupport.stream(attributes.spliterator(), false)
        .flatMap(a -> StreamSupport.stream(a.get("numbers").spliterator(), false))
        .filter(n -> n.get("path").asString().equals(path))
        .findFirst()
        .orElseThrow();
  }

  private static Optional<JsonNode> series(String pool) throws Exception {
    JsonNode all = server.get("/api/instances/" + id + "/series");
    return StreamSupport.stream(all.spliterator(), false)
        .filter(s -> s.get("counter").asString().equals("own.class_data_used"))
        .filter(s -> s.get("labels").get("name").asString().equals(pool))
        .filter(s -> s.get("value").isNumber())
        .findFirst();
  }
}
