package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import jamjar.core.reading.SeriesKey;
import jamjar.store.keeping.Keeping;
import jamjar.store.readings.KeptReading;
import java.time.Duration;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

class KeepingApiTest {
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
    JsonNode all = measured();
    JsonNode sizes = all.get("sizes");
    double parts = 0;
    for (String part : List.of("rows", "packed", "minutes", "coarse", "normals")) {
      assertThat(sizes.get(part).asLong()).as(part).isPositive();
      parts += sizes.get(part).asLong();
    }
    assertThat(all.get("bytes").asDouble()).isGreaterThan(parts);
    assertThat(sizes.get("days").asInt()).isEqualTo(3);
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
        sizes.get("packed").asDouble()
            + sizes.get("minutes").asDouble()
            + sizes.get("coarse").asDouble();
    assertThat(bytes).isCloseTo(stored, within(0.001 * stored));
    assertThat(sizes.get("bytesADay").asDouble()).isBetween(0.2 * stored / 3, 1.01 * stored / 3);
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
  void what_goes_by_a_change_is_told_first_and_nothing_goes_for_ten_minutes() throws Exception {
    Instant today = Instant.now().truncatedTo(ChronoUnit.DAYS);
    Instant old = today.minus(Duration.ofDays(40));
    // laid out as what was brought before: what is laid out anew is in the store only by and by
    server
        .store()
        .readings()
        .old()
        .add(old, true, List.of(server.store().readings().lay(kept(large, 40, old))));
    Map<String, Object> shorter = Map.of("readingsDays", 7, "minutesDays", 8);
    JsonNode going = server.send("POST", "/api/store/classes/0/going", shorter).body();
    long month =
        YearMonth.from(old.atZone(ZoneOffset.UTC))
            .atDay(1)
            .atStartOfDay(ZoneOffset.UTC)
            .toInstant()
            .toEpochMilli();
    assertThat(going.get(0).get("month").asLong()).isEqualTo(month);
    assertThat(going.valueStream().map(one -> one.get("minutes").asBoolean()))
        .contains(true, false);
    going.forEach(one -> assertThat(one.get("bytes").asLong()).isPositive());
    // by how it is kept now nothing goes that is younger
    assertThat(
            server
                .send(
                    "POST",
                    "/api/store/classes/0/going",
                    Map.of("readingsDays", 200, "minutesDays", 300))
                .body())
        .isEmpty();

    assertThat(server.send("PUT", "/api/store/classes/0", shorter).status()).isEqualTo(204);
    Instant now = Instant.now();
    assertThat(server.store().keeping().settled(now.minus(Keeping.UNTIL_IT_GOES)))
        .extracting(Keeping::keep)
        .doesNotContain(Keeping.USUAL)
        .contains(2);
    assertThat(server.store().keeping().settled(now.plusSeconds(60)))
        .extracting(Keeping::keep)
        .contains(Keeping.USUAL);
    Map<String, Object> before = Map.of("readingsDays", 56, "minutesDays", 180);
    assertThat(server.send("PUT", "/api/store/classes/0", before).status()).isEqualTo(204);
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
    Minutely.bring(server, days, at -> kept(instance, series, at));
  }

  private static KeptReading kept(int instance, int series, Instant at) {
    List<SeriesKey> keys = new ArrayList<>();
    double[] values = new double[series];
    for (int i = 0; i < series; i++) {
      keys.add(SeriesKey.of("sessions.waiting", "wait", "w" + i));
      values[i] = (at.getEpochSecond() / 60 * 7919 + i * 31L) % 1009;
    }
    return Minutely.at(instance, at, keys, values);
  }

  /** The store as it is told once it was measured. */
  private static JsonNode measured() throws Exception {
    long end = System.nanoTime() + Duration.ofSeconds(60).toNanos();
    JsonNode all = server.get("/api/store");
    while (all.get("sizes").isNull() && System.nanoTime() < end) {
      assertThat(all.get("measuring").asBoolean()).isTrue();
      Thread.onSpinWait();
      all = server.get("/api/store");
    }
    assertThat(all.get("notMeasured").asString()).isEmpty();
    return all;
  }
}
