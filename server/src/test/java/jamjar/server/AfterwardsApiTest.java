package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.Pace;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.server.limits.LiveJudge;
import jamjar.store.instances.InstanceRow;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Two weeks that were brought in: on each of the last ten nights sessions wait for a lock for half
 * an hour, and since ten minutes before the end twenty-five do.
 */
class AfterwardsApiTest {
  private static final SeriesKey WAITING = SeriesKey.of("sessions.waiting_lock");
  private static final Instant TODAY = Instant.now().truncatedTo(ChronoUnit.DAYS);
  private static final int DAYS = 14;
  private static final int NIGHTS = 10;

  private static RunningServer server;
  private static int engine;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = server.instance("booking-db-a", "booking-db", "Northquay");
    Minutely.bring(
        server, DAYS, at -> Minutely.at(engine, at, List.of(WAITING), new double[] {value(at)}));
    InstanceRow row = server.store().instances().byId(engine).orElseThrow();
    LiveJudge judge = server.bean(LiveJudge.class);
    judge.begin(row);
    Instant now = Instant.now();
    int[] ids = server.store().readings().numbers(engine, List.of(WAITING), now);
    judge.read(
        engine,
        Pace.FAST,
        now,
        ids,
        List.of(new Shown(WAITING, 25, null, 25, 1)),
        (arrived, judged) -> {});
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static double value(Instant at) {
    Duration left = Duration.between(at, TODAY);
    long minute = Duration.between(at.truncatedTo(ChronoUnit.DAYS), at).toMinutes();
    if (left.toMinutes() < 10) {
      return 25;
    }
    return left.toDays() < NIGHTS && minute >= 130 && minute < 160 ? 9 : 0;
  }

  private static List<JsonNode> alerts() throws Exception {
    return server
        .get("/api/alerts?state=all&from=" + TODAY.minus(DAYS, ChronoUnit.DAYS).toEpochMilli())
        .valueStream()
        .filter(alert -> alert.get("instance").asInt() == engine)
        .toList();
  }

  @Test
  void what_was_brought_in_is_judged_once_told_to_nobody_and_what_lasts_goes_on() throws Exception {
    for (int times = 1; times <= 2; times++) {
      int judged = server.send("POST", "/api/limits/afterwards", null).body().get("alerts").asInt();
      assertThat(judged).isEqualTo(NIGHTS + 1);
      Bodies.await("they are there", () -> alerts().size() > NIGHTS);
      List<JsonNode> past = alerts().stream().filter(a -> a.get("afterwards").asBoolean()).toList();
      assertThat(past).hasSize(NIGHTS);
      // what somebody wrote to stays, and is not there twice
      String first = "/api/alerts/" + past.get(0).get("id").asInt();
      assertThat(server.send("POST", first + "/comments", Map.of("note", "the reload")).status())
          .isEqualTo(200);
    }
    JsonNode night =
        alerts().stream().filter(a -> a.get("afterwards").asBoolean()).toList().get(NIGHTS - 1);
    assertThat(night.get("severity").asString()).isEqualTo("warning");
    assertThat(night.get("state").asString()).isEqualTo("calm");
    assertThat(night.get("worst").asDouble()).isEqualTo(9);
    assertThat(night.get("transitions").valueStream().map(t -> t.get("to").asString()))
        .containsExactly("warning", "settling", "calm");
    JsonNode lasts =
        alerts().stream().filter(a -> a.get("ended").isNull()).findFirst().orElseThrow();
    assertThat(lasts.get("severity").asString()).isEqualTo("critical");
    assertThat(lasts.get("since").asLong())
        .isEqualTo(TODAY.minus(9, ChronoUnit.MINUTES).toEpochMilli());
  }
}
