package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.reading.SeriesKey;
import jamjar.server.normals.NormalsService;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Four weeks in which two things moved on one noon: one soon and a little, one later and far. */
class MovedApiTest {
  private static final SeriesKey SESSIONS = SeriesKey.of("sessions.total");
  private static final SeriesKey ACTIVE = SeriesKey.of("sessions.active");
  private static final SeriesKey IDLE = SeriesKey.of("sessions.idle");
  private static final SeriesKey WAITING = SeriesKey.of("sessions.waiting_lock");
  private static final Instant NOON =
      Instant.now().truncatedTo(ChronoUnit.DAYS).minus(2, ChronoUnit.DAYS).plusSeconds(43_200);

  private static RunningServer server;
  private static int engine;
  private static int other;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = server.instance("booking-db-a", "booking-db", "Northquay");
    other = server.instance("freight-db", "freight-db", "Southmole");
    NormalsService normals = server.bean(NormalsService.class);
    for (int id : new int[] {engine, other}) {
      Minutely.bring(
          server,
          28,
          at -> Minutely.at(id, at, List.of(SESSIONS, ACTIVE, IDLE, WAITING), values(id, at)));
      normals.beginSoon(id);
      normals.learnNow(id);
    }
  }

  private static double[] values(int id, Instant at) {
    long minute = Duration.between(NOON, at).toMinutes();
    double usual = at.getEpochSecond() / 60 % 3;
    // whole quarter-hours, so that normal has learned nothing of them
    boolean first = id == engine && minute >= 0 && minute < 30;
    boolean later = id == other && minute >= 15 && minute < 30;
    return new double[] {
      100 + usual + (first ? 60 : 0),
      10 + usual + (later ? 90 : 0),
      40 + usual,
      id == engine && isNight(at) ? 9 : 0
    };
  }

  /** Three nights of four, for half an hour. */
  private static boolean isNight(Instant at) {
    long minute = Duration.between(NOON, at).toMinutes() + 12 * 60;
    return Math.floorMod(minute, 1440) >= 130
        && Math.floorMod(minute, 1440) < 160
        && Math.floorMod(Math.floorDiv(minute, 1440), 4) != 3;
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static JsonNode moved(String more) throws Exception {
    return server.get(
        "/api/moved?from="
            + NOON.minusSeconds(900).toEpochMilli()
            + "&to="
            + NOON.plusSeconds(2_700).toEpochMilli()
            + more);
  }

  @Test
  void the_farthest_is_told_first_or_who_left_first() throws Exception {
    JsonNode far = moved("");
    assertThat(far.get("looked").asInt()).isEqualTo(8);
    assertThat(far.get("moved").asInt()).isEqualTo(2);
    JsonNode active = far.get("rows").get(0);
    assertThat(active.get("counter").asString()).isEqualTo("sessions.active");
    assertThat(active.get("instanceName").asString()).isEqualTo("freight-db");
    // what matters of active sessions is 2: 90 of that
    assertThat(active.get("distance").asDouble()).isEqualTo(45, within(1.0));
    assertThat(active.get("since").asLong()).isEqualTo(NOON.plusSeconds(900).toEpochMilli());
    assertThat(active.get("minutes").asInt()).isEqualTo(15);
    assertThat(active.get("normalHigh").asDouble()).isEqualTo(12);
    JsonNode first = moved("&order=first").get("rows").get(0);
    assertThat(first.get("counter").asString()).isEqualTo("sessions.total");
    assertThat(first.get("since").asLong()).isEqualTo(NOON.toEpochMilli());
  }

  @Test
  void what_is_good_at_zero_only_never_becomes_calm_by_coming_back() throws Exception {
    Instant night = NOON.minusSeconds(43_200).plusSeconds(145 * 60);
    JsonNode rows =
        server
            .get(
                "/api/moved?from="
                    + night.minusSeconds(1_800).toEpochMilli()
                    + "&to="
                    + night.plusSeconds(1_800).toEpochMilli())
            .get("rows");
    assertThat(rows).hasSize(1);
    JsonNode waiting = rows.get(0);
    assertThat(waiting.get("counter").asString()).isEqualTo("sessions.waiting_lock");
    assertThat(waiting.get("normalHigh").asDouble()).isZero();
    // one that waits matters
    assertThat(waiting.get("distance").asDouble()).isEqualTo(9);
    String path = "/api/series/" + waiting.get("series").asInt() + "/recurs?at=";
    JsonNode recurs = server.get(path + night.toEpochMilli());
    assertThat(recurs.get("looked").asInt()).isEqualTo(14);
    // three of four
    assertThat(recurs.get("days")).hasSize(nights(night));
    assertThat(recurs.get("days").get(0).get("greatest").asDouble()).isEqualTo(9);
    assertThat(recurs.get("usual").isNull()).isTrue();
    JsonNode noon = server.get(path + NOON.toEpochMilli());
    // from ten past two for half an hour, of which the hour begins at two
    assertThat(noon.get("usual").get("from").asLong())
        .isEqualTo(NOON.minusSeconds(10 * 3_600).toEpochMilli());
    assertThat(noon.get("usual").get("looked").asInt()).isEqualTo(14);
    assertThat(noon.get("usual").get("days").asInt()).isEqualTo(nights(night));
    assertThat(noon.get("looked").asInt()).isEqualTo(14);
    assertThat(noon.get("days")).isEmpty();
    // before anything was read
    JsonNode before = server.get(path + NOON.minus(Duration.ofDays(90)).toEpochMilli());
    assertThat(before.get("looked").asInt()).isZero();
    assertThat(server.get("/api/series/999999/recurs?at=0").get("status").asInt()).isEqualTo(404);
  }

  private static int nights(Instant night) {
    return (int)
        IntStream.rangeClosed(1, 14)
            .filter(day -> isNight(night.minus(Duration.ofDays(day))))
            .count();
  }

  @Test
  void of_one_group_or_instance_only_theirs_are_told() throws Exception {
    assertThat(moved("&of=group:freight-db").get("moved").asInt()).isEqualTo(1);
    assertThat(moved("&of=" + engine).get("rows").get(0).get("series").asInt()).isPositive();
    assertThat(moved("&of=group:nobody").get("looked").asInt()).isZero();
  }

  @Test
  void what_cannot_be_asked_is_said() throws Exception {
    assertThat(moved("&order=name").get("field").asString()).isEqualTo("order");
    assertThat(server.get("/api/moved?from=1000").get("field").asString()).isEqualTo("from");
    JsonNode refused = server.get("/api/moved?from=0&to=" + Duration.ofDays(2).toMillis());
    assertThat(refused.get("field").asString()).isEqualTo("from");
    // of now: nobody is watched here
    assertThat(server.get("/api/moved").get("moved").asInt()).isZero();
  }
}
