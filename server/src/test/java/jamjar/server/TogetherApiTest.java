package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.reading.SeriesKey;
import jamjar.server.normals.NormalsService;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Three engines of a group, one of which did more than the others on one noon. */
class TogetherApiTest {
  private static final SeriesKey SESSIONS = SeriesKey.of("sessions.total");
  private static final SeriesKey ACTIVE = SeriesKey.of("sessions.active");
  private static final SeriesKey SIZE_A = SeriesKey.of("size.database", "database", "bookings");
  private static final SeriesKey SIZE_B = SeriesKey.of("size.database", "database", "loyalty");
  private static final Instant NOON =
      Instant.now().truncatedTo(ChronoUnit.DAYS).minus(2, ChronoUnit.DAYS).plusSeconds(43_200);
  private static final String COUNTERS =
      "&counters=sessions.total,sessions.active,size.database,nobody.knows";

  private static RunningServer server;
  private static int busy;
  private static int calm;
  private static int far;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    busy = server.instance("booking-db-a", "booking-db", "Northquay");
    calm = server.instance("booking-db-b", "booking-db", "Northquay");
    far = server.instance("booking-db-c", "booking-db", "Southmole");
    server.instance("freight-db", "freight-db", "Southmole");
    NormalsService normals = server.bean(NormalsService.class);
    for (int id : new int[] {busy, calm, far}) {
      Minutely.bring(
          server,
          28,
          at -> Minutely.at(id, at, List.of(SESSIONS, ACTIVE, SIZE_A, SIZE_B), values(id, at)));
      normals.beginSoon(id);
      normals.learnNow(id);
    }
  }

  private static double[] values(int id, Instant at) {
    long minute = Duration.between(NOON, at).toMinutes();
    boolean more = id == busy && minute >= 0 && minute < 30;
    return new double[] {
      (id == far ? 40 : 100) + (more ? 260 : 0),
      id == far ? Double.NaN : 10,
      id == calm && minute >= 0 && minute < 30 ? 6e9 : 5e9,
      7e9
    };
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static JsonNode table(String more) throws Exception {
    return server.get(
        "/api/together?of=group:booking-db&at=" + NOON.plusSeconds(600).toEpochMilli() + more);
  }

  @Test
  void a_counter_stands_beside_itself_on_each_with_what_is_normal_there() throws Exception {
    JsonNode told = table(COUNTERS);
    assertThat(told.get("columns").valueStream().map(c -> c.get("counter").asString()))
        .containsExactly("sessions.total", "sessions.active", "size.database");
    assertThat(told.get("rows").valueStream().map(row -> row.get("name").asString()))
        .containsExactly("booking-db-a", "booking-db-b", "booking-db-c");
    JsonNode first = told.get("rows").get(0).get("cells");
    assertThat(first.get(0).get("value").asDouble()).isEqualTo(360);
    assertThat(first.get(0).get("normalHigh").asDouble()).isEqualTo(100);
    // of the databases the worst, by its name
    assertThat(first.get(2).get("value").asDouble()).isEqualTo(7e9);
    assertThat(first.get(2).get("labels").get("database").asString()).isEqualTo("loyalty");
    // but what has left its normal stands before what is greater
    JsonNode grown = told.get("rows").get(1).get("cells").get(2);
    assertThat(grown.get("labels").get("database").asString()).isEqualTo("bookings");
    assertThat(grown.get("value").asDouble()).isEqualTo(6e9);
    JsonNode none = told.get("rows").get(2).get("cells").get(1);
    assertThat(none.get("value").isNull()).isTrue();
    assertThat(none.get("why").asString()).isEqualTo("nothing then");
  }

  @Test
  void they_are_summed_up_by_site_and_all_and_who_does_more_shows_against_the_middle()
      throws Exception {
    JsonNode sums = table(COUNTERS).get("sums");
    assertThat(sums.valueStream().map(sum -> sum.get("site").asString()))
        .containsExactly("", "Northquay", "Southmole");
    JsonNode all = sums.get(0).get("figures").get(0);
    assertThat(all.get("sum").asDouble()).isEqualTo(500);
    assertThat(all.get("mean").asDouble()).isEqualTo(500 / 3.0, within(1e-9));
    assertThat(all.get("least").asDouble()).isEqualTo(40);
    assertThat(all.get("greatest").asDouble()).isEqualTo(360);
    assertThat(all.get("overMedian").asDouble()).isEqualTo(3.6, within(1e-9));
    assertThat(sums.get(1).get("figures").get(0).get("sum").asDouble()).isEqualTo(460);
    JsonNode active = sums.get(2).get("figures").get(1);
    assertThat(active.get("n").asInt()).isZero();
    assertThat(active.get("mean").isNull()).isTrue();
  }

  @Test
  void without_a_choice_it_is_what_is_looked_at_first_and_now_says_why_there_is_nothing()
      throws Exception {
    JsonNode now = server.get("/api/together?of=site:Southmole");
    assertThat(now.get("rows")).hasSize(2);
    assertThat(now.get("sums")).hasSize(1);
    assertThat(now.get("columns").get(0).get("counter").asString())
        .isEqualTo("sessions.waiting_lock");
    assertThat(now.get("columns")).hasSize(8);
    assertThat(now.get("choices").size()).isGreaterThan(50);
    now.get("rows")
        .get(0)
        .get("cells")
        .forEach(cell -> assertThat(cell.get("why").asString()).isNotEmpty());
  }

  @Test
  void a_strip_tells_of_each_how_far_it_was_from_its_normal() throws Exception {
    JsonNode strip =
        server.get(
            "/api/together/strip?of=group:booking-db&counter=sessions.total&steps=60&from="
                + NOON.minusSeconds(1_800).toEpochMilli()
                + "&to="
                + NOON.plusSeconds(5_400).toEpochMilli());
    assertThat(strip.get("width").asLong()).isEqualTo(120_000);
    JsonNode first = strip.get("rows").get(0);
    assertThat(first.get("distance")).hasSize(60);
    // half an hour before it: as always; a spread is 2 % of the middle or what matters, 5
    assertThat(first.get("distance").get(10).asDouble()).isZero();
    assertThat(first.get("distance").get(20).asDouble()).isEqualTo(260 / 5.0);
    assertThat(first.get("mean").get(20).asDouble()).isEqualTo(360);
    assertThat(first.get("distance").get(31).asDouble()).isZero();
    assertThat(strip.get("rows").get(1).get("distance").get(20).asDouble()).isZero();
    assertThat(
            server
                .get("/api/together/strip?of=site:Southmole&counter=none&from=0&to=60000")
                .get("detail")
                .asString())
        .isEqualTo("None of them has none.");
  }
}
