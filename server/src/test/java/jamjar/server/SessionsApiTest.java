package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.store.cluster.TemporaryCluster;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Sessions and locks of an engine, now and then. */
class SessionsApiTest {
  private static final ExecutorService THREADS = Executors.newCachedThreadPool();
  private static RunningServer server;
  private static TemporaryCluster engine;
  private static String at;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = TemporaryCluster.start(Map.of());
    engine.run("postgres", "create role reader login password 'p' in role pg_monitor");
    engine.run("postgres", "create table berth (id int, held int)");
    engine.run("postgres", "insert into berth values (1, 0)");
    int id =
        server
            .send(
                "POST",
                "/api/instances",
                Bodies.engine("sampled", engine.cluster().port(), "reader", "p"))
            .body()
            .get("id")
            .asInt();
    at = "/api/instances/" + id;
  }

  @AfterAll
  static void end() throws Exception {
    THREADS.shutdownNow();
    server.close();
    engine.cluster().remove();
  }

  @Test
  void who_holds_a_lock_is_told_now_and_the_same_of_that_moment_later() throws Exception {
    try (Connection holder = engine.connect("postgres");
        Connection waiter = engine.connect("postgres");
        Statement holds = holder.createStatement();
        Statement waits = waiter.createStatement()) {
      holds.execute("set application_name = 'fare-reload'");
      waits.execute("set application_name = 'berths'");
      holder.setAutoCommit(false);
      holds.execute("update berth set held = 1 where id = 1");
      THREADS.submit(() -> waits.execute("update berth set held = 1999888777 where id = 1"));
      Bodies.await(
          "the waiter is sampled, and the texts are brought in after it",
          () -> {
            JsonNode locks = server.get(at + "/locks");
            return locks.get("waiting").asInt() == 1
                && !locks.findValuesAsString("text").contains("");
          });
      JsonNode now = server.get(at + "/locks");
      long then = now.get("at").asLong();
      assertThat(then).isCloseTo(Instant.now().toEpochMilli(), within(60_000L));
      JsonNode root = now.get("roots").get(0);
      assertThat(root.get("session").get("program").asString()).isEqualTo("fare-reload");
      assertThat(root.get("session").get("state").asString()).isEqualTo("idle in transaction");
      assertThat(root.get("session").get("last").asBoolean()).isTrue();
      assertThat(root.get("waiters").asInt()).isEqualTo(1);
      assertThat(root.get("onlyBecause").asInt()).isEqualTo(1);
      assertThat(root.get("holds").toString()).contains("its transaction");
      JsonNode below = root.get("below").get(0);
      assertThat(below.get("session").get("program").asString()).isEqualTo("berths");
      assertThat(below.get("wants").asString()).isEqualTo("a row of berth");
      assertThat(below.get("ahead").asBoolean()).isFalse();

      Bodies.await(
          "it waits for more than two seconds",
          () -> server.get(at + "/sessions").get("waiting").get(0).get("count").asInt() == 1);
      JsonNode sessions = server.get(at + "/sessions").get("sessions");
      assertThat(sessions.toString())
          .doesNotContain("1999888777")
          .contains("update berth set held = ?");
      holder.rollback();
      Bodies.await(
          "it has what it waited for", () -> server.get(at + "/locks").get("waiting").asInt() == 0);
      JsonNode later = server.get(at + "/locks?at=" + then);
      // the circle and the ages are those of then, as is all else
      assertThat(later).isEqualTo(now);
      assertThat(server.get(at + "/sessions?at=" + (then - 3_600_000)).get("why").asString())
          .contains("no sample");

      JsonNode busy =
          server.get(at + "/busy?from=" + (then - 60_000) + "&to=" + (then + 60_000) + "&steps=24");
      JsonNode lock =
          busy.get("parts")
              .valueStream()
              .filter(part -> part.get("name").asString().equals("Lock"))
              .findFirst()
              .orElseThrow();
      assertThat(lock.get("share").asDouble()).isGreaterThan(0);
      for (int step = 0; step < busy.get("at").size(); step++) {
        int one = step;
        JsonNode all = busy.get("all").get(step);
        double sum =
            busy.get("parts")
                .valueStream()
                .map(part -> part.get("mean").get(one))
                .mapToDouble(mean -> mean.isNull() ? 0 : mean.asDouble())
                .sum();
        assertThat(sum).isCloseTo(all.isNull() ? 0 : all.asDouble(), within(1e-9));
      }
      JsonNode byStatement =
          server.get(at + "/busy?by=statement&from=" + (then - 60_000) + "&to=" + (then + 60_000));
      assertThat(byStatement.get("parts").toString()).contains("update berth set held = ?");
    }
  }

  @Test
  void what_cannot_be_told_says_why() throws Exception {
    assertThat(server.send("GET", "/api/instances/999999/sessions", null).status()).isEqualTo(404);
    assertThat(server.send("GET", "/api/instances/999999/busy?from=1000&to=2000", null).status())
        .isEqualTo(404);
    RunningServer.Answer wrong = server.send("GET", at + "/busy?from=1000&to=2000&by=colour", null);
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.body().toString()).contains("wait, user, program");
    assertThat(server.send("GET", at + "/busy?from=1000&to=2000&steps=0", null).status())
        .isEqualTo(422);
    int own = 0;
    for (JsonNode instance : server.get("/api/instances")) {
      if (instance.get("kind").asString().equals("jamjar")) {
        own = instance.get("id").asInt();
      }
    }
    JsonNode nothing = server.get("/api/instances/" + own + "/locks");
    assertThat(nothing.get("at").isNull()).isTrue();
    assertThat(nothing.get("why").asString()).contains("PostgreSQL");
  }
}
