package jamjar.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.BoundingBox;
import jamjar.standins.WatchedInstance;
import jamjar.standins.history.History;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import jamjar.store.Store;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * How long it takes from a key press to painted data, and what is asked for meanwhile, while all
 * instances are read. Run by {@code ./jamjar bench screens}.
 */
class ScreensBench {
  private static final int BROWSED = 6;
  private static final int ROUNDS = 8;
  private static final int COLD = 5;

  /** Of these there is a day before; it is painted when the last answer is, two frames later. */
  private static final String NOTES =
      """
      (() => {
        const notes = (window.notes = [])
        const real = window.fetch
        window.fetch = async (...args) => {
          const note = { path: String(args[0]).replace(/[?].*/, ''), began: performance.now() }
          notes.push(note)
          const answered = () => requestAnimationFrame(() => requestAnimationFrame(() =>
            (note.painted = performance.now())))
          try {
            const answer = await real(...args)
            const json = answer.json.bind(answer)
            answer.json = async () => { const data = await json(); answered(); return data }
            return answer
          } catch (e) { answered(); throw e }
        }
        addEventListener('keydown', () => (window.pressed = performance.now()), true)
        addEventListener('pointerup', () => (window.pressed = performance.now()), true)
        // resolves once nothing was asked for a while: what was since then, and when it was painted
        window.settled = (since) => new Promise((done) => {
          let shown = 0
          requestAnimationFrame(() => requestAnimationFrame(() => (shown = performance.now())))
          const look = () => {
            const mine = notes.filter((n) => n.began >= since && !/alerts|markers|live/.test(n.path))
            const last = Math.max(since, ...mine.map((n) => n.painted ?? Infinity))
            if (!shown || last === Infinity || performance.now() - Math.max(last, shown) < 400)
              return setTimeout(look, 20)
            const painted = mine.length ? last : shown
            done([painted - since, mine.length,
              mine.filter((n) => n.path === '/api/points').length])
          }
          look()
        })
      })()
      """;

  private record Took(double millis, int requests, int points) {
    static Took of(Object told) {
      List<?> all = (List<?>) told;
      return new Took(number(all.get(0)), (int) number(all.get(1)), (int) number(all.get(2)));
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {22, 200})
  void from_a_key_press_to_painted_data(int instances) throws Exception {
    Path folder = Files.createTempDirectory("jamjar-screens");
    Story story = Story.NONE;
    try (Site site = Site.withoutEngine();
        Servers servers =
            Servers.start(profiles(instances), folder, Clock.systemUTC(), story, 4711)) {
      List<Integer> ids = new ArrayList<>();
      for (SimServer server : servers.all()) {
        ids.add(
            site.api()
                .send("POST", "/api/instances", WatchedInstance.server(server, 10).body())
                .get("id")
                .asInt());
      }
      past(site, servers, story);
      Await.until(
          "all are read",
          Duration.ofMinutes(3),
          () -> site.api().get("/api/health").get("reading").asInt() >= instances);
      System.out.printf(
          Locale.ROOT,
          "bench screens, %s, %d cores, %d instances read every 10 s, 1280x800%n",
          ZonedDateTime.now(ZoneOffset.UTC)
              .format(DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'")),
          Runtime.getRuntime().availableProcessors(),
          instances);
      Map<String, List<Took>> all = new TreeMap<>();
      for (int i = 0; i < COLD; i++) {
        cold(site, "/shelf", all, "whole shelf, cold");
        cold(site, "/now?pick=" + ids.get(i % BROWSED), all, "Now, cold");
      }
      browse(site, ids, all);
      all.forEach(ScreensBench::tell);
      List<Took> pressed = new ArrayList<>();
      all.forEach((what, took) -> pressed.addAll(what.endsWith("cold") ? List.of() : took));
      tell("all presses", pressed);
    } finally {
      try (Stream<Path> left = Files.walk(folder)) {
        for (Path path : left.sorted(Comparator.reverseOrder()).toList()) {
          Files.delete(path);
        }
      }
    }
  }

  private static List<Profile> profiles(int count) {
    List<Profile> shipped = Skerry.servers();
    List<Profile> all = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      Profile like = shipped.get(i % shipped.size());
      all.add(
          new Profile(
              "screen-" + i,
              like.group(),
              like.site(),
              like.perSecond(),
              like.rhythm(),
              like.threads(),
              like.floor(),
              like.applications(),
              like.steps(),
              like.pools(),
              like.queues()));
    }
    return all;
  }

  /** A day before the first reading, of those that are browsed. */
  private static void past(Site site, Servers servers, Story story) throws Exception {
    try (Store store = site.openStore();
        History.Writing writing =
            new History(store, story, Duration.ofDays(1)).begin(words -> {})) {
      for (SimServer server : servers.all().subList(0, BROWSED)) {
        History.Subject subject = History.servers(List.of(server.profile()), story, 4711).get(0);
        Await.until(server.name() + " is read", Duration.ofMinutes(2), () -> writing.add(subject));
      }
      writing.await();
    }
  }

  private static void cold(Site site, String path, Map<String, List<Took>> all, String what) {
    try (Page page = site.page()) {
      page.addInitScript(NOTES);
      page.navigate(site.address() + path);
      page.waitForFunction("() => window.notes.length > 2");
      note(all, what, Took.of(page.evaluate("() => window.settled(0)")));
    }
  }

  private static void browse(Site site, List<Integer> ids, Map<String, List<Took>> all) {
    try (Page page = site.page()) {
      page.addInitScript(NOTES);
      page.navigate(site.address() + "/now?pick=" + ids.get(0));
      page.waitForFunction("() => window.notes.length > 2");
      page.evaluate("() => window.settled(0)");
      for (int round = 0; round < ROUNDS; round++) {
        page.navigate(site.address() + "/now?pick=" + ids.get(round % BROWSED));
        page.waitForFunction("() => window.notes.length > 2");
        page.evaluate("() => window.settled(0)");
        press(page, ".", "next instance", all);
        press(page, ",", "previous instance", all);
        press(page, "[", "window back", all);
        press(page, "}", "window wider", all);
        press(page, "5", "Memory", all);
        press(page, "6", "Pools", all);
        press(page, "1", "Now", all);
        press(page, "0", "live", all);
        zoom(page, all);
      }
    }
  }

  private static void press(Page page, String key, String what, Map<String, List<Took>> all) {
    page.keyboard().press(key);
    note(all, what, Took.of(page.evaluate("() => window.settled(window.pressed)")));
  }

  private static void zoom(Page page, Map<String, List<Took>> all) {
    Locator chart = page.locator(".band-chart").first();
    BoundingBox box = chart.boundingBox();
    page.mouse().move(box.x + box.width * 0.4, box.y + box.height / 2);
    page.mouse().down();
    page.mouse().move(box.x + box.width * 0.6, box.y + box.height / 2);
    page.mouse().up();
    note(all, "zoom", Took.of(page.evaluate("() => window.settled(window.pressed)")));
  }

  private static void note(Map<String, List<Took>> all, String what, Took took) {
    all.computeIfAbsent(what, w -> new ArrayList<>()).add(took);
  }

  private static void tell(String what, List<Took> took) {
    double[] millis = took.stream().mapToDouble(Took::millis).sorted().toArray();
    System.out.printf(
        Locale.ROOT,
        "bench %-20s %3d times: median %4.0f ms, p95 %4.0f ms, worst %4.0f ms; requests at most"
            + " %d, of points at most %d%n",
        what,
        millis.length,
        millis[millis.length / 2],
        millis[(int) Math.ceil(millis.length * 0.95) - 1],
        millis[millis.length - 1],
        took.stream().mapToInt(Took::requests).max().orElse(0),
        took.stream().mapToInt(Took::points).max().orElse(0));
  }

  private static double number(Object value) {
    return ((Number) value).doubleValue();
  }
}
