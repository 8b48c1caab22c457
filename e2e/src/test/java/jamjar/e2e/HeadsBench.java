package jamjar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Mischief;
import jamjar.standins.servers.Mischief.Kind;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Who is missing, live, on all 18 servers of the demo: a rolling restart of six within three
 * minutes, one that does not come back, and a site of which nobody answers. Run by {@code ./jamjar
 * bench heads}.
 */
class HeadsBench {
  private static final Duration SOON = Duration.ofSeconds(120);
  private static final Duration RESTART = Duration.ofSeconds(25);
  private static final Duration LASTS = Duration.ofMinutes(30);
  private static final Duration MISSING_WITHIN = Duration.ofSeconds(180);
  private static final Duration TOLD_WITHIN = Duration.ofMinutes(5);
  private static final String SITE = "Southmole";

  private static Site site;
  private static Mischief mischief;

  @Test
  void a_rolling_restart_one_that_is_missing_and_a_site_that_is_silent() throws Exception {
    System.out.printf(
        "bench heads, %s, %d cores%n",
        ZonedDateTime.now(ZoneOffset.UTC)
            .format(DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'")),
        Runtime.getRuntime().availableProcessors());
    Path folder = Files.createTempDirectory("jamjar-heads");
    mischief = new Mischief(folder.resolve("mischief"), Clock.systemUTC());
    try (Site started = Site.withoutEngine();
        Servers servers = Servers.start(Skerry.servers(), folder, Clock.systemUTC(), 4711)) {
      site = started;
      for (Skerry.Expected group : Skerry.expected()) {
        if (!group.group().endsWith("-db")) {
          site.api()
              .send(
                  "PUT",
                  "/api/groups",
                  Map.of("name", group.group(), "site", group.site(), "expected", group.count()));
        }
      }
      for (SimServer server : servers.all()) {
        site.api().send("POST", "/api/instances", WatchedInstance.server(server, 10).body());
      }
      Await.until(
          "all are read", SOON, () -> site.api().get("/api/health").get("reading").asInt() >= 18);
      restart();
      missing();
      silent();
    }
  }

  private static List<JsonNode> told() throws Exception {
    List<JsonNode> told = new ArrayList<>();
    for (JsonNode alert : site.api().get("/api/alerts")) {
      boolean quiet = !alert.get("quiet").asString().isEmpty();
      boolean heads = List.of("silent", "unreachable").contains(alert.get("condition").asString());
      if (!quiet && (heads || isOfHeads(alert))) {
        told.add(alert);
      }
    }
    return told;
  }

  private static boolean isOfHeads(JsonNode alert) {
    String counter = alert.get("counter").asString();
    return counter.startsWith("heads.") || counter.startsWith("site.");
  }

  private static void restart() throws Exception {
    Instant began = Instant.now();
    List<String> six =
        Skerry.servers().stream()
            .filter(profile -> profile.group().equals("booking"))
            .map(Profile::name)
            .toList();
    int most = 0;
    for (String name : six) {
      mischief.begin(name, Kind.STOP, RESTART);
      Instant until = Instant.now().plus(RESTART);
      while (Instant.now().isBefore(until)) {
        most = Math.max(most, told().size());
        Thread.sleep(500);
      }
      mischief.end(name, Kind.STOP);
    }
    System.out.printf(
        Locale.ROOT,
        "bench heads: rolling restart of %d within %d s: %d alerts (must 0)%n",
        six.size(),
        Duration.between(began, Instant.now()).toSeconds(),
        most);
    assertThat(most).isZero();
  }

  private static JsonNode awaited(Duration within, Predicate<JsonNode> which) throws Exception {
    JsonNode[] found = {null};
    Await.within(
        "it is told",
        within,
        () -> {
          found[0] = told().stream().filter(which).findFirst().orElse(null);
          return found[0] != null;
        });
    return found[0];
  }

  private static void missing() throws Exception {
    Instant began = Instant.now();
    mischief.begin("gate-4", Kind.STOP, LASTS);
    JsonNode alert =
        awaited(MISSING_WITHIN, one -> one.get("counter").asString().equals("heads.missing"));
    System.out.printf(
        Locale.ROOT,
        "bench heads: gate-4 does not come back: told after %d s (must %d): %s, %s%n",
        Duration.between(began, Instant.now()).toSeconds(),
        MISSING_WITHIN.toSeconds(),
        alert.get("subject").asString(),
        alert.get("standing").asString());
    mischief.end("gate-4", Kind.STOP);
    Await.within("it is back", TOLD_WITHIN, () -> told().isEmpty());
  }

  private static void silent() throws Exception {
    Instant began = Instant.now();
    List<String> there =
        Skerry.servers().stream()
            .filter(profile -> profile.site().equals(SITE))
            .map(Profile::name)
            .toList();
    there.forEach(name -> mischief.begin(name, Kind.HANG, LASTS));
    JsonNode alert = awaited(TOLD_WITHIN, one -> one.get("counter").asString().startsWith("site."));
    long after = Duration.between(began, Instant.now()).toSeconds();
    int most = 0;
    Instant until = Instant.now().plusSeconds(200);
    while (Instant.now().isBefore(until)) {
      most = Math.max(most, told().size());
      Thread.sleep(1000);
    }
    System.out.printf(
        Locale.ROOT,
        "bench heads: the %d of %s answer nothing: told after %d s: %s %s; at most %d told within"
            + " 200 s (must 1)%n",
        there.size(),
        SITE,
        after,
        alert.get("subject").asString(),
        alert.get("standing").asString(),
        most);
    there.forEach(name -> mischief.end(name, Kind.HANG));
    assertThat(most).isEqualTo(1);
  }
}
