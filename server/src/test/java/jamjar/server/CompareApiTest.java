package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.reading.SeriesKey;
import jamjar.core.session.StatementText;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.server.compare.Outcomes;
import jamjar.store.intake.Intake;
import jamjar.store.markers.MarkerRow;
import jamjar.store.markers.OutcomeRow;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Six weeks of an engine that was changed at one noon, and put back two days later. */
class CompareApiTest {
  private static final SeriesKey ACTIVE = SeriesKey.of("sessions.active");
  private static final SeriesKey SESSIONS = SeriesKey.of("sessions.total");
  private static final Instant TODAY = Instant.now().truncatedTo(ChronoUnit.DAYS);
  private static final Instant CHANGED = TODAY.minus(5, ChronoUnit.DAYS).plusSeconds(43_200);
  private static final Instant BACK = CHANGED.plus(2, ChronoUnit.DAYS);
  private static final StatementText OLD = StatementText.of("select a from b");
  private static final StatementText FRESH = StatementText.of("select a from c");

  private static RunningServer server;
  private static int engine;
  private static int other;
  private static int alone;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    engine = server.instance("booking-db-a", "booking-db", "Northquay");
    other = server.instance("booking-db-b", "booking-db", "Southmole");
    for (int id : new int[] {engine, other}) {
      Minutely.bring(
          server, 40, at -> Minutely.at(id, at, List.of(ACTIVE, SESSIONS), values(id, at)));
    }
    alone = server.instance("freight-db", "freight-db", "Southmole");
    int idle = server.instance("booking-db-c", "booking-db", "Northquay");
    int far = server.instance("booking-db-d", "booking-db", "Southmole");
    Minutely.bring(server, 7, at -> Minutely.at(idle, at, List.of(ACTIVE), new double[] {0}));
    Minutely.bring(server, 7, at -> Minutely.at(far, at, List.of(ACTIVE), new double[] {500}));
    Intake intake = server.bean(Intake.class);
    fact(intake, CHANGED.minus(20, ChronoUnit.DAYS), List.of(), "4");
    fact(intake, CHANGED, List.of("settings/random_page_cost"), "1.1");
    intake.awaitBrought(Duration.ofSeconds(60));
    for (int hour = -24; hour < 24; hour++) {
      Instant begin = CHANGED.plus(hour, ChronoUnit.HOURS);
      List<Counted> minutes = new ArrayList<>();
      for (int m = 0; m < 60; m++) {
        minutes.add(minute(begin.plusSeconds(60L * m + 30), hour < 0 ? OLD : FRESH));
      }
      server.store().statements().put(engine, begin, minutes);
    }
    server
        .store()
        .statements()
        .tell(
            engine, Map.of(OLD.fingerprint(), OLD.text(), FRESH.fingerprint(), FRESH.text()), BACK);
  }

  private static void fact(Intake intake, Instant at, List<String> ended, String value) {
    intake.facts(engine, at, ended, Map.of("settings/random_page_cost", value), Optional.empty());
  }

  private static Counted minute(Instant at, StatementText text) {
    StatementKey key = new StatementKey("web", "bookings", text.fingerprint(), true);
    return new Counted(
        at, 60_000, 0, new TreeMap<>(Map.of(key, new StatementCounts(60, 60_000, 60, 0, 0, 0))));
  }

  private static double[] values(int id, Instant at) {
    boolean bad = id == engine && !at.isBefore(CHANGED) && at.isBefore(BACK);
    double wave = 10 * Math.sin(at.getEpochSecond() / 86_400.0 * 2 * Math.PI);
    return new double[] {20 + wave + (bad ? 30 : 0), 200 + wave + at.getEpochSecond() / 60 % 3};
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static JsonNode since(Instant at, String title, String span) throws Exception {
    return compare("&vs=marker:" + marker(at, title) + "&span=" + span);
  }

  private static int marker(Instant at, String title) throws Exception {
    Map<String, Object> marker = body(at, title);
    return server.send("POST", "/api/markers", marker).body().get("id").asInt();
  }

  private static Map<String, Object> body(Instant at, String title) {
    return Map.of(
        "kind",
        "change",
        "title",
        title,
        "note",
        "",
        "from",
        at.toEpochMilli(),
        "reach",
        Map.of("level", "instance", "of", "" + engine));
  }

  /** What is told at a marker, by how long after it. */
  private static Map<String, JsonNode> outcomes(int marker) throws Exception {
    Map<String, JsonNode> found = new TreeMap<>();
    server
        .get("/api/markers/" + marker + "/outcomes")
        .forEach(one -> found.put(one.get("span").asString(), one));
    return found;
  }

  @Test
  void a_marker_tells_by_itself_what_it_changed_as_soon_as_it_can_be_said() throws Exception {
    int gone = marker(CHANGED, "the index goes");
    int back = marker(BACK, "the index comes back");
    int fresh = marker(Instant.now().minusSeconds(30), "just now");
    Outcomes outcomes = server.bean(Outcomes.class);
    // while history may still come in nothing is told
    outcomes.tell();
    outcomes.tell();
    Map<String, JsonNode> worse = outcomes(gone);
    // a week has not passed yet
    assertThat(worse).containsOnlyKeys("minutes", "hour", "day");
    assertThat(worse.values()).allMatch(one -> one.get("worse").asInt() == 1);
    assertThat(worse.get("day").get("better").asInt()).isZero();
    assertThat(worse.get("day").get("same").asInt()).isEqualTo(1);
    assertThat(worse.get("day").get("instanceName").asString()).isEqualTo("booking-db-a");
    JsonNode most = worse.get("day").get("most").get(0);
    assertThat(most.get("title").asString()).isEqualTo("Active sessions");
    assertThat(most.get("way").asString()).isEqualTo("worse");
    assertThat(most.get("after").asDouble() - most.get("before").asDouble())
        .isEqualTo(30, within(0.5));
    assertThat(outcomes(back).get("day").get("better").asInt()).isEqualTo(1);
    assertThat(outcomes(fresh)).isEmpty();
    // the list of all has but the sum of the longest
    JsonNode listed =
        server
            .get("/api/markers?from=" + CHANGED.toEpochMilli() + "&to=" + BACK.toEpochMilli())
            .valueStream()
            .filter(one -> one.get("id").asInt() == gone)
            .findFirst()
            .orElseThrow();
    assertThat(listed.get("outcome").get("span").asString()).isEqualTo("day");
    assertThat(listed.get("outcome").get("worse").asInt()).isEqualTo(1);

    // what was looked at for a marker that is another one by now is not kept
    MarkerRow before = server.store().markers().byId(gone).orElseThrow();
    OutcomeRow told = server.store().markers().outcomes(gone).get(0);
    assertThat(server.store().markers().keepOutcome(before, told)).isEqualTo(1);
    // about another time it is told anew
    server.send("PUT", "/api/markers/" + gone, body(BACK, "the index comes back after all"));
    assertThat(outcomes(gone)).isEmpty();
    assertThat(server.store().markers().keepOutcome(before, told)).isZero();
    outcomes.tell();
    assertThat(outcomes(gone).get("hour").get("better").asInt()).isEqualTo(1);
  }

  private static JsonNode compare(String more) throws Exception {
    return compare(engine, more);
  }

  private static JsonNode compare(int id, String more) throws Exception {
    return server.get(
        "/api/instances/"
            + id
            + "/compare?from="
            + CHANGED.toEpochMilli()
            + "&to="
            + CHANGED.plus(1, ChronoUnit.DAYS).toEpochMilli()
            + more);
  }

  @Test
  void what_a_change_made_worse_is_told_at_its_marker_and_what_made_it_better_too()
      throws Exception {
    JsonNode worse = since(CHANGED, "index gone", "day");
    assertThat(worse.get("against").asString()).isEqualTo("the day before “index gone”");
    assertThat(worse.get("rows")).hasSize(1);
    JsonNode active = worse.get("rows").get(0);
    assertThat(active.get("counter").asString()).isEqualTo("sessions.active");
    assertThat(active.get("verdict").asString()).isEqualTo("far_beyond");
    assertThat(active.get("shift").asDouble()).isEqualTo(30, within(0.5));
    assertThat(active.get("worse").asString()).isEqualTo("up");
    assertThat(active.get("usual").asDouble()).isLessThan(1);
    assertThat(worse.get("same").asInt()).isEqualTo(1);

    JsonNode better = since(BACK, "index back", "day");
    assertThat(better.get("rows").get(0).get("shift").asDouble()).isEqualTo(-30, within(0.5));
    // within an hour it is seen, too
    assertThat(since(BACK, "index back again", "hour").get("rows")).hasSize(1);
  }

  @Test
  void settings_and_statements_that_changed_stand_first() throws Exception {
    JsonNode day = compare("&vs=day");
    assertThat(day.get("settings").get(0).get("name").asString()).isEqualTo("random_page_cost");
    assertThat(day.get("settings").get(0).get("before").asString()).isEqualTo("4");
    assertThat(day.get("settings").get(0).get("after").asString()).isEqualTo("1.1");
    assertThat(day.get("statements").valueStream().map(s -> s.get("kind").asString()))
        .containsExactlyInAnyOrder("new", "gone");
    assertThat(day.get("statements").toString()).contains("select a from c");
  }

  @Test
  void another_instance_or_a_week_before_are_compared_with_as_well() throws Exception {
    JsonNode beside = compare("&vs=instance:" + other);
    assertThat(beside.get("against").asString()).isEqualTo("booking-db-b");
    assertThat(beside.get("rows").get(0).get("shift").asDouble()).isEqualTo(30, within(0.5));
    assertThat(beside.get("rows").get(0).get("beside").asInt())
        .isNotEqualTo(beside.get("rows").get(0).get("series").asInt())
        .isEqualTo(server.store().readings().numbers(other, List.of(ACTIVE), Instant.now())[0]);
    JsonNode week = compare("&vs=week");
    assertThat(week.get("rows").get(0).get("beside"))
        .isEqualTo(week.get("rows").get(0).get("series"));
    assertThat(week.get("rows").get(0).get("before").asDouble()).isEqualTo(20, within(1.0));
  }

  @Test
  void one_is_held_against_the_middle_of_the_others_in_its_group() throws Exception {
    // of three others one is idle and one is far off: the middle is as it should be
    JsonNode group = compare("&vs=group");
    assertThat(group.get("against").asString()).isEqualTo("the middle of the others in booking-db");
    JsonNode first = group.get("rows").get(0);
    assertThat(first.get("counter").asString()).isEqualTo("sessions.active");
    assertThat(first.get("beside").isNull()).isTrue();
    assertThat(first.get("before").asDouble()).isEqualTo(20, within(1.0));
    assertThat(first.get("shift").asDouble()).isEqualTo(30, within(0.5));
    JsonNode only = compare(alone, "&vs=group");
    assertThat(only.get("detail").asString())
        .isEqualTo("freight-db is the only one of its kind in its group.");
  }

  @Test
  void what_cannot_be_compared_is_said() throws Exception {
    assertThat(compare("&vs=ever").get("field").asString()).isEqualTo("vs");
    assertThat(compare("&vs=marker:x").get("field").asString()).isEqualTo("vs");
    assertThat(compare("&vs=marker:9999").get("title").asString()).isNotEmpty();
    JsonNode brief =
        server.get(
            "/api/instances/"
                + engine
                + "/compare?from="
                + CHANGED.toEpochMilli()
                + "&to="
                + CHANGED.plusSeconds(60).toEpochMilli());
    assertThat(brief.get("field").asString()).isEqualTo("from");
  }
}
