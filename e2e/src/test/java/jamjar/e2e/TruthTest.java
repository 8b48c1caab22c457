package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.SeriesKey;
import jamjar.core.session.StatementText;
import jamjar.core.statement.StatementKey;
import jamjar.standins.booking.Doing;
import jamjar.standins.history.Calibration;
import jamjar.standins.history.Calibration.Ran;
import jamjar.standins.history.Calibration.Usual;
import jamjar.standins.history.CountedPast;
import jamjar.standins.history.EnginePast;
import jamjar.standins.history.EngineStory;
import jamjar.standins.history.LoggedPast;
import jamjar.standins.history.SampledPast;
import jamjar.standins.servers.Story;
import jamjar.store.Store;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * What happened to Skerry Line's engines is found again: who blocked whom in the night of the fare
 * reload, which statement lost its index, who was in the deadlock.
 */
@SharedSite
class TruthTest {
  private static final Instant END = Instant.now().truncatedTo(ChronoUnit.MINUTES);
  private static final EngineStory STORY = new EngineStory(new Story(END), END);
  private static final Recipe RECIPE = RecipeFile.shipped("postgresql").recipe();
  private static final Instant RELOAD = Story.daysAgo(END, 16, LocalTime.of(2, 10));
  private static final Instant DROPPED = Story.daysAgo(END, 9, LocalTime.of(10, 20));
  private static final Instant DEADLOCK = Story.daysAgo(END, 2, LocalTime.of(21, 0));
  private static Site site;
  private static int writer;
  private static int freight;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    writer = site.addEngine("truth-a", 5);
    freight = site.addEngine("truth-freight", 5);
    try (Store store = site.openStore()) {
      Calibration usual = usual(Doing.LOYALTY.sql(0), Doing.HOLD_BERTH.sql(0));
      EnginePast past = past(EngineStory.WRITER, usual);
      SampledPast sampled = new SampledPast(EngineStory.WRITER, past, STORY, 4711);
      LoggedPast logged = new LoggedPast(EngineStory.WRITER, sampled, STORY, at -> false, 4711);
      store.statements().tell(writer, sampled.texts(), END);
      store.statements().tell(writer, logged.texts(), END);
      for (Instant hour : hours(RELOAD)) {
        Instant to = hour.plus(Duration.ofHours(1));
        store.samples().put(writer, hour, sampled.between(hour, to));
        store.logs().put(writer, hour, logged.between(hour, to));
      }
      // of each of the last fourteen nights the hour of the fare reload
      for (int night = 1; night <= 14; night++) {
        Instant hour = Story.daysAgo(END, night, LocalTime.of(2, 12)).truncatedTo(ChronoUnit.HOURS);
        store.samples().put(writer, hour, sampled.between(hour, hour.plus(Duration.ofHours(1))));
      }
      for (Instant hour : hours(DEADLOCK)) {
        store.logs().put(writer, hour, logged.between(hour, hour.plus(Duration.ofHours(1))));
      }
      Calibration ofFreight = usual(Doing.FILE_MANIFEST.sql(1), Doing.FILE_MANIFEST.sql(0));
      CountedPast counted =
          new CountedPast(
              EngineStory.FREIGHT,
              past(EngineStory.FREIGHT, ofFreight),
              ofFreight,
              STORY,
              at -> false,
              4711);
      for (Instant hour : hours(DROPPED)) {
        store
            .statements()
            .put(freight, hour, counted.between(hour, hour.plus(Duration.ofHours(1))));
      }
      store.statements().tell(freight, texts(Doing.FILE_MANIFEST.statements()), END);
    }
  }

  /** The one before a moment, its own, and the one after it. */
  private static List<Instant> hours(Instant at) {
    Instant hour = at.truncatedTo(ChronoUnit.HOURS);
    return List.of(hour.minus(Duration.ofHours(1)), hour, hour.plus(Duration.ofHours(1)));
  }

  private static Map<Long, String> texts(List<String> all) {
    Map<Long, String> texts = new HashMap<>();
    all.stream().map(StatementText::of).forEach(t -> texts.put(t.fingerprint(), t.text()));
    return texts;
  }

  private static EnginePast past(String engine, Calibration usual) {
    return new EnginePast(engine, RECIPE, usual, STORY, at -> false, 4711);
  }

  private static Calibration usual(String changed, String other) {
    Map<SeriesKey, Usual> series = new HashMap<>();
    level(series, SeriesKey.of("sessions.total"), 21);
    level(series, SeriesKey.of("sessions.active"), 1.4);
    level(series, SeriesKey.of("sessions.active_not_waiting"), 0.9);
    level(series, SeriesKey.of("sessions.waiting"), 0.5);
    level(series, SeriesKey.of("sessions.waiting", "wait", "Client"), 0.4);
    level(series, SeriesKey.of("sessions.waiting", "wait", "Lock"), 0.1);
    level(series, SeriesKey.of("sessions.waiting_lock"), 0.1);
    level(series, SeriesKey.of("sessions.idle"), 19);
    level(series, SeriesKey.of("sessions.idle_in_transaction"), 0.6);
    Map<StatementKey, Ran> ran = new TreeMap<>();
    ran.put(key(changed), new Ran(3, 4_000, 1, 10, 0.1, 0));
    ran.put(key(other), new Ran(5, 2_000, 1, 10, 0.1, 0));
    return new Calibration(END, series, ran);
  }

  private static void level(Map<SeriesKey, Usual> to, SeriesKey key, double mean) {
    to.put(key, new Usual(Pace.FAST, false, mean));
  }

  private static StatementKey key(String sql) {
    return new StatementKey("app", "db", StatementText.of(sql).fingerprint(), true);
  }

  private static String window(Instant from, Duration length) {
    return "from=" + from.toEpochMilli() + "&to=" + from.plus(length).toEpochMilli();
  }

  @Test
  void in_the_night_of_the_fare_reload_one_kept_nine_waiting_three_deep() throws Exception {
    long at = RELOAD.plus(Duration.ofMinutes(24)).toEpochMilli();
    JsonNode locks = site.api().get("/api/instances/" + writer + "/locks?at=" + at);
    assertThat(locks.get("waiting").asInt()).isEqualTo(9);
    assertThat(locks.get("roots")).hasSize(1);
    JsonNode root = locks.get("roots").get(0);
    assertThat(root.get("pid").asInt()).isEqualTo(SampledPast.RELOADS);
    assertThat(root.get("session").get("program").asString()).isEqualTo("fare-reload");
    assertThat(root.get("depth").asInt()).isEqualTo(3);
    assertThat(root.get("waiters").asInt()).isEqualTo(9);

    JsonNode sessions = site.api().get("/api/instances/" + writer + "/sessions?at=" + at);
    // all but the youngest for more than three minutes
    JsonNode longer = sessions.get("waiting").get(3);
    assertThat(longer.get("ms").asLong()).isEqualTo(180_000);
    assertThat(longer.get("count").asInt()).isEqualTo(9);
    JsonNode busy =
        site.api()
            .get(
                "/api/instances/"
                    + writer
                    + "/busy?by=wait&steps=10&"
                    + window(RELOAD.plusSeconds(600), Duration.ofMinutes(10)));
    assertThat(busy.get("parts").get(0).get("name").asString()).isEqualTo("Lock");

    // and when it let go, the log tells how long each had waited
    Instant over = RELOAD.plus(Duration.ofMinutes(42));
    JsonNode executions =
        site.api()
            .get(
                "/api/instances/"
                    + writer
                    + "/executions?"
                    + window(over.minusSeconds(300), Duration.ofMinutes(10)));
    assertThat(executions.get("source").asString()).isEqualTo("log");
    JsonNode longest = executions.get("executions").get(0);
    assertThat(longest.get("leastMs").asLong()).isBetween(2_500_000L, 2_525_000L);
    assertThat(longest.get("waitedFor").asString()).isEqualTo("Lock");
    assertThat(longest.get("text").asString()).contains("from sailing where id = ?");
  }

  @Test
  void the_fare_reload_overran_on_nine_of_the_last_fourteen_nights() throws Exception {
    long tonight =
        Story.daysAgo(END, 1, LocalTime.of(2, 12)).plus(Duration.ofDays(1)).toEpochMilli();
    String print = Long.toHexString(StatementText.of(Doing.RELOAD).fingerprint());
    JsonNode earlier =
        site.api()
            .get(
                "/api/instances/"
                    + writer
                    + "/locks/earlier?user=fare_load&program=fare-reload&statement="
                    + print
                    + "&at="
                    + tonight);
    assertThat(earlier.get("looked").asInt()).isEqualTo(14);
    assertThat(earlier.get("days")).hasSize(9);
    assertThat(earlier.get("days").get(0).get("waiting").asInt()).isBetween(1, 2);
    JsonNode nobody =
        site.api()
            .get(
                "/api/instances/"
                    + writer
                    + "/locks/earlier?user=fare_load&program=backup&at="
                    + tonight);
    assertThat(nobody.get("looked").asInt()).isEqualTo(14);
    assertThat(nobody.get("days")).isEmpty();
  }

  @Test
  void without_its_index_one_statement_takes_forty_five_times_as_long() throws Exception {
    long from = DROPPED.toEpochMilli();
    JsonNode view =
        site.api()
            .get(
                "/api/instances/"
                    + freight
                    + "/statements?vs="
                    + (from - 1_800_000)
                    + "&"
                    + window(DROPPED, Duration.ofMinutes(30)));
    JsonNode worst = view.get("rows").get(0);
    assertThat(worst.get("name").asString()).startsWith("update manifest set state");
    JsonNode change = worst.get("change");
    assertThat(change.get("slower").asDouble()).isGreaterThan(0.9 * change.get("total").asDouble());
    assertThat(change.get("slower").asDouble() + change.get("moreOften").asDouble())
        .isEqualTo(change.get("total").asDouble(), within(1e-12));
    assertThat(worst.get("mean").asDouble() / change.get("meanBefore").asDouble())
        .isBetween(38.0, 52.0);
    JsonNode other = view.get("rows").get(1);
    assertThat(Math.abs(other.get("change").get("total").asDouble()))
        .isLessThan(0.05 * change.get("total").asDouble());
  }

  @Test
  void the_deadlock_was_between_refund_and_pay() throws Exception {
    JsonNode log =
        site.api()
            .get(
                "/api/instances/"
                    + writer
                    + "/log?"
                    + window(DEADLOCK.minusSeconds(600), Duration.ofMinutes(20)));
    assertThat(log.get("read").asBoolean()).isTrue();
    assertThat(log.get("deadlocks")).hasSize(1);
    JsonNode deadlock = log.get("deadlocks").get(0);
    assertThat(deadlock.get("program").asString()).isEqualTo("refund");
    assertThat(deadlock.get("at").asLong()).isCloseTo(DEADLOCK.toEpochMilli(), within(60_000L));
    assertThat(deadlock.get("parties").get(0).get("text").asString()).contains("set fare = ?");
    assertThat(deadlock.get("parties").get(1).get("text").asString()).contains("set paid_at");
  }
}
