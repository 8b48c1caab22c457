package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.Pace;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.server.limits.LiveJudge;
import jamjar.server.limits.NightlyForecasts;
import jamjar.store.instances.InstanceRow;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** An engine with one session more each day: 60 six weeks ago, 100 yesterday. */
class ReachesApiTest {
  private static final SeriesKey SESSIONS = SeriesKey.of("sessions.total");
  private static final Instant TODAY = Instant.now().truncatedTo(ChronoUnit.DAYS);
  private static final int DAYS = 41;

  private static RunningServer server;
  private static InstanceRow engine;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    int id = server.instance("booking-db-a", "booking-db", "Northquay");
    Minutely.bring(
        server, DAYS, at -> Minutely.at(id, at, List.of(SESSIONS), new double[] {value(at)}));
    engine = server.store().instances().byId(id).orElseThrow();
    LiveJudge judge = server.bean(LiveJudge.class);
    judge.begin(engine);
    Instant now = Instant.now();
    int[] ids = server.store().readings().numbers(id, List.of(SESSIONS), now);
    judge.read(
        id,
        Pace.FAST,
        now,
        ids,
        List.of(new Shown(SESSIONS, 100, null, 100, 1)),
        (arrived, judged) -> {});
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static double value(Instant at) {
    return 100 - Duration.between(at, TODAY).toDays();
  }

  private static JsonNode limit(Double against) throws Exception {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", SESSIONS.counter());
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", "instance", "of", "" + engine.id()));
    body.put("condition", "reaches");
    body.put("warning", 30);
    body.put("against", against);
    body.put("clear", Map.of());
    body.put("offReason", "");
    return server.send("POST", "/api/limits", body).body();
  }

  private static Optional<JsonNode> alert() throws Exception {
    return server
        .get("/api/alerts")
        .valueStream()
        .filter(one -> one.get("condition").asString().equals("reaches"))
        .findFirst();
  }

  @Test
  void what_will_be_reached_within_days_is_told_after_three_nights() throws Exception {
    assertThat(limit(120.0).get("against").asDouble()).isEqualTo(120);
    NightlyForecasts nights = server.bean(NightlyForecasts.class);
    LocalDate today = LocalDate.ofInstant(TODAY, ZoneId.of(engine.zone()));
    nights.tell(engine, today.minusDays(2));
    nights.tell(engine, today.minusDays(1));
    // the same night again counts once
    nights.tell(engine, today.minusDays(1));
    assertThat(alert()).isEmpty();
    nights.tell(engine, today);
    Bodies.await("it is told", () -> alert().isPresent());
    JsonNode told = alert().orElseThrow();
    assertThat(told.get("state").asString()).isEqualTo("warning");
    // from 100 on at one a day
    assertThat(told.get("value").asDouble()).isBetween(18.0, 22.0);
    assertThat(told.get("number").asDouble()).isEqualTo(30);
  }
}
