package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Baseline;
import jamjar.core.baseline.BaselineHistory;
import jamjar.core.baseline.Basis;
import jamjar.core.baseline.Normal;
import jamjar.core.baseline.Timeline;
import jamjar.core.reading.SeriesKey;
import jamjar.server.normals.NormalsService;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.normals.Learned;
import jamjar.store.readings.KeptReading;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Four weeks in which each hour of the day has its own value. */
class NormalsApiTest {
  private static final SeriesKey SESSIONS = SeriesKey.of("sessions.total");
  private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
  private static final Duration DAY = Duration.ofDays(1);
  private static final Duration SOON = Duration.ofSeconds(60);

  private static RunningServer server;
  private static Store store;
  private static NormalsService normals;
  private static int instance;
  private static int series;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    store = server.store();
    normals = server.bean(NormalsService.class);
    instance = server.instance("booking-db-a", "", "");
    Minutely.bring(server, 28, NormalsApiTest::kept);
    normals.beginSoon(instance);
    series = store.readings().numbers(instance, List.of(SESSIONS), Instant.now())[0];
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void each_hour_has_its_own_normal_in_its_zone_and_a_restart_learns_nothing_anew()
      throws Exception {
    assertThat(server.send("POST", "/api/instances/" + instance + "/learn", null).status())
        .isEqualTo(204);
    JsonNode slots = server.get("/api/baselines?series=" + series);
    assertThat(slots).hasSize(Timeline.SLOTS);
    for (int slot : new int[] {0, 41, 95, 96 * 6 + 50}) {
      // the slots beside are of the same hour but at its ends
      assertThat(slots.get(slot).get("p50").asDouble()).isEqualTo(100 + slot % 96 / 4);
      assertThat(slots.get(slot).get("basis").asString()).isEqualTo(Basis.SLOT.words());
    }

    long noon = Instant.now().truncatedTo(ChronoUnit.DAYS).minus(DAY).toEpochMilli() + 43_200_000;
    int hour = Instant.ofEpochMilli(noon).atZone(OSLO).getHour();
    JsonNode points =
        server
            .send(
                "POST",
                "/api/points",
                Map.of(
                    "series",
                    List.of(series),
                    "from",
                    noon,
                    "to",
                    noon + 1_800_000,
                    "maxPoints",
                    10,
                    "normal",
                    true))
            .body()
            .get(0);
    points.get("normal").forEach(n -> assertThat(n.asDouble()).isEqualTo(100 + hour));
    JsonNode moment =
        server
            .send("POST", "/api/moment", Map.of("series", List.of(series), "at", noon + 60_000))
            .body()
            .get(0);
    assertThat(moment.get("normalLow")).isEqualTo(points.get("normalLow").get(0));
    assertThat(moment.get("normalHigh")).isEqualTo(points.get("normalHigh").get(0));

    // what was learned last night holds at the next start: here it is told from what is learned now
    Normal known = new Normal(1, 2, 3, 4, 5, 60, Basis.SLOT);
    Normal[] same = new Normal[Timeline.SLOTS];
    Arrays.fill(same, known);
    keep(Instant.now().truncatedTo(ChronoUnit.MILLIS), "Europe/Oslo", Baseline.of(same));
    assertThat(begun()).isEqualTo(known);
    // in another zone it is another week; and what is days old is learned anew
    keep(Instant.now().truncatedTo(ChronoUnit.MILLIS), "UTC", Baseline.of(same));
    assertThat(begun().p50()).isGreaterThanOrEqualTo(100);
    keep(Instant.now().minus(DAY.multipliedBy(4)), "Europe/Oslo", Baseline.of(same));
    assertThat(begun().p50()).isGreaterThanOrEqualTo(100);
    // nor does what was learned by a clock that was set back since
    keep(Instant.now().plus(DAY), "Europe/Oslo", Baseline.of(same));
    assertThat(begun().p50()).isGreaterThanOrEqualTo(100);
    assertThat(store.normals().learned(instance).orElseThrow().at())
        .isAfter(Instant.now().minus(DAY));
  }

  @Test
  void a_night_learns_the_day_that_is_over_and_all_of_it_once_a_marker_was_set() throws Exception {
    Normal known = new Normal(1, 2, 3, 4, 5, 60, Basis.SLOT);
    Normal[] same = new Normal[Timeline.SLOTS];
    Arrays.fill(same, known);
    Instant before = Instant.now().minus(DAY.multipliedBy(2)).truncatedTo(ChronoUnit.MILLIS);
    keep(before, "Europe/Oslo", Baseline.of(same));
    begun();
    Baseline learned = store.normals().of(series).orElseThrow();
    Set<Integer> over =
        before.atZone(OSLO).toLocalDate().datesUntil(LocalDate.now(OSLO)).toList().stream()
            .map(date -> date.getDayOfWeek().getValue() - 1)
            .collect(Collectors.toSet());
    assertThat(over).hasSize(2);
    for (int weekday = 0; weekday < 7; weekday++) {
      Normal noon = learned.at(weekday * 96 + 50);
      if (over.contains(weekday)) {
        assertThat(noon.p50()).isEqualTo(112);
      } else {
        assertThat(noon).isEqualTo(known);
      }
    }
    assertThat(store.normals().learned(instance).orElseThrow().at()).isAfter(before);

    keep(before, "Europe/Oslo", Baseline.of(same));
    Map<String, Object> marker =
        Map.of(
            "kind",
            "incident",
            "title",
            "long ago",
            "note",
            "",
            "from",
            before.minus(DAY.multipliedBy(9)).toEpochMilli(),
            "to",
            before.minus(DAY.multipliedBy(9)).toEpochMilli() + 60_000,
            "reach",
            Map.of("level", "instance", "of", "" + instance));
    assertThat(server.send("POST", "/api/markers", marker).status()).isEqualTo(201);
    begun();
    assertThat(store.normals().of(series).orElseThrow().at(50).p50()).isEqualTo(112);
    assertThat(store.normals().of(series).orElseThrow().at(6 * 96 + 50).p50()).isEqualTo(112);
  }

  @Test
  void the_week_says_from_what_it_was_learned_and_one_that_is_frozen_how_far_it_has_moved()
      throws Exception {
    int other = server.instance("freight-db", "", "");
    Instant today = Instant.now().truncatedTo(ChronoUnit.DAYS);
    Instant works = today.minus(10, ChronoUnit.DAYS).plus(12, ChronoUnit.HOURS);
    // twice as much in the last week
    Minutely.bring(
        server,
        28,
        at ->
            Minutely.at(
                other,
                at,
                List.of(SESSIONS),
                (at.isBefore(today.minus(7, ChronoUnit.DAYS)) ? 1 : 2)
                    * (100 + at.atZone(OSLO).getHour())));
    normals.beginSoon(other);
    int theirs = store.readings().numbers(other, List.of(SESSIONS), Instant.now())[0];
    Map<String, Object> marker =
        Map.of(
            "kind",
            "maintenance",
            "title",
            "new cables",
            "note",
            "",
            "from",
            works.toEpochMilli(),
            "to",
            works.plusSeconds(7_200).toEpochMilli(),
            "reach",
            Map.of("level", "instance", "of", "" + other));
    assertThat(server.send("POST", "/api/markers", marker).status()).isEqualTo(201);
    assertThat(server.send("POST", "/api/instances/" + other + "/learn", null).status())
        .isEqualTo(204);

    String path = "/api/baselines/" + theirs + "/week?at=";
    JsonNode week = server.get(path + works.minus(7, ChronoUnit.DAYS).toEpochMilli());
    assertThat(week.get("mean")).hasSize(672);
    assertThat(week.get("mean").get(40).asDouble()).isEqualTo(110);
    // the last week stands alone: it teaches nothing
    assertThat(week.get("high").get(40).asDouble()).isEqualTo(110);
    assertThat(week.get("outside").asInt()).isZero();
    assertThat(week.get("weeks").toString())
        .contains("maintenance: new cables")
        .contains("far from the other weeks");
    JsonNode late = server.get(path + (System.currentTimeMillis() - DAY.toMillis()));
    assertThat(late.get("outside").asInt()).isPositive();

    Map<String, Object> name =
        Map.of(
            "name", "before the winter",
            "from", today.minus(28, ChronoUnit.DAYS).toEpochMilli(),
            "to", today.minus(7, ChronoUnit.DAYS).toEpochMilli());
    String frozen = "/api/instances/" + other + "/frozen";
    assertThat(server.send("POST", frozen, name).status()).isEqualTo(204);
    assertThat(server.send("POST", frozen, name).body().get("field").asString()).isEqualTo("name");
    // from here on the last week is normal
    Map<String, Object> from =
        Map.of(
            "kind", "new normal",
            "title", "winter timetable",
            "note", "",
            "from", today.minus(7, ChronoUnit.DAYS).toEpochMilli(),
            "reach", Map.of("level", "instance", "of", "" + other));
    assertThat(server.send("POST", "/api/markers", from).status()).isEqualTo(201);
    normals.learnNow(other);
    JsonNode moved = server.get(path + System.currentTimeMillis());
    assertThat(moved.get("middle").get(40).asDouble()).isBetween(200.0, 240.0);
    assertThat(moved.get("bases").get(0).get("basis").asString()).isNotEqualTo(Basis.SLOT.words());
    JsonNode kept = moved.get("frozen").get(0);
    assertThat(kept.get("name").asString()).isEqualTo("before the winter");
    assertThat(kept.get("drift").asDouble()).isGreaterThan(5);
    assertThat(server.send("DELETE", frozen + "/" + kept.get("id").asInt(), null).status())
        .isEqualTo(204);
    assertThat(server.get(path + System.currentTimeMillis()).get("frozen")).isEmpty();
  }

  @Test
  void what_was_in_force_stays_with_the_past_and_limits_go_over_with_the_minute() throws Exception {
    int other = server.instance("freight-db-2", "", "");
    Instant week = Instant.now().minus(7, ChronoUnit.DAYS);
    Minutely.bring(
        server, 28, at -> Minutely.at(other, at, List.of(SESSIONS), at.isBefore(week) ? 100 : 200));
    int theirs = store.readings().numbers(other, List.of(SESSIONS), Instant.now())[0];
    normals.judgedBy(id -> id == other ? Set.of(theirs) : Set.of());
    normals.beginSoon(other);
    normals.learnNow(other);
    long first = history(theirs).since(0, 0);
    // known at once, in force for limits from the next minute on
    assertThat(first).isBetween(System.currentTimeMillis(), System.currentTimeMillis() + 70_000);
    assertThat(normals.now(other, theirs, first - 1).p50()).isEqualTo(100);
    assertThat(normals.inForce(other, theirs, first - 1).known()).isFalse();
    assertThat(normals.inForce(other, theirs, first).p50()).isEqualTo(100);
    // what is learned once more is no other
    normals.learnNow(other);
    assertThat(history(theirs).days()).isEqualTo(7);

    Map<String, Object> from =
        Map.of(
            "kind", "new normal",
            "title", "twice as many berths",
            "note", "",
            "from", week.toEpochMilli(),
            "reach", Map.of("level", "instance", "of", "" + other));
    assertThat(server.send("POST", "/api/markers", from).status()).isEqualTo(201);
    // as if it had been in force for days
    TemporaryCluster.shared()
        .run(
            server.database(),
            "update baseline set since = now() - interval '3 days' where series = " + theirs);
    normals.forget(other);
    normals.beginSoon(other);
    normals.learnNow(other);
    BaselineHistory history = history(theirs);
    assertThat(history.days()).isEqualTo(14);
    long then = history.since(Long.MAX_VALUE, 0);
    for (int slot = 0; slot < Timeline.SLOTS; slot += 96) {
      assertThat(history.at(then - 1, slot).p50()).isEqualTo(100);
      assertThat(history.at(then, slot).p50()).isEqualTo(200);
    }
    assertThat(normals.inForce(other, theirs, then - 1).p50()).isEqualTo(100);
    assertThat(normals.inForce(other, theirs, then).p50()).isEqualTo(200);

    // the past by what was in force then; and before that by the oldest, which is told
    JsonNode yesterday = points(theirs, 2);
    assertThat(yesterday.get("normal").get(0).asDouble()).isEqualTo(100);
    assertThat(yesterday.get("normalSince").isNull()).isTrue();
    JsonNode longAgo = points(theirs, 5);
    assertThat(longAgo.get("normal").get(0).asDouble()).isEqualTo(100);
    assertThat(longAgo.get("normalSince").asLong())
        .isLessThan(System.currentTimeMillis() - DAY.multipliedBy(2).toMillis());
  }

  private static BaselineHistory history(int series) {
    return store.normals().history(series, Instant.EPOCH).orElseThrow();
  }

  /** An hour, so many days ago. */
  private static JsonNode points(int series, int days) throws Exception {
    long from = System.currentTimeMillis() - DAY.multipliedBy(days).toMillis();
    Map<String, Object> asked =
        Map.of(
            "series",
            List.of(series),
            "from",
            from,
            "to",
            from + 3_600_000,
            "maxPoints",
            60,
            "normal",
            true);
    return server.send("POST", "/api/points", asked).body().get(0);
  }

  @Test
  void what_is_not_watched_any_more_is_not_taken_up_when_it_is_learned() throws Exception {
    int other = server.instance("booking-db-b", "", "");
    Minutely.bring(server, 2, at -> Minutely.at(other, at, List.of(SESSIONS), 7));
    int theirs = store.readings().numbers(other, List.of(SESSIONS), Instant.now())[0];
    normals.learnSoon(other);
    normals.forget(other);
    // one after the other: the one before is done
    normals.learnNow(other);
    assertThat(normals.now(other, theirs, System.currentTimeMillis()).known()).isFalse();
    normals.beginSoon(other);
    normals.learnNow(other);
    assertThat(normals.now(other, theirs, System.currentTimeMillis()).p50()).isEqualTo(7);
  }

  private static void keep(Instant at, String zone, Baseline baseline) {
    store
        .normals()
        .keep(new Learned(instance, at, zone, 28 * 1440), to -> to.accept(baseline, series));
  }

  /** What is normal now once it has come under watch. */
  private static Normal begun() throws InterruptedException {
    normals.forget(instance);
    assertThat(normals.now(instance, series, System.currentTimeMillis()).known()).isFalse();
    normals.beginSoon(instance);
    long end = System.nanoTime() + SOON.toNanos();
    Normal now = Normal.NONE;
    while (!now.known() && System.nanoTime() < end) {
      Thread.onSpinWait();
      now = normals.now(instance, series, System.currentTimeMillis());
    }
    return now;
  }

  private static KeptReading kept(Instant at) {
    return Minutely.at(instance, at, List.of(SESSIONS), 100 + at.atZone(OSLO).getHour());
  }
}
