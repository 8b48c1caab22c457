package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.session.StatementText;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Statements of an engine in a window, and against another one. */
class StatementsApiTest {
  private static final Instant TEN =
      Instant.now().truncatedTo(ChronoUnit.HOURS).minus(Duration.ofHours(5));
  private static final StatementText PAY = StatementText.of("update fare set price = 7");
  private static final StatementText SEEK = StatementText.of("select * from manifest where id = 1");
  private static final StatementText BRAND_NEW = StatementText.of("select count(*) from ferry");
  private static RunningServer server;
  private static int id;
  private static String at;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    id = server.instance("counted", "booking", "Northquay");
    at = "/api/instances/" + id + "/statements";
    for (int hour = 0; hour < 3; hour++) {
      Instant begin = TEN.plus(Duration.ofHours(hour));
      List<Counted> minutes = new ArrayList<>();
      for (int m = 0; m < 60; m++) {
        minutes.add(minute(begin.plusSeconds(60L * m), hour));
      }
      server.store().statements().put(id, begin, minutes);
    }
    server
        .store()
        .statements()
        .tell(
            id,
            Map.of(
                PAY.fingerprint(), PAY.text(),
                SEEK.fingerprint(), SEEK.text(),
                BRAND_NEW.fingerprint(), BRAND_NEW.text()),
            TEN);
  }

  /** At eleven one is called twice as often, another takes 180 ms and not 4, a third is new. */
  private static Counted minute(Instant at, int hour) {
    TreeMap<StatementKey, StatementCounts> all = new TreeMap<>();
    boolean changed = hour == 1;
    long calls = changed ? 120 : 60;
    all.put(key(PAY, "web", true), new StatementCounts(calls, calls * 1_000, calls, 0, 0, 0));
    all.put(
        key(SEEK, "web", true),
        new StatementCounts(30, 30 * (changed ? 180_000 : 4_000), 60, 300, changed ? 90 : 30, 0));
    // as much again by somebody else, and inside of another statement
    all.put(key(SEEK, "batch", true), new StatementCounts(30, 30 * 4_000, 0, 0, 0, 3));
    all.put(key(SEEK, "web", false), new StatementCounts(6, 600, 6, 0, 0, 0));
    all.put(StatementKey.others(true), new StatementCounts(5, 30_000, 5, 0, 0, 0));
    if (changed) {
      all.put(key(BRAND_NEW, "web", true), new StatementCounts(1, 50_000, 1, 0, 0, 0));
    }
    return new Counted(at, 60_000, at.getEpochSecond() % 3600 == 0 ? 1 : 0, all);
  }

  private static StatementKey key(StatementText text, String user, boolean top) {
    return new StatementKey(user, "bookings", text.fingerprint(), top);
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  private static String window(int fromHour, int toHour) {
    return "?from="
        + (TEN.plus(Duration.ofHours(fromHour)).toEpochMilli() - 1)
        + "&to="
        + (TEN.plus(Duration.ofHours(toHour)).toEpochMilli() - 1);
  }

  private static JsonNode row(JsonNode view, StatementText text, boolean top) {
    return view.get("rows")
        .valueStream()
        .filter(row -> row.get("name").asString().equals(text.text()))
        .filter(row -> row.get("top").asBoolean() == top)
        .findFirst()
        .orElseThrow();
  }

  @Test
  void what_changed_is_split_into_more_often_and_slower() throws Exception {
    JsonNode view = server.get(at + window(1, 2) + "&vs=" + (TEN.toEpochMilli() - 1));
    assertThat(view.get("coveredMs").asLong()).isEqualTo(3_600_000);
    assertThat(view.get("versus").get("coveredMs").asLong()).isEqualTo(3_600_000);
    assertThat(view.get("evictions").asInt()).isEqualTo(1);
    JsonNode seek = row(view, SEEK, true);
    // half of the calls went from 4 to 180 ms: 0.5 /s × 176 ms
    assertThat(seek.get("change").get("slower").asDouble()).isEqualTo(0.088, within(1e-9));
    assertThat(seek.get("change").get("moreOften").asDouble()).isEqualTo(0, within(1e-9));
    assertThat(seek.get("mean").asDouble()).isEqualTo(0.092, within(1e-9));
    assertThat(seek.get("change").get("meanBefore").asDouble()).isEqualTo(0.004, within(1e-9));
    assertThat(seek.get("users").toString()).isEqualTo("[\"batch\",\"web\"]");
    assertThat(seek.get("blocksPerCall").asDouble()).isEqualTo(390 / 60.0, within(1e-9));
    JsonNode pay = row(view, PAY, true);
    assertThat(pay.get("change").get("moreOften").asDouble()).isEqualTo(0.001, within(1e-9));
    assertThat(pay.get("change").get("slower").asDouble()).isEqualTo(0, within(1e-9));
    assertThat(pay.get("calls").asLong()).isEqualTo(7_200);
    assertThat(row(view, BRAND_NEW, true).get("change").get("kind").asString()).isEqualTo("new");
    // what ran inside of others is in their share already
    double shares =
        view.get("rows")
            .valueStream()
            .filter(row -> row.get("top").asBoolean())
            .mapToDouble(row -> row.get("share").asDouble())
            .sum();
    assertThat(shares + view.get("unnamedShare").asDouble()).isEqualTo(1, within(1e-9));
    assertThat(view.get("unnamedShare").asDouble()).isPositive();
    JsonNode back = server.get(at + window(2, 3) + "&vs=" + (TEN.toEpochMilli() + 3_599_999));
    assertThat(row(back, BRAND_NEW, true).get("change").get("kind").asString())
        .isEqualTo("vanished");
  }

  @Test
  void rows_are_ordered_by_what_is_asked_for_and_put_together_by_user_and_database()
      throws Exception {
    Map<String, StatementText> first =
        Map.of(
            "time", SEEK, "mean", SEEK, "reads", SEEK, "blocks_per_call", SEEK, "temporary", SEEK);
    for (Map.Entry<String, StatementText> wanted : first.entrySet()) {
      JsonNode rows = server.get(at + window(0, 1) + "&order=" + wanted.getKey()).get("rows");
      assertThat(rows.get(0).get("name").asString())
          .as(wanted.getKey())
          .isEqualTo(wanted.getValue().text());
    }
    // twice as often, and so the first
    JsonNode calls = server.get(at + window(1, 2) + "&order=calls").get("rows");
    assertThat(calls.get(0).get("name").asString()).isEqualTo(PAY.text());
    JsonNode users = server.get(at + window(0, 1) + "&by=user").get("rows");
    assertThat(users.get(0).get("name").asString()).isEqualTo("web");
    assertThat(users.get(0).get("calls").asLong()).isEqualTo(60 * 90);
    JsonNode databases = server.get(at + window(0, 1) + "&by=database").get("rows");
    assertThat(databases).hasSize(1);
    assertThat(databases.get(0).get("calls").asLong()).isEqualTo(60 * 120);
  }

  @Test
  void one_statement_has_its_days_and_who_calls_it() throws Exception {
    String print = Long.toHexString(SEEK.fingerprint());
    JsonNode minutes = server.get(at + "/" + print + window(0, 3) + "&steps=400");
    assertThat(minutes.get("stepMs").asLong()).isEqualTo(60_000);
    assertThat(minutes.get("text").asString()).isEqualTo("select * from manifest where id = ?");
    assertThat(minutes.get("firstSeen").asLong()).isEqualTo(TEN.toEpochMilli());
    List<Double> calls = new ArrayList<>();
    minutes
        .get("callsPerSecond")
        .valueStream()
        .filter(v -> !v.isNull())
        .forEach(v -> calls.add(v.asDouble()));
    assertThat(calls).hasSize(180).containsOnly(1.1);
    JsonNode hours = server.get(at + "/" + print + window(0, 3) + "&steps=4");
    assertThat(hours.get("stepMs").asLong()).isEqualTo(3_600_000);
    JsonNode callers = hours.get("callers");
    assertThat(callers).hasSize(3);
    assertThat(callers.get(0).get("user").asString()).isEqualTo("web");
    assertThat(callers.get(0).get("mean").asDouble())
        .isEqualTo((2 * 0.004 + 0.180) / 3, within(1e-9));
    assertThat(callers.get(2).get("top").asBoolean()).isFalse();
  }

  @Test
  void what_cannot_be_told_says_why() throws Exception {
    JsonNode nothing = server.get(at + window(-5, -4));
    assertThat(nothing.get("coveredMs").asLong()).isZero();
    assertThat(nothing.get("why").asString()).isNotEmpty();
    assertThat(server.send("GET", "/api/instances/999999/statements?from=1&to=2", null).status())
        .isEqualTo(404);
    assertThat(server.send("GET", at + "?from=2&to=1", null).status()).isEqualTo(422);
    RunningServer.Answer wrong = server.send("GET", at + "?from=1&to=2&order=colour", null);
    assertThat(wrong.status()).isEqualTo(422);
    assertThat(wrong.body().toString()).contains("blocks_per_call");
    assertThat(server.send("GET", at + "/abc?from=1&to=2", null).status()).isEqualTo(404);
    assertThat(server.send("GET", at + "/xyz?from=1&to=2", null).status()).isEqualTo(422);
    assertThat(server.send("GET", at + "/abc?from=1&to=2&steps=0", null).status()).isEqualTo(422);
  }
}
