package jamjar.server;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.core.baseline.Normal;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.InForce;
import jamjar.core.limit.Rule;
import jamjar.core.limit.Scope;
import jamjar.core.reading.SeriesKey;
import jamjar.server.heads.HeadCounts;
import jamjar.server.instances.InstanceState;
import jamjar.server.instances.InstanceState.State;
import jamjar.store.alerts.JudgedStore.Judged;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Who is missing of a group or too many, and a site that is silent, told as alerts by name. */
class HeadsApiTest {
  private static final long LONG_AGO = 200_000;
  private static RunningServer server;
  private static HeadCounts heads;

  @BeforeAll
  static void start() throws Exception {
    server = new RunningServer();
    heads = server.bean(HeadCounts.class);
  }

  @AfterAll
  static void end() throws Exception {
    server.close();
  }

  @Test
  void one_that_is_away_is_missing_by_name_and_an_extra_one_is_named_by_its_process()
      throws Exception {
    expect("gates", "Northquay", 1, "");
    expect("gates", "Southmole", 2, "");
    stands("gate-1", "gates", "Northquay", State.READING, LONG_AGO);
    stands("gate-3", "gates", "Southmole", State.READING, LONG_AGO);
    stands("gate-4", "gates", "Southmole", State.UNREACHABLE, LONG_AGO);
    stands("booking-1", "booking", "Northquay", State.UNREACHABLE, 60_000);
    expect("booking", "Northquay", 1, "");
    expect("tills", "Northquay", 1, "jamjar.server.Till");
    stands("till-1", "tills", "Northquay", State.READING, LONG_AGO);
    Process byHand =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-cp",
                System.getProperty("java.class.path"),
                "jamjar.server.Till",
                "secret=4711")
            .start();
    try {
      JsonNode missing = told("heads.missing", alert -> true);
      assertThat(missing.get("subject").asString()).isEqualTo("gates");
      assertThat(missing.get("standing").asString()).isEqualTo("2 of 3 answer, missing gate-4");
      assertThat(missing.get("severity").asString()).isEqualTo("warning");
      JsonNode extra = told("heads.extra", alert -> true);
      assertThat(extra.get("subject").asString()).isEqualTo("tills");
      assertThat(extra.get("standing").asString())
          .isEqualTo("2 of 1 answer, too many: jamjar.server.Till (process " + byHand.pid() + ")");
      // who was away for a minute is being started again
      assertThat(alert("heads.missing", a -> a.get("subject").asString().equals("booking")))
          .isEmpty();
    } finally {
      byHand.destroy();
      byHand.waitFor();
    }
  }

  @Test
  void a_site_of_which_half_is_silent_is_one_alert_and_holds_back_those_of_its_instances()
      throws Exception {
    int first = stands("berth-1", "berths", "Farpoint", State.SILENT, 20_000);
    stands("berth-2", "berths", "Farpoint", State.SILENT, 20_000);
    stands("berth-3", "berths", "Farpoint", State.READING, LONG_AGO);
    silent(first);
    Predicate<JsonNode> its = alert -> alert.get("instance").asInt() == first;
    assertThat(told("", its).get("quiet").asString())
        .isEqualTo("Farpoint is unreachable from here");
    JsonNode site = told("site.silent_share", alert -> true);
    assertThat(site.get("subject").asString()).isEqualTo("Farpoint");
    assertThat(site.get("standing").asString()).isEqualTo("2 of 3 silent");
    assertThat(site.get("severity").asString()).isEqualTo("critical");
    assertThat(told("", its).get("quiet").asString())
        .isEqualTo("Farpoint is unreachable from here");
    assertThat(told("", its).get("bundle").asLong())
        .isEqualTo(told("site.silent_share", alert -> true).get("bundle").asLong());
  }

  private static void expect(String group, String site, int count, String command)
      throws Exception {
    Map<String, Object> body =
        Map.of("name", group, "site", site, "expected", count, "command", command);
    assertThat(server.send("PUT", "/api/groups", body).status()).isEqualTo(200);
  }

  private static int stands(String name, String group, String site, State as, long ago) {
    int id = server.instance(name, group, site);
    long now = System.currentTimeMillis();
    heads.state(InstanceState.fresh(id, as, now - ago, 10));
    return id;
  }

  /** As judging it would have it. */
  private static void silent(int instance) {
    Rule rule =
        new Rule(
            1,
            "",
            Map.of(),
            Scope.instance(instance),
            Condition.SILENT,
            2.0,
            null,
            null,
            null,
            null,
            null,
            null,
            true);
    InForce inForce =
        InForce.ofInstance(List.of(rule), new InForce.Place(instance, "", "postgresql"), 10_000)
            .get(0);
    long from = System.currentTimeMillis() - 100_000;
    Docket docket =
        new Docket(
            List.of(new Docket.Entry(Docket.INSTANCE, null, inForce)),
            Map.of(),
            from,
            from,
            (series, at) -> Normal.NONE);
    List<Docket.Change> changes = docket.time(System.currentTimeMillis());
    assertThat(changes.get(changes.size() - 1).after().state()).isEqualTo(AlertState.WARNING);
    List<SeriesKey> keys = changes.stream().map(change -> SeriesKey.of("")).toList();
    server.store().judged().write(new Judged(instance, changes, keys));
  }

  private static JsonNode told(String counter, Predicate<JsonNode> which) throws Exception {
    Bodies.await("an alert of '" + counter + "'", () -> alert(counter, which).isPresent());
    return alert(counter, which).orElseThrow();
  }

  private static Optional<JsonNode> alert(String counter, Predicate<JsonNode> which)
      throws Exception {
    return server
        .get("/api/alerts")
        .valueStream()
        .filter(alert -> alert.get("counter").asString().equals(counter))
        .filter(which)
        .findFirst();
  }
}
