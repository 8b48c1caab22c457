package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.reading.SeriesKey;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Four weeks of two engines. On each of the last 14 nights sessions of the first wait for half an
 * hour, as many as there were days before; and on one noon of the last week it has more sessions
 * than ever before.
 */
class TryingApiTest {
  private static final SeriesKey WAITING = SeriesKey.of("sessions.waiting_lock");
  private static final SeriesKey ACTIVE = SeriesKey.of("sessions.active");
  private static final Instant TODAY = Instant.now().truncatedTo(ChronoUnit.DAYS);
  private static final Duration NIGHT = Duration.ofMinutes(130);

  /** The end of the past stands still: it is held against itself. */
  private static final long UNTIL = System.currentTimeMillis();

  private static RunningServer server;
  private static int engine;
  private static int other;
  private static int waiting;
  private static int active;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = server.instance("booking-db-a", "booking-db", "Northquay");
    other = server.instance("booking-db-b", "booking-db", "Southmole");
    for (int id : new int[] {engine, other}) {
      Minutely.bring(
          server, 28, at -> Minutely.at(id, at, List.of(WAITING, ACTIVE), values(id, at)));
    }
    int[] ids = server.store().readings().numbers(engine, List.of(WAITING, ACTIVE), TODAY);
    waiting = ids[0];
    active = ids[1];
    marker("incident", night(14), night(14).plusSeconds(600));
    marker("maintenance", night(1).minusSeconds(600), night(1).plusSeconds(3_600));
  }

  /** Of so many days ago. */
  private static Instant night(int days) {
    return TODAY.minus(days, ChronoUnit.DAYS).plus(NIGHT);
  }

  private static double[] values(int id, Instant at) {
    long ago = Duration.between(at, TODAY).toDays() + (at.isBefore(TODAY) ? 1 : 0);
    long minute = Duration.between(at.truncatedTo(ChronoUnit.DAYS), at).toMinutes();
    boolean waits = id == engine && ago <= 14 && ago >= 1 && minute >= 130 && minute < 160;
    boolean more = id == engine && ago == 3 && minute >= 720 && minute < 750;
    return new double[] {waits ? 15 - ago : 0, 10 + minute % 3 + (more ? 80 : 0)};
  }

  private static void marker(String kind, Instant from, Instant to) throws Exception {
    Map<String, Object> marker =
        Map.of(
            "kind",
            kind,
            "title",
            kind,
            "note",
            "",
            "from",
            from.toEpochMilli(),
            "to",
            to.toEpochMilli(),
            "reach",
            Map.of("level", "instance", "of", "" + engine));
    assertThat(server.send("POST", "/api/markers", marker).status()).isEqualTo(201);
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static JsonNode tried(
      int series, String counter, String condition, String level, String of, Double warning)
      throws Exception {
    return asked("", series, counter, condition, level, of, warning);
  }

  private static Map<String, Object> limit(
      String counter, String condition, String level, String of, Double warning) {
    Map<String, Object> limit = new HashMap<>();
    limit.put("counter", counter);
    limit.put("labels", Map.of());
    limit.put("scope", Map.of("level", level, "of", of));
    limit.put("condition", condition);
    limit.put("warning", warning);
    limit.put("clear", Map.of());
    limit.put("offReason", "");
    return limit;
  }

  private static JsonNode asked(
      String more,
      int series,
      String counter,
      String condition,
      String level,
      String of,
      Double warning)
      throws Exception {
    Map<String, Object> limit = limit(counter, condition, level, of, warning);
    return server
        .send(
            "POST",
            "/api/limits/replay" + more,
            Map.of("limit", limit, "series", series, "weeks", 6, "until", UNTIL))
        .body();
  }

  private static JsonNode waiting(double warning) throws Exception {
    return tried(waiting, WAITING.counter(), "above", "instance", "" + engine, warning);
  }

  private static JsonNode numbers(Double warning) throws Exception {
    return asked(
        "/numbers?wanted=1", waiting, WAITING.counter(), "above", "instance", "" + engine, warning);
  }

  @Test
  void it_tells_what_it_would_have_told_and_what_it_would_have_caught() throws Exception {
    JsonNode told = waiting(1);
    // of 14 nights one was maintenance
    assertThat(told.get("alerts")).hasSize(13);
    double weeks = (told.get("to").asLong() - told.get("from").asLong()) / (7 * 86_400_000.0);
    assertThat(weeks).isBetween(4.0, 4.2);
    assertThat(told.get("perWeek").asDouble()).isEqualTo(13 / weeks, within(1e-9));
    assertThat(told.get("atNight").asInt()).isEqualTo(13);
    assertThat(told.get("without").asInt()).isEqualTo(12);
    JsonNode first = told.get("alerts").get(0);
    assertThat(first.get("since").asLong()).isEqualTo(night(14).toEpochMilli());
    assertThat(first.get("incident").asInt()).isPositive();
    JsonNode caught = told.get("incidents").get(0);
    assertThat(caught.get("after").asLong()).isZero();
    // with a higher number it is calmer, and misses the first night, in which one waited
    JsonNode higher = waiting(9);
    assertThat(higher.get("alerts")).hasSize(5);
    assertThat(higher.get("incidents").get(0).get("after").isNull()).isTrue();
  }

  @Test
  void other_numbers_stand_beside_it_and_the_one_for_a_wanted_noise() throws Exception {
    JsonNode told = numbers(1.0);
    assertThat(told.get("points")).hasSize(50);
    double before = Double.MAX_VALUE;
    for (JsonNode point : told.get("points")) {
      if (point.get("number").asDouble() > 0) {
        assertThat(point.get("perWeek").asDouble()).isLessThanOrEqualTo(before);
        before = point.get("perWeek").asDouble();
      }
    }
    // four alerts in four weeks: those of more than 9 that wait, but for the one in maintenance
    assertThat(told.get("suggestion").asDouble()).isGreaterThan(9).isLessThanOrEqualTo(9.01);
  }

  @Test
  void outside_normal_is_held_against_what_was_known_by_then() throws Exception {
    JsonNode told = tried(active, ACTIVE.counter(), "outside", "instance", "" + engine, 6.0);
    assertThat(told.get("alerts")).hasSize(1);
    JsonNode alert = told.get("alerts").get(0);
    assertThat(alert.get("rose").asLong())
        .isBetween(
            night(3).minus(NIGHT).plusSeconds(43_200).toEpochMilli(),
            night(3).minus(NIGHT).plusSeconds(43_600).toEpochMilli());
    assertThat(alert.get("worst").asDouble()).isEqualTo(92);
  }

  @Test
  void for_a_group_it_is_tried_on_all_of_it() throws Exception {
    JsonNode told = tried(active, ACTIVE.counter(), "above", "group", "booking-db", 12.0);
    assertThat(told.get("series").asInt()).isEqualTo(2);
    assertThat(told.get("alerts").valueStream().map(a -> a.get("instanceName").asString()))
        .contains("booking-db-a", "booking-db-b");
    // where a nearer one wins it would not be in force
    assertThat(
            tried(active, ACTIVE.counter(), "above", "kind", "jvm", 12.0).get("field").asString())
        .isEqualTo("counter");
  }

  @Test
  void where_a_nearer_limit_wins_it_is_not_tried_and_those_of_others_are_no_nearer()
      throws Exception {
    String counter = WAITING.counter();
    for (Map<String, Object> limit :
        List.of(
            limit(counter, "above", "instance", "" + other, 5.0),
            limit(counter, "above", "group", "freight-db", 5.0))) {
      assertThat(server.send("POST", "/api/limits", limit).status()).isEqualTo(201);
    }
    JsonNode told = tried(waiting, counter, "above", "group", "booking-db", 12.0);
    assertThat(told.get("series").asInt()).isEqualTo(1);
    assertThat(told.get("alerts").valueStream().map(a -> a.get("instanceName").asString()))
        .containsOnly("booking-db-a");
  }

  @Test
  void before_a_number_is_typed_it_is_told_how_it_would_be_with_any() throws Exception {
    JsonNode none = tried(waiting, WAITING.counter(), "above", "instance", "" + engine, null);
    assertThat(none.get("alerts")).isEmpty();
    assertThat(numbers(null)).isEqualTo(numbers(5.0));
  }

  @Test
  void what_could_not_be_saved_is_not_tried_either() throws Exception {
    Map<String, Object> limit = limit(WAITING.counter(), "above", "instance", "" + engine, 5.0);
    limit.put("hold", Map.of("m", 5, "n", 3));
    JsonNode told =
        server
            .send(
                "POST", "/api/limits/replay", Map.of("limit", limit, "series", waiting, "weeks", 6))
            .body();
    assertThat(told.get("field").asString()).isEqualTo("hold");
  }

  @Test
  void what_can_t_be_tried_is_said() throws Exception {
    assertThat(tried(waiting, "", "silent", "instance", "" + engine, 3.0).get("field").asString())
        .isEqualTo("condition");
  }
}
