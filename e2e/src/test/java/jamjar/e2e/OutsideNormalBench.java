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
 * history made of the minutes that the engine really had is written through the store, then its
 * index is dropped. Alone on the machine, because what else runs there would move the engine's own
 * times.
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
  private static final int MINUTE_SECONDS = 60;
  private static final Duration SLOW = Duration.ofMinutes(8);

  /** So far it goes at least: the index is what its statement lives by. */
  private static final double FAR = 5;

  /** For five minutes after it began nothing of an engine is outside its normal. */
  private static final Duration SETTLES = Duration.ofMinutes(5);

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
        "it is read", SOON, () -> site.api().series(instance).containsKey("statements.calls"));
    Instant settled = Instant.now().plus(SETTLES);
    Await.until("it has settled", SETTLES.plus(SOON), () -> Instant.now().isAfter(settled));
    writeHistory();
    // what comes late is seen once it is packed, within a minute
    Await.until("the history", SOON, () -> was(began - 900_000));
    site.api().answer("POST", "/api/instances/" + instance + "/learn", null, Map.of());
    JsonNode series = site.api().series(instance).get(MEAN_TIME);
    assertThat(series.get("normalFrom").asString()).isEqualTo("all hours together");
    judgeTwoMinutes();

    // an engine that is as it always was
    long judged = judgedMinutes();
    Await.until("quiet minutes", Duration.ofMinutes(6), () -> judgedMinutes() >= judged + 4);
    assertThat(alerts()).isEmpty();

    Thread slow =
        new Thread(
            () -> {
              try {
                new Misbehaviour(site.folder(), new PrintStream(OutputStream.nullOutputStream()))
                    .slowStatement(SLOW);
              } catch (Exception e) {
                // interrupted: the index is back
              }
            });
    double[] farthest = {0};
    slow.start();
    long dropped = System.nanoTime();
    try {
      Await.within(
          "outside normal, and far",
          SLOW,
          () -> {
            JsonNode distance = site.api().series(instance).get(MEAN_TIME).get("distance");
            farthest[0] = Math.max(farthest[0], distance.asDouble(0));
            return farthest[0] >= FAR && alerts().contains(MEAN_TIME);
          });
    } finally {
      slow.interrupt();
      slow.join();
      System.out.printf("bench normal: at most %.1f spreads outside%n", farthest[0]);
    }
    long seconds = Duration.ofNanos(System.nanoTime() - dropped).toSeconds();
    JsonNode alert = alert(MEAN_TIME);
    JsonNode rise = alert.get("transitions").get(alert.get("transitions").size() - 1);
    System.out.printf(
        "bench normal: nothing in three quiet minutes; %d s after its index was dropped %s is %.3g s,"
            + " normal to %.3g s: %.1f spreads outside; alerts of %s%n",
        seconds,
        MEAN_TIME,
        rise.get("value").asDouble(),
        rise.get("normalHigh").asDouble(),
        rise.get("distance").asDouble(),
        alerts());
    assertThat(MAY_MOVE_TOO).containsAll(alerts());
    assertThat(alert.get("condition").asString()).isEqualTo("outside");
    assertThat(rise.get("value").asDouble()).isGreaterThan(rise.get("normalHigh").asDouble());
  }

  private static boolean was(long at) throws Exception {
    return !site.api().points(instance, ACTIVE, at, at + 60_000).get("at").isEmpty();
  }

  /** The shipped limit, risen by two minutes so that nobody need wait for five. */
  private static void judgeTwoMinutes() throws Exception {
    for (JsonNode limit : site.api().get("/api/limits")) {
      if (limit.get("condition").asString().equals("outside")) {
        Map<String, Object> body = new HashMap<>();
        for (String field : List.of("counter", "labels", "scope", "condition", "warning")) {
          body.put(field, limit.get(field));
        }
        body.put("hold", Map.of("m", 2, "n", 2));
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

  /** An hour and more before the first real reading, of real minutes drawn at random. */
  private static void writeHistory() throws Exception {
    SplittableRandom random = new SplittableRandom(5);
    try (Store store = site.openStore()) {
      Map<Integer, SeriesKey> keys = store.readings().series(instance);
      List<StoredReading> real =
          store
              .readings()
              .readings(instance, Instant.now().minus(SETTLES.plus(SOON)), Instant.now())
              .stream()
              .filter(r -> r.source() == 1)
              .toList();
      List<StoredReading> whole =
          real.stream().filter(r -> r.elapsedMillis() > 0).skip(MINUTE_SECONDS).toList();
      Instant first = real.get(0).at();
      LastTotals last = store.readings().last(instance, 1).orElseThrow();
      List<KeptReading> batch = new ArrayList<>();
      int begin = 0;
      for (int second = HISTORY_MINUTES * MINUTE_SECONDS; second > 0; second--) {
        int in = (MINUTE_SECONDS - second % MINUTE_SECONDS) % MINUTE_SECONDS;
        if (in == 0) {
          begin = random.nextInt(whole.size() - MINUTE_SECONDS);
        }
        StoredReading copied = whole.get(begin + in);
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
