package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.standins.booking.Misbehaviour;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.StoredReading;
import java.io.OutputStream;
import java.io.PrintStream;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * A statement that gets slower than it ever was, though under every static limit: an hour of
 * history made of what the engine really did is written through the store, then its index is
 * dropped. Alone on the machine, because what else runs there would move the engine's own times.
 */
@SharedSite
class OutsideNormalBench {
  private static final Duration SOON = Duration.ofSeconds(240);
  private static final String MEAN_TIME = "statements.mean_time";

  /** It has a value in each second, the mean time only in those with enough calls. */
  private static final String ACTIVE = "sessions.active";

  /** What a slower statement may well move too. */
  private static final Set<String> MAY_MOVE_TOO = Set.of(MEAN_TIME, ACTIVE, "sessions.waiting");

  private static final int HISTORY_MINUTES = 66;
  private static Site site;
  private static int instance;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("booking-db-a", 1);
  }

  @Test
  void a_statement_that_lost_its_index_is_outside_normal_and_nothing_else_is() throws Exception {
    long began = System.currentTimeMillis();
    Await.until(
        "half a minute of real readings",
        SOON,
        () -> {
          JsonNode points =
              site.api().series(instance).containsKey(ACTIVE)
                  ? site.api()
                      .points(instance, ACTIVE, began, System.currentTimeMillis())
                      .get("mean")
                  : null;
          return points != null && points.valueStream().filter(v -> !v.isNull()).count() >= 30;
        });
    writeHistory();
    // what comes late is seen once it is packed, within a minute
    Await.until("the history", SOON, () -> was(began - 900_000));
    site.api().answer("POST", "/api/instances/" + instance + "/learn", null, Map.of());
    JsonNode series = site.api().series(instance).get(MEAN_TIME);
    assertThat(series.get("normalFrom").asString()).isEqualTo("all hours together");
    judgeOnceAMinute();
    // the engine began with this: for five minutes nothing is outside its normal
    Instant settled = Instant.now().plus(Duration.ofMinutes(5));
    Await.until("it has settled", Duration.ofMinutes(6), () -> Instant.now().isAfter(settled));

    // a whole minute of an engine that is as it always was
    long judged = judgedMinutes();
    Await.until("a quiet minute", Duration.ofMinutes(3), () -> judgedMinutes() >= judged + 2);
    assertThat(alerts()).isEmpty();

    Thread slow =
        new Thread(
            () -> {
              try {
                new Misbehaviour(site.folder(), new PrintStream(OutputStream.nullOutputStream()))
                    .slowStatement(Duration.ofMinutes(4));
              } catch (Exception e) {
                // interrupted: the index is back
              }
            });
    slow.start();
    try {
      Await.until("outside normal", Duration.ofMinutes(4), () -> alerts().contains(MEAN_TIME));
    } finally {
      slow.interrupt();
      slow.join();
    }
    assertThat(MAY_MOVE_TOO).containsAll(alerts());
    JsonNode alert = alert(MEAN_TIME);
    assertThat(alert.get("condition").asString()).isEqualTo("outside");
    JsonNode rise = alert.get("transitions").get(alert.get("transitions").size() - 1);
    assertThat(rise.get("distance").asDouble()).isGreaterThanOrEqualTo(5);
    assertThat(rise.get("value").asDouble()).isGreaterThan(rise.get("normalHigh").asDouble());
  }

  private static boolean was(long at) throws Exception {
    return !site.api().points(instance, ACTIVE, at, at + 60_000).get("at").isEmpty();
  }

  /** The shipped limit, risen by one judging so that the test need not wait for three. */
  private static void judgeOnceAMinute() throws Exception {
    for (JsonNode limit : site.api().get("/api/limits")) {
      if (limit.get("condition").asString().equals("outside")) {
        Map<String, Object> body = new HashMap<>();
        for (String field : List.of("counter", "labels", "scope", "condition", "warning")) {
          body.put(field, limit.get(field));
        }
        body.put("hold", Map.of("m", 1, "n", 1));
        body.put("clear", Map.of());
        body.put("on", true);
        body.put("offReason", "");
        site.api().send("PUT", "/api/limits/" + limit.get("id").asInt(), body);
      }
    }
  }

  private static long judgedMinutes() {
    return System.currentTimeMillis() / 60_000;
  }

  private static Set<String> alerts() throws Exception {
    Set<String> counters = new TreeSet<>();
    site.api().get("/api/alerts").forEach(a -> counters.add(a.get("counter").asString()));
    return counters;
  }

  private static JsonNode alert(String counter) throws Exception {
    for (JsonNode alert : site.api().get("/api/alerts")) {
      if (alert.get("counter").asString().equals(counter)) {
        return alert;
      }
    }
    throw new AssertionError("no alert of " + counter);
  }

  /** An hour and more before the first real reading, of real readings drawn at random. */
  private static void writeHistory() throws Exception {
    SplittableRandom random = new SplittableRandom(5);
    try (Store store = site.openStore()) {
      Map<Integer, SeriesKey> keys = store.readings().series(instance);
      List<StoredReading> real =
          store
              .readings()
              .readings(instance, Instant.now().minusSeconds(300), Instant.now())
              .stream()
              .filter(r -> r.source() == 1)
              .toList();
      List<StoredReading> whole = real.stream().filter(r -> r.elapsedMillis() > 0).skip(2).toList();
      Instant first = real.get(0).at();
      LastTotals last = store.readings().last(instance, 1).orElseThrow();
      List<KeptReading> batch = new ArrayList<>();
      for (int second = HISTORY_MINUTES * 60; second > 0; second--) {
        StoredReading copied = whole.get(random.nextInt(whole.size()));
        List<SeriesKey> series = new ArrayList<>();
        for (int id : copied.series()) {
          series.add(keys.get(id));
        }
        Instant at = first.minusSeconds(second);
        Reading reading =
            new Reading(at, 1000, series, copied.values(), new WhyNothing[series.size()]);
        batch.add(
            new KeptReading(
                instance, 1, 1, 0, at, new Increases.Step(reading, last), Judged.NOTHING));
        if (batch.size() == 200 || second == 1) {
          store.readings().write(batch);
          batch.clear();
        }
      }
    }
  }
}
