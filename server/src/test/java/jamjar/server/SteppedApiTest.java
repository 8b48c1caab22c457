package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.core.watching.Gap;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.intake.Intake;
import jamjar.store.readings.KeptReading;
import jamjar.store.silences.Silence;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Days that are packed and in steps are told by the API as when they were rows. */
class SteppedApiTest {
  private static final SeriesKey TOTAL = SeriesKey.of("sessions.total");
  private static final SeriesKey COMMITTED = SeriesKey.of("transactions.committed");
  private static final Duration EVERY = Duration.ofSeconds(30);
  private static final long HALF_HOUR = 1_800_000;

  private static RunningServer server;
  private static Store store;
  private static Intake intake;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    store = server.store();
    intake = server.bean(Intake.class);
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void points_of_packed_days_are_those_of_their_readings() throws Exception {
    Instant today = Instant.now().truncatedTo(ChronoUnit.DAYS);
    Instant from = today.minus(Duration.ofDays(3));
    Instant to = today.minus(Duration.ofDays(1));
    int instance = server.instance("packed", "", "");
    write(instance, from, to);
    int[] ids = store.readings().numbers(instance, List.of(TOTAL, COMMITTED), from);
    Instant moment = from.plus(Duration.ofHours(5)).plusSeconds(3);
    JsonNode values = moment(ids, moment);
    // the 601st reading: 20 + 601 % 37, and what the 602nd grew by in 30 s
    assertThat(values.get(0).get("value").asDouble()).isEqualTo(20 + 601 % 37);
    assertThat(values.get(1).get("value").asDouble()).isEqualTo((1_000 + 602 * 31 % 500) / 30.0);
    // it is read more often now: what was read then is made of what was set then
    JsonNode work = server.get("/api/series/" + ids[1] + "/work?at=" + moment.toEpochMilli());
    assertThat(work.get("interval").asInt()).isEqualTo(30);
    assertThat(work.get("elapsed").asLong()).isEqualTo(30_000);
    assertThat(work.get("parts").get(0).get("kept").asDouble()).isEqualTo(1_000 + 602 * 31 % 500);
    assertThat(work.get("value").asDouble()).isEqualTo((1_000 + 602 * 31 % 500) / 30.0);
    JsonNode levels = points(ids[0], from, to);
    JsonNode totals = points(ids[1], from, to);
    assertThat(levels.get("mean")).hasSize(96);

    store.readings().sealer().run(today.plus(Duration.ofHours(1)));
    assertThat(store.readings().steps(ids, 1, from, to)).hasSize(2);
    same(points(ids[0], from, to), levels);
    same(points(ids[1], from, to), totals);
    assertThat(moment(ids, moment)).isEqualTo(values);
    figures(ids, from, to);
    keptSince(instance, from);
    // what was long before there was anything is not too much to look at
    JsonNode year = points(ids[0], today.minus(Duration.ofDays(365)), today, 300);
    assertThat(year.get("mean")).hasSize(300);
    assertThat(year.get("mean").get(0).isNull()).isTrue();
    assertThat(year.get("mean").get(298).asDouble()).isBetween(20.0, 57.0);

    // when the readings are not kept any more their steps are, also for what is narrower
    Instant later = today.plus(Duration.ofDays(100));
    int other = server.instance("packed-later", "", "");
    write(other, later, later.plus(EVERY));
    store.readings().sealer().run(later.plus(Duration.ofHours(3)));
    while (store.readings().retention().run(later, store.keeping().all()) > 0) {
      // a month at a time
    }
    assertThat(store.readings().readings(instance, from, to)).isEmpty();
    same(points(ids[0], from, to), levels);
    keptSince(instance, from);
    JsonNode narrow = points(ids[0], from, from.plus(Duration.ofHours(1)), 3_600);
    assertThat(narrow.get("mean").get(1_800).asDouble()).isBetween(20.0, 57.0);
  }

  private static void keptSince(int instance, Instant from) throws Exception {
    JsonNode gaps = server.get("/api/gaps?from=0&to=" + from.toEpochMilli() + of(instance));
    assertThat(Instant.ofEpochMilli(gaps.get("first").asLong()))
        .isBetween(from.truncatedTo(ChronoUnit.DAYS).minus(Duration.ofDays(31)), from);
  }

  private static String of(int instance) {
    return "&instance=" + instance;
  }

  @Test
  void gaps_are_those_in_which_nobody_was_watched_and_those_of_who_was_asked_for()
      throws Exception {
    Instant from = Instant.now().truncatedTo(ChronoUnit.DAYS).minus(Duration.ofDays(300));
    long begin = from.toEpochMilli();
    int quiet = server.instance("quiet", "", "");
    int other = server.instance("other", "", "");
    store.watching().add(Gap.notRunning(begin + HALF_HOUR, begin + 2 * HALF_HOUR));
    store
        .silences()
        .add(
            new Silence(
                quiet, 1, from, from.plusMillis(HALF_HOUR / 2), "refused", "connection refused"));
    // another pace of the same is not the instance
    store
        .silences()
        .add(new Silence(quiet, 2, from, from.plusMillis(HALF_HOUR), "slow", "took too long"));
    store.silences().add(Silence.since(from.plusMillis(4 * HALF_HOUR), other, 1, "none", "gone"));
    String window = "/api/gaps?from=" + begin + "&to=" + (begin + 5 * HALF_HOUR);

    JsonNode all = server.get(window);
    assertThat(all.get("without")).hasSize(1);
    assertThat(all.get("without").get(0).get("why").asString()).startsWith("not watched");
    assertThat(server.get(window + of(quiet)).get("first").isNull()).isTrue();

    JsonNode both = server.get(window + of(quiet) + of(other)).get("without");
    assertThat(both.findValuesAsString("instance")).containsExactly("quiet", "", "other");
    assertThat(both.get(0).get("to").asLong()).isEqualTo(begin + HALF_HOUR / 2);
    // one that lasts has lasted until now
    assertThat(both.get(2).get("to").asLong()).isGreaterThan(begin + 5 * HALF_HOUR);
    assertThat(server.send("GET", window + of(9_999), null).status()).isEqualTo(404);
  }

  private static void same(JsonNode now, JsonNode before) {
    assertThat(now.get("at")).isEqualTo(before.get("at"));
    for (int i = 0; i < now.get("at").size(); i++) {
      for (String what : List.of("mean", "min", "max")) {
        assertThat(now.get(what).get(i).isNull()).isEqualTo(before.get(what).get(i).isNull());
        if (!now.get(what).get(i).isNull()) {
          double then = before.get(what).get(i).asDouble();
          double share = what.equals("mean") ? 1e-3 : 1 / 4_096.0;
          assertThat(now.get(what).get(i).asDouble())
              .as(what + " " + i)
              .isCloseTo(then, within(Math.abs(then) * share + 1e-9));
        }
      }
    }
  }

  private static JsonNode moment(int[] series, Instant at) throws Exception {
    return server
        .send(
            "POST",
            "/api/moment",
            Map.of("series", List.of(series[0], series[1]), "at", at.toEpochMilli()))
        .body();
  }

  private static void figures(int[] ids, Instant from, Instant to) throws Exception {
    JsonNode all =
        server
            .send(
                "POST",
                "/api/figures",
                Map.of(
                    "series",
                    List.of(ids[0], ids[1]),
                    "from",
                    from.toEpochMilli(),
                    "to",
                    to.toEpochMilli()))
            .body();
    JsonNode level = all.get(0);
    assertThat(level.get("series").asInt()).isEqualTo(ids[0]);
    // 20 to 56, over and over; kept to one part in 4,096
    assertThat(level.get("least").asDouble()).isCloseTo(20, within(0.01));
    assertThat(level.get("greatest").asDouble()).isCloseTo(56, within(0.02));
    assertThat(level.get("mean").asDouble()).isCloseTo(38, within(0.5));
    assertThat(level.get("p95").asDouble())
        .isBetween(level.get("mean").asDouble(), level.get("greatest").asDouble());
    assertThat(level.get("sum").isNull()).isTrue();
    JsonNode total = all.get(1);
    double seconds = Duration.between(from, to).toSeconds();
    // a gap of hours is in it: of that nothing is known
    assertThat(total.get("sum").asDouble())
        .isLessThan(total.get("mean").asDouble() * seconds)
        .isGreaterThan(total.get("mean").asDouble() * seconds * 0.7);
  }

  private static JsonNode points(int series, Instant from, Instant to) throws Exception {
    return points(series, from, to, Duration.between(from, to).toMillis() / HALF_HOUR);
  }

  private static JsonNode points(int series, Instant from, Instant to, long most) throws Exception {
    return server
        .send(
            "POST",
            "/api/points",
            Map.of(
                "series",
                List.of(series),
                "from",
                from.toEpochMilli(),
                "to",
                to.toEpochMilli(),
                "maxPoints",
                most))
        .body()
        .get(0);
  }

  /** A gap of hours in it. */
  private static void write(int instance, Instant from, Instant to) throws Exception {
    List<KeptReading> batch = new ArrayList<>();
    long seq = 0;
    for (Instant at = from; at.isBefore(to); at = at.plus(EVERY)) {
      seq++;
      if (seq % 2_000 > 1_700) {
        continue;
      }
      double[] values = {20 + seq % 37, 1_000 + seq * 31 % 500};
      Reading reading =
          new Reading(
              at.plusMillis(seq % 7),
              EVERY.toMillis(),
              List.of(TOTAL, COMMITTED),
              values,
              new WhyNothing[2]);
      LastTotals last =
          new LastTotals(
              at, 0, 0, 0, Set.of(), Map.of(COMMITTED, new LastTotals.Raw(1, 0)), Set.of());
      batch.add(
          new KeptReading(
              instance,
              1,
              (int) EVERY.toSeconds(),
              seq,
              at,
              new Increases.Step(reading, last),
              Judged.NOTHING));
    }
    batch.forEach(intake::reading);
    intake.awaitBrought(Duration.ofSeconds(60));
  }
}
