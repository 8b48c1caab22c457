package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.counter.WhyNothing;
import jamjar.core.reading.Increases;
import jamjar.core.reading.LastTotals;
import jamjar.core.reading.Reading;
import jamjar.core.reading.SeriesKey;
import jamjar.store.Store;
import jamjar.store.alerts.JudgedStore.Judged;
import jamjar.store.intake.Intake;
import jamjar.store.readings.Import;
import jamjar.store.readings.KeptReading;
import jamjar.store.readings.LaidOut;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class KeepingApiTest {
  private static final Duration DAY = Duration.ofDays(1);
  private static RunningServer server;
  private static int large;
  private static int small;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    large = server.instance("large", "", "");
    small = server.instance("small", "", "");
    bring(large, 40, 3);
    bring(small, 4, 3);
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void the_size_is_told_by_what_and_by_whom() throws Exception {
    JsonNode all = server.get("/api/store");
    double parts = 0;
    for (String part : List.of("rows", "packed", "minutes", "coarse", "normals")) {
      assertThat(all.get(part).asLong()).as(part).isPositive();
      parts += all.get(part).asLong();
    }
    assertThat(all.get("bytes").asDouble()).isGreaterThan(parts);
    assertThat(all.get("days").asInt()).isEqualTo(3);
    // the database of a test is elsewhere: its disk is not looked at
    assertThat(all.get("free").isNull()).isTrue();
    Map<Integer, JsonNode> instances = new HashMap<>();
    double bytes = 0;
    for (JsonNode one : all.get("instances")) {
      instances.put(one.get("id").asInt(), one);
      bytes += one.get("bytes").asDouble();
    }
    assertThat(instances.get(large).get("bytes").asLong())
        .isGreaterThan(5 * instances.get(small).get("bytes").asLong());
    assertThat(instances.get(small).get("bytes").asLong()).isPositive();
    // what they take adds up to what is packed and in steps
    double stored =
        all.get("packed").asDouble() + all.get("minutes").asDouble() + all.get("coarse").asDouble();
    assertThat(bytes).isCloseTo(stored, within(0.001 * stored));
    assertThat(all.get("bytesADay").asDouble()).isBetween(0.2 * stored / 3, 1.01 * stored / 3);
  }

  @Test
  void a_class_and_who_is_of_it_are_changed_and_that_is_kept() throws Exception {
    assertThat(server.send("PUT", "/api/store/instances/" + small, Map.of("keep", 1)).status())
        .isEqualTo(204);
    assertThat(keepOf(small)).isEqualTo(1);
    assertThat(server.send("PUT", "/api/store/instances/" + small, Map.of("keep", 0)).status())
        .isEqualTo(204);
    assertThat(keepOf(small)).isZero();
    Map<String, Object> body = new HashMap<>();
    body.put("readingsDays", 20);
    body.put("minutesDays", null);
    assertThat(server.send("PUT", "/api/store/classes/1", body).status()).isEqualTo(204);
    JsonNode changed = server.get("/api/store").get("classes").get(1);
    assertThat(changed.get("readingsDays").asInt()).isEqualTo(20);
    assertThat(changed.get("minutesDays").isNull()).isTrue();
    JsonNode changes = server.get("/api/changes?from=0&to=" + System.currentTimeMillis());
    assertThat(changes.toString()).contains("keeping").contains("short");
  }

  @Test
  void what_can_t_be_is_refused_in_words() throws Exception {
    RunningServer.Answer shorter =
        server.send("PUT", "/api/store/classes/0", Map.of("readingsDays", 9, "minutesDays", 8));
    assertThat(shorter.status()).isEqualTo(422);
    assertThat(shorter.body().get("detail").asString()).contains("at least as long");
    assertThat(server.send("PUT", "/api/store/classes/0", Map.of("readingsDays", 0)).status())
        .isBetween(400, 422);
    assertThat(server.send("PUT", "/api/store/instances/" + small, Map.of("keep", 9)).status())
        .isEqualTo(404);
    assertThat(server.send("PUT", "/api/store/instances/4711", Map.of("keep", 0)).status())
        .isEqualTo(404);
  }

  private static int keepOf(int instance) throws Exception {
    for (JsonNode one : server.get("/api/store").get("instances")) {
      if (one.get("id").asInt() == instance) {
        return one.get("keep").asInt();
      }
    }
    throw new AssertionError("no size of " + instance);
  }

  /** Days of so many series, read once a minute. */
  private static void bring(int instance, int series, int days) throws Exception {
    Store store = server.store();
    Intake intake = server.bean(Intake.class);
    Instant now = Instant.now();
    intake.reading(kept(instance, series, now));
    intake.awaitBrought(Duration.ofSeconds(60));
    Import old = store.readings().old();
    for (int back = 1; back <= days; back++) {
      Instant day = now.truncatedTo(ChronoUnit.DAYS).minus(back, ChronoUnit.DAYS);
      List<LaidOut> readings = new ArrayList<>();
      for (Instant at = day; at.isBefore(day.plus(DAY)); at = at.plusSeconds(60)) {
        readings.add(store.readings().lay(kept(instance, series, at)));
      }
      assertThat(old.add(day, true, readings)).isTrue();
    }
  }

  private static KeptReading kept(int instance, int series, Instant at) {
    List<SeriesKey> keys = new ArrayList<>();
    double[] values = new double[series];
    for (int i = 0; i < series; i++) {
      keys.add(SeriesKey.of("sessions.waiting", "wait", "w" + i));
      values[i] = (at.getEpochSecond() / 60 * 7919 + i * 31L) % 1009;
    }
    Reading reading = new Reading(at, 60_000, keys, values, new WhyNothing[series]);
    LastTotals last = new LastTotals(at, 0, 0, 0, Set.of(), Map.of(), Set.of());
    return new KeptReading(
        instance, 1, 60, 1, at, new Increases.Step(reading, last), Judged.NOTHING);
  }
}
