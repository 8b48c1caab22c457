package jamjar.e2e;

import com.google.gson.JsonObject;
import com.microsoft.playwright.CDPSession;
import com.microsoft.playwright.Clock.InstallOptions;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import jamjar.standins.WatchedInstance;
import jamjar.standins.history.History;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import jamjar.store.Store;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A tab that is left open for a day, its clock driven: the states and readings of 18 servers as
 * they were told, over and over at their pace, which is some hundred times that of the clock on the
 * wall; then two hundred changes of view. What it keeps. Run by {@code ./jamjar bench tab}.
 */
class TabBench {
  private static final Duration LENGTH = Duration.ofMinutes(Integer.getInteger("minutes", 25 * 60));
  private static final Duration FIRST = LENGTH.dividedBy(15).multipliedBy(2);
  private static final Duration STEP = Duration.ofMinutes(5);
  private static final int CHANGES = 200;
  private static final int CHARTS = 6;
  private static final List<String> KEYS =
      List.of(".", "5", "6", "[", "1", "}", "7", "0", "{", "1");
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /**
   * A frame each ten seconds of the page's clock: charts ask for one after the other, sixty a
   * second, and five million of them would take the day that is to be saved.
   */
  private static final String FRAMES =
      """
      window.requestAnimationFrame = (f) => setTimeout(() => f(performance.now()), 10000)
      window.cancelAnimationFrame = (id) => clearTimeout(id)
      """;

  /** Tells what was recorded, as often as it was told, by the clock of the page. */
  private static final String STREAM =
      """
      window.EventSource = class {
        static CLOSED = 2
        readyState = 1
        heard = {}
        constructor() {
          const told = %s
          const tell = (name, data) =>
            (this.heard[name] ?? []).forEach((f) => f({ data: JSON.stringify(data) }))
          setTimeout(() => { this.onopen?.(); tell('stream', { id: 'recorded' }) }, 5)
          this.beats = setInterval(() => tell('beat', { now: Date.now() }), 2000)
          let turn = 0
          this.readings = setInterval(() => {
            turn++
            for (const { state, reading } of told) {
              const at = Date.now()
              const moved = (v, i) => (v === null ? null : v * (1 + 0.05 * Math.sin(turn / 7 + i)))
              tell('state', { ...state, lastAt: at })
              tell('reading', { ...reading, at, values: reading.values.map(moved) })
            }
          }, 10000)
        }
        addEventListener(name, f) { (this.heard[name] ??= []).push(f) }
        close() { clearInterval(this.beats); clearInterval(this.readings) }
      }
      """;

  @TempDir private Path folder;

  @Test
  void a_tab_that_is_open_for_a_day() throws Exception {
    Story story = Story.NONE;
    try (Site site = Site.withoutEngine();
        Servers servers = Servers.start(Skerry.servers(), folder, Clock.systemUTC(), story, 4711)) {
      List<Integer> ids = new ArrayList<>();
      for (SimServer server : servers.all()) {
        Object body = WatchedInstance.server(server, 10).body();
        ids.add(site.api().send("POST", "/api/instances", body).get("id").asInt());
      }
      past(site, servers, story);
      Instant begin = Instant.now().minus(LENGTH);
      try (Page page = site.page()) {
        page.addInitScript(STREAM.formatted(recorded(site, ids)));
        page.route(
            "**/api/live/*", route -> route.fulfill(new Route.FulfillOptions().setStatus(204)));
        page.clock().install(new InstallOptions().setTime(begin.toEpochMilli()));
        page.addInitScript(FRAMES);
        page.navigate(site.address() + "/now?pick=" + ids.get(0) + "," + ids.get(1));
        page.locator(".band-chart").first().waitFor();
        pass(page, STEP);
        CDPSession inside = page.context().newCDPSession(page);
        inside.send("Performance.enable");
        System.out.printf(
            "bench tab, %s, %d cores, %d instances%n",
            ZonedDateTime.now(ZoneOffset.UTC)
                .format(DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'")),
            Runtime.getRuntime().availableProcessors(),
            ids.size());
        long began = System.nanoTime();
        pass(page, FIRST);
        double early = kept(inside, "after " + FIRST.toMinutes() + " minutes of the page");
        pass(page, LENGTH.minus(FIRST));
        double late = kept(inside, "after " + LENGTH.toMinutes() + " minutes of the page");
        System.out.printf(
            Locale.ROOT,
            "bench kept late by early: %.3f; %.0f times the pace of the wall's clock%n",
            late / early,
            LENGTH.toMillis() / ((System.nanoTime() - began) / 1e6));
        change(page, 20);
        kept(inside, "after 20 changes of view");
        change(page, CHANGES);
        kept(inside, "after " + CHANGES + " more");
      }
    }
  }

  private static void past(Site site, Servers servers, Story story) throws Exception {
    try (Store store = site.openStore();
        History.Writing writing =
            new History(store, story, Duration.ofDays(2)).begin(words -> {})) {
      for (SimServer server : servers.all().subList(0, 2)) {
        History.Subject subject = History.servers(List.of(server.profile()), story, 4711).get(0);
        Await.until(server.name() + " is read", Duration.ofMinutes(2), () -> writing.add(subject));
      }
      writing.await();
    }
  }

  /** What is told of each: its state, and a reading of its series. */
  private static String recorded(Site site, List<Integer> ids) throws Exception {
    List<Object> all = new ArrayList<>();
    for (int id : ids) {
      Await.until(
          "read",
          Duration.ofMinutes(1),
          () -> !site.api().get("/api/instances/" + id + "/series").isEmpty());
      List<Object> series = new ArrayList<>();
      List<Object> values = new ArrayList<>();
      List<String> why = new ArrayList<>();
      List<Object> distance = new ArrayList<>();
      for (JsonNode one : site.api().get("/api/instances/" + id + "/series")) {
        series.add(one.get("id").asInt());
        values.add(one.get("value").isNull() ? null : one.get("value").asDouble());
        why.add(one.get("why").asString());
        distance.add(null);
      }
      Map<String, Object> reading = new LinkedHashMap<>();
      reading.put("instance", id);
      reading.put("at", 0);
      reading.put("series", series);
      reading.put("values", values);
      reading.put("why", why);
      reading.put("distance", distance);
      all.add(
          Map.of("state", site.api().get("/api/instances/" + id).get("state"), "reading", reading));
    }
    return JSON.writeValueAsString(all);
  }

  private static void pass(Page page, Duration time) {
    for (long left = time.toMillis(); left > 0; left -= STEP.toMillis()) {
      page.clock().runFor(Math.min(left, STEP.toMillis()));
    }
  }

  private static void change(Page page, int times) {
    for (int i = 0; i < times; i++) {
      // out of a field that has the focus: letters are keys again
      page.keyboard().press("Escape");
      page.keyboard().press(KEYS.get(i % KEYS.size()));
      page.clock().runFor(2000);
    }
    page.keyboard().press("Escape");
    page.keyboard().press("1");
    page.keyboard().press("0");
    // what the server answers comes by the wall's clock, what is drawn of it by the page's
    for (int i = 0; i < 200 && page.locator(".band-chart canvas").count() < CHARTS; i++) {
      page.clock().runFor(10_000);
    }
  }

  /** After a forced collection, MB. */
  private static double kept(CDPSession inside, String when) {
    inside.send("HeapProfiler.collectGarbage");
    inside.send("HeapProfiler.collectGarbage");
    double megabytes =
        inside.send("Runtime.getHeapUsage").get("usedSize").getAsDouble() / 1024 / 1024;
    StringBuilder counted = new StringBuilder();
    for (var metric : inside.send("Performance.getMetrics").getAsJsonArray("metrics")) {
      JsonObject one = metric.getAsJsonObject();
      if (List.of("JSEventListeners", "Nodes").contains(one.get("name").getAsString())) {
        counted
            .append(", ")
            .append(one.get("value").getAsInt())
            .append(one.get("name").getAsString().equals("Nodes") ? " nodes" : " listeners");
      }
    }
    JsonObject canvases = new JsonObject();
    canvases.addProperty("expression", "document.querySelectorAll('canvas').length");
    int charts =
        inside.send("Runtime.evaluate", canvases).getAsJsonObject("result").get("value").getAsInt();
    System.out.printf(
        Locale.ROOT, "bench %s: %.1f MB kept%s, %d charts%n", when, megabytes, counted, charts);
    return megabytes;
  }
}
