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
  private static final int SLOW_MILLIS = 300;
  private static final String CHART = "main .band-chart canvas";

  /**
   * Notes what is fetched, and tells when all that was asked for since a moment is painted: the
   * answers are there, the charts in view are drawn with them, and two frames went by. That the
   * same charts are drawn once more a moment later, as time goes on, is not what was asked for.
   */
  private static final String NOTES =
      """
      (() => {
        const notes = (window.notes = [])
        const real = window.fetch
        window.fetch = async (...args) => {
          const note = { path: String(args[0]).replace(/[?].*/, ''), began: performance.now() }
          if (!/alerts|markers|live/.test(note.path)) notes.push(note)
          try {
            const answer = await real(...args)
            const json = answer.json.bind(answer)
            answer.json = () => json().finally(() => (note.ended = performance.now()))
            return answer
          } catch (e) { note.ended = performance.now(); throw e }
        }
        addEventListener('keydown', () => (window.pressed = performance.now()), true)
        addEventListener('pointerup', () => (window.pressed = performance.now()), true)
        const seen = () => [...document.querySelectorAll('main .band-chart')].filter((chart) => {
          const { top, bottom } = chart.getBoundingClientRect()
          return bottom > 44 && top < innerHeight - 76
        })
        window.settled = (since, needs = 'main') => new Promise((done) => {
          let painted = 0
          let quiet = performance.now()
          const look = () => {
            const now = performance.now()
            const mine = notes.filter((n) => n.began >= since)
            const charts = seen()
            const busy = mine.length === 0 || mine.some((n) => !n.ended) ||
              !document.querySelector(needs) || charts.some((c) => !c.querySelector('canvas')) ||
              (!painted && charts.some((c) => c.ariaBusy === 'true'))
            if (busy) { painted = 0; quiet = now }
            // one frame has it drawn, the next has it painted
            else if (!painted && now - quiet > 0) painted = now
            if (painted && now - quiet > 400) {
              return done([painted - since, mine.length,
                mine.filter((n) => n.path === '/api/points').length,
                mine.map((n) => `${n.path} ${Math.round(n.began - since)} to ` +
                  `${Math.round(n.ended - since)}`).join(', ')])
            }
            requestAnimationFrame(look)
          }
          requestAnimationFrame(look)
        })
      })()
      """;

  /**
   * @param asked what was fetched, and when, in ms since the press
   */
  private record Took(double millis, int requests, int points, String asked) {
    static Took of(Object told) {
      List<?> all = (List<?>) told;
      return new Took(
          number(all.get(0)),
          (int) number(all.get(1)),
          (int) number(all.get(2)),
          (String) all.get(3));
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
        cold(site, "/shelf", "main svg", all, "whole shelf, cold");
        cold(site, "/now?pick=" + ids.get(i % BROWSED), CHART, all, "Now, cold");
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

  private static void cold(
      Site site, String path, String needs, Map<String, List<Took>> all, String what) {
    try (Page page = site.page()) {
      page.addInitScript(NOTES);
      page.navigate(site.address() + path);
      note(all, what, Took.of(page.evaluate("needs => window.settled(0, needs)", needs)));
    }
  }

  private static void browse(Site site, List<Integer> ids, Map<String, List<Took>> all) {
    try (Page page = site.page()) {
      page.addInitScript(NOTES);
      for (int round = 0; round < ROUNDS; round++) {
        page.navigate(site.address() + "/now?pick=" + ids.get(round % BROWSED));
        page.evaluate("needs => window.settled(0, needs)", CHART);
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
    note(
        all, what, Took.of(page.evaluate("() => window.settled(window.pressed, '" + CHART + "')")));
  }

  private static void zoom(Page page, Map<String, List<Took>> all) {
    Locator chart = page.locator(".band-chart").first();
    BoundingBox box = chart.boundingBox();
    page.mouse().move(box.x + box.width * 0.4, box.y + box.height / 2);
    page.mouse().down();
    page.mouse().move(box.x + box.width * 0.6, box.y + box.height / 2);
    page.mouse().up();
    note(
        all,
        "zoom",
        Took.of(page.evaluate("() => window.settled(window.pressed, '" + CHART + "')")));
  }

  private static void note(Map<String, List<Took>> all, String what, Took took) {
    List<Took> same = all.computeIfAbsent(what, w -> new ArrayList<>());
    same.add(took);
    if (took.millis > SLOW_MILLIS) {
      System.out.printf(
          Locale.ROOT,
          "bench slow: %s, the %d. time: %.0f ms; %s%n",
          what,
          same.size(),
          took.millis,
          took.asked);
    }
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
