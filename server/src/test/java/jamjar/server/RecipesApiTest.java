package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A recipe is changed while an engine is read by it. */
class RecipesApiTest {
  private static final String DROPPED = "deadlocks";
  private static RunningServer server;
  private static TemporaryCluster engine;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = TemporaryCluster.shared();
    engine.run("postgres", "create role recipe_reader login password 'p' in role pg_monitor");
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void a_counter_is_dropped_and_taken_in_again_while_nothing_of_the_readings_is_lost()
      throws Exception {
    int id = add();
    Bodies.await("three readings", () -> seqs(id).size() >= 3);
    int series = series(id, DROPPED).orElseThrow();
    String original = server.get("/api/recipes/postgresql").get("text").asString();

    JsonNode told = put("postgresql", original.replace("without: []", without()), true);
    assertThat(told.get("dropped").get(0).get("key").asString()).isEqualTo(DROPPED);
    assertThat(told.get("usedBy").toString()).contains("changing");
    assertThat(told.get("saved").asBoolean()).isFalse();
    assertThat(series(id, DROPPED)).contains(series);

    put("postgresql", original.replace("without: []", without()), false);
    int before = seqs(id).size();
    Bodies.await("two readings by the new recipe", () -> seqs(id).size() >= before + 2);
    assertThat(series(id, DROPPED)).isEmpty();
    assertThat(server.get("/api/recipes/postgresql").get("left").get(0).get("key").asString())
        .isEqualTo(DROPPED);

    put("postgresql", original, false);
    int between = seqs(id).size();
    Bodies.await("two readings by the old recipe", () -> seqs(id).size() >= between + 2);
    assertThat(series(id, DROPPED)).contains(series);
    // one after the other, each from where the one before ended
    List<Long> seqs = seqs(id);
    for (int i = 0; i < seqs.size(); i++) {
      assertThat(seqs.get(i)).isEqualTo(i + 1);
    }
    assertThat(uncovered(id)).isZero();
    // what was read before it was dropped is there
    assertThat(firstSeen(id, series)).isLessThan(seqs.get(before - 1));
  }

  @Test
  void what_is_wrong_is_told_with_its_line_and_nothing_is_saved() throws Exception {
    String text = "kind: postgresql\nname: Ours\nbasedOn: [postgresql]\nwithout: [no.such]\n";
    JsonNode told = put("ours", text, false);
    assertThat(told.get("faults").get(0).asString())
        .isEqualTo("ours.yaml, line 4, without[0]: there is no counter 'no.such' to leave out");
    assertThat(server.send("GET", "/api/recipes/ours", null).status()).isEqualTo(404);
    JsonNode fine = put("ours", text.replace("no.such", DROPPED), false);
    assertThat(fine.get("saved").asBoolean()).isTrue();
    assertThat(server.get("/api/recipes").toString()).contains("\"ours\"");
    assertThat(server.send("DELETE", "/api/recipes/ours", null).status()).isEqualTo(204);
    assertThat(server.send("PUT", "/api/recipes/..hidden", Map.of("text", text)).status())
        .isEqualTo(422);
  }

  private static String without() {
    return "without: [" + DROPPED + "]";
  }

  private static JsonNode put(String key, String text, boolean dry) throws Exception {
    RunningServer.Answer answer =
        server.send("PUT", "/api/recipes/" + key + "?dry=" + dry, Map.of("text", text));
    assertThat(answer.status()).as(answer.body().toString()).isEqualTo(200);
    return answer.body();
  }

  private static int add() throws Exception {
    Map<String, Object> body =
        Bodies.engine("changing", engine.cluster().port(), "recipe_reader", "p");
    RunningServer.Answer answer = server.send("POST", "/api/instances", body);
    assertThat(answer.status()).as(answer.body().toString()).isEqualTo(201);
    return answer.body().get("id").asInt();
  }

  private static Optional<Integer> series(int id, String counter) throws Exception {
    return server
        .get("/api/instances/" + id + "/series")
        .valueStream()
        .filter(s -> s.get("counter").asString().equals(counter))
        .map(s -> s.get("id").asInt())
        .findFirst();
  }

  private static List<Long> seqs(int id) throws Exception {
    return longs("select seq from reading where instance = ? and source = 1 order by at", id);
  }

  /**
   * How many intervals no reading covers: the time from the first reading to the last, less what
   * all but the first cover, in whole seconds. The one is by our clock, the other by the engine's.
   */
  private static long uncovered(int id) throws Exception {
    return longs(
            """
            select trunc((extract(epoch from max(at) - min(at)) * 1000 - sum(elapsed_ms)
              filter (where seq > 1)) / 1000)::bigint
            from reading where instance = ? and source = 1
            """,
            id)
        .get(0);
  }

  /** The number of the first reading that holds a series. */
  private static long firstSeen(int id, int series) throws Exception {
    return longs(
            "select min(r.seq) from reading r join layout l on l.id = r.layout"
                + " where r.instance = ? and l.series @> array["
                + series
                + "]",
            id)
        .get(0);
  }

  private static List<Long> longs(String sql, int id) throws Exception {
    List<Long> all = new ArrayList<>();
    try (Connection connection = engine.connect(server.database());
        PreparedStatement statement = connection.prepareStatement(sql)) {
      statement.setInt(1, id);
      try (ResultSet rows = statement.executeQuery()) {
        while (rows.next()) {
          all.add(rows.getLong(1));
        }
      }
    }
    return all;
  }
}
