package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.counter.Recipe;
import jamjar.core.reading.Increases;
import jamjar.core.reading.SeriesKey;
import jamjar.core.reading.Shown;
import jamjar.core.session.Fingerprint;
import jamjar.core.session.StatementText;
import jamjar.core.statement.Counted;
import jamjar.core.statement.FollowedReading;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.intake.Intake;
import jamjar.store.readings.KeptReading;
import jamjar.store.statements.FollowedRow;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Statements that are followed as series, with what was counted of them before. */
class FollowedApiTest {
  private static final Recipe RECIPE = RecipeFile.shipped("postgresql").recipe();
  private static final StatementText PAY = StatementText.of("update fare set price = 7");
  private static final StatementText SEEK = StatementText.of("select * from manifest where id = 1");
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final int DAYS = 9;

  private static final Instant TODAY = Instant.now().truncatedTo(ChronoUnit.DAYS);
  private static RunningServer server;
  private static int id;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    id = server.instance("followed", "booking", "Northquay");
    for (int back = DAYS; back > 0; back--) {
      Instant day = TODAY.minus(back, ChronoUnit.DAYS);
      for (int hour = 0; hour < 24; hour++) {
        Instant begin = day.plus(hour, ChronoUnit.HOURS);
        List<Counted> minutes = new ArrayList<>();
        for (int m = 0; m < 60; m++) {
          minutes.add(minute(begin.plusSeconds(60L * m + 7)));
        }
        server.store().statements().put(id, begin, minutes);
      }
    }
    server
        .store()
        .statements()
        .tell(id, Map.of(PAY.fingerprint(), PAY.text(), SEEK.fingerprint(), SEEK.text()), TODAY);
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  /** One as often as the hour of the day tells, by two users; another only in the first hour. */
  private static Counted minute(Instant at) {
    TreeMap<StatementKey, StatementCounts> all = new TreeMap<>();
    long calls = 60 + hour(at);
    all.put(key(PAY, "web"), new StatementCounts(calls, calls * 2_000, calls, 0, 0, 0));
    all.put(key(PAY, "batch"), new StatementCounts(60, 60 * 2_000, 60, 0, 0, 0));
    if (hour(at) == 0) {
      all.put(key(SEEK, "web"), new StatementCounts(12, 12_000, 0, 0, 0, 0));
    }
    all.put(StatementKey.others(true), new StatementCounts(5, 30_000_000, 5, 0, 0, 0));
    return new Counted(at, 60_000, 0, all);
  }

  private static int hour(Instant at) {
    return (int) (at.getEpochSecond() / 3600 % 24);
  }

  private static StatementKey key(StatementText text, String user) {
    return new StatementKey(user, "bookings", text.fingerprint(), true);
  }

  private static FollowedRow follow(Predicate<FollowedRow> until) throws Exception {
    assertThat(server.send("POST", "/api/instances/" + id + "/statements/follow", null).status())
        .isEqualTo(202);
    long end = System.nanoTime() + SOON.toNanos();
    FollowedRow row = new FollowedRow(id, new long[0], Instant.EPOCH, false);
    while (!until.test(row)) {
      assertThat(System.nanoTime()).isLessThan(end);
      Thread.onSpinWait();
      row = server.store().statements().followed(id).orElse(row);
    }
    return row;
  }

  @Test
  void those_that_took_the_most_have_series_with_all_that_was_counted_of_them() throws Exception {
    FollowedRow chosen = follow(row -> row.fingerprints().length > 0);
    assertThat(chosen.fingerprints())
        .containsExactlyInAnyOrder(PAY.fingerprint(), SEEK.fingerprint());
    assertThat(chosen.filled()).as("nothing of them is read yet").isFalse();

    TreeSet<Long> followed = new TreeSet<>();
    for (long one : chosen.fingerprints()) {
      followed.add(one);
    }
    Instant now = Instant.now();
    Increases.Step step = FollowedReading.of(minute(now), followed, RECIPE);
    Intake intake = server.bean(Intake.class);
    intake.reading(new KeptReading(id, Pace.MINUTE.code(), 60, 1, now, step, Judged.NOTHING));
    List<SeriesKey> shown =
        Shown.of(step.reading(), RECIPE, 60_000).stream().map(Shown::series).toList();
    server.store().readings().numbers(id, shown, now);
    intake.awaitBrought(SOON);
    follow(FollowedRow::filled);

    JsonNode series = server.get("/api/instances/" + id + "/series");
    JsonNode calls = of(series, "statement.calls", PAY);
    assertThat(calls.get("about").asString()).isEqualTo(PAY.text());
    assertThat(calls.get("interval").asInt()).isEqualTo(60);
    Instant noon = TODAY.minus(2, ChronoUnit.DAYS).plus(12, ChronoUnit.HOURS);
    // 72 and 60 calls a minute
    JsonNode then = moment(noon.plusSeconds(600), calls, of(series, "statement.mean_time", PAY));
    assertThat(then.get(0).get("value").asDouble()).isEqualTo(2.2, within(1e-9));
    assertThat(then.get(1).get("value").asDouble()).isEqualTo(0.002, within(1e-9));
    // one that did not run did so zero times, and has no mean
    JsonNode seek =
        moment(
            noon.plusSeconds(600),
            of(series, "statement.calls", SEEK),
            of(series, "statement.mean_time", SEEK));
    assertThat(seek.get(0).get("value").asDouble()).isZero();
    assertThat(seek.get(1).get("value").isNull()).isTrue();
    // a whole day of steps, long ago: of all hours as many
    Instant day = TODAY.minus(DAYS - 1, ChronoUnit.DAYS);
    JsonNode figures =
        server
            .send(
                "POST",
                "/api/figures",
                Map.of(
                    "series",
                    List.of(calls.get("id").asInt()),
                    "from",
                    day.toEpochMilli(),
                    "to",
                    day.plus(1, ChronoUnit.DAYS).toEpochMilli()))
            .body()
            .get(0);
    assertThat(figures.get("mean").asDouble()).isEqualTo((120 + 11.5) / 60, within(1e-3));
    assertThat(figures.get("greatest").asDouble()).isEqualTo(143.0 / 60, within(1e-3));
    assertThat(figures.get("sum").asDouble()).isEqualTo(1440 * (120 + 11.5), within(200.0));

    assertThat(server.send("POST", "/api/instances/" + id + "/learn", null).status())
        .isEqualTo(204);
    JsonNode slots = server.get("/api/baselines?series=" + calls.get("id").asInt());
    assertThat(slots.get(50).get("p50").asDouble()).isBetween(2.0, 2.4);
  }

  private static JsonNode of(JsonNode series, String counter, StatementText text) {
    return series
        .valueStream()
        .filter(one -> one.get("counter").asString().equals(counter))
        .filter(
            one ->
                one.get("labels")
                    .get("statement")
                    .asString()
                    .equals(Fingerprint.hex(text.fingerprint())))
        .findFirst()
        .orElseThrow();
  }

  private static JsonNode moment(Instant at, JsonNode... series) throws Exception {
    List<Integer> ids = new ArrayList<>();
    for (JsonNode one : series) {
      ids.add(one.get("id").asInt());
    }
    return server
        .send("POST", "/api/moment", Map.of("series", ids, "at", at.toEpochMilli()))
        .body();
  }
}
