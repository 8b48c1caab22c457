package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.WatchedInstance;
import jamjar.standins.history.History;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.standins.servers.Story;
import jamjar.store.Store;
import jamjar.store.limits.RuleRow;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

/**
 * A limit in the browser: from a number that is changed to the past it would have told of, over six
 * weeks; and the page of 2,000 limits, from the click to its rows and from a key press to the rows
 * that match. Run by {@code ./jamjar bench trying}.
 */
class TriedInBrowserBench {
  private static final int LIMITS = 2000;
  private static final int NUMBERS = 60;

  /** As many before them, of a server that has just come up. */
  private static final int WARM = 40;

  private static final String WORDS = "pool 17 booking waiting group 3";
  private static final Duration SOON = Duration.ofSeconds(120);
  private static final String POOL = "pool.in_use~pool=bookingPool";

  @Test
  void from_a_number_to_its_past_and_from_a_click_to_2000_limits() throws Exception {
    Story story = new Story(Instant.now().truncatedTo(ChronoUnit.MINUTES));
    List<Profile> profiles =
        Skerry.servers().stream().filter(p -> p.name().equals("booking-2")).toList();
    Path folder = Files.createTempDirectory("jamjar-trying");
    System.out.printf(
        "bench trying, %s, %d cores%n",
        ZonedDateTime.now(ZoneOffset.UTC)
            .format(DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'")),
        Runtime.getRuntime().availableProcessors());
    try (Site site = Site.withoutEngine();
        Servers servers = Servers.start(profiles, folder, Clock.systemUTC(), story, 4711)) {
      SimServer server = servers.all().get(0);
      Object body = WatchedInstance.server(server, 10).body();
      int id = site.api().send("POST", "/api/instances", body).get("id").asInt();
      try (Store store = site.openStore();
          History.Writing writing = new History(store, story).begin(words -> {})) {
        for (History.Subject subject : History.servers(profiles, story, 4711)) {
          Await.until("it is read", SOON, () -> writing.add(subject));
        }
        writing.await();
        for (int i = 0; i < LIMITS; i++) {
          store.rules().add(rule(i));
        }
      }
      Page page = site.page();
      dragged(page, site, id);
      limits(page, site);
    }
  }

  private static RuleRow rule(int i) {
    String counter = List.of("pool.waiting", "requests.busy_share", "queue.oldest").get(i % 3);
    return new RuleRow(
        0,
        counter,
        new TreeMap<>(),
        "GROUP",
        "group " + i,
        "ABOVE",
        3.0 + i,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        true,
        "",
        null,
        false,
        Instant.now());
  }

  private static void dragged(Page page, Site site, int id) {
    page.navigate(
        site.address() + "/now?pick=" + id + "&charts=" + POOL + "&big=" + POOL + "&edit=limit");
    Locator trying =
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Tried on the past"));
    Locator warning = page.getByLabel("Warning", new Page.GetByLabelOptions().setExact(true));
    warning.fill("12");
    assertThat(trying).containsText("a week");
    page.evaluate(
        """
        () => {
          window.took = []
          window.asked = []
          window.answered = []
          let began = 0
          document.querySelector('[aria-label="Warning"]')
            .addEventListener('keydown', () => { began = performance.now() }, true)
          const fetched = window.fetch
          window.fetch = async (...asked) => {
            const of = began
            const at = performance.now() - of
            const answer = await fetched(...asked)
            if (`${asked[0].url ?? asked[0]}`.endsWith('/api/limits/replay')) {
              window.asked.push(at)
              window.answered.push(performance.now() - of)
              const read = answer.json.bind(answer)
              answer.json = async () => {
                const told = await read()
                // the frame after the one in which it was drawn has it painted
                requestAnimationFrame(() => requestAnimationFrame(() =>
                  window.took.push(performance.now() - of)))
                return told
              }
            }
            return answer
          }
        }
        """);
    warning.focus();
    for (int i = 0; i < WARM + NUMBERS; i++) {
      page.keyboard().press(i % 20 < 8 ? "ArrowUp" : "ArrowDown");
      page.waitForFunction("n => window.took.length > n", i);
    }
    tell("from a number to its question", warm(page, "asked"));
    tell("from a number to its answer", warm(page, "answered"));
    tell("from a number to the past painted", warm(page, "took"));
  }

  private static void limits(Page page, Site site) {
    double[] opened = new double[9];
    for (int i = 0; i < opened.length; i++) {
      page.navigate(site.address() + "/shelf");
      Locator link =
          page.getByRole(
              AriaRole.LINK, new Page.GetByRoleOptions().setName("Limits").setExact(true));
      assertThat(link.first()).isVisible();
      opened[i] =
          ((Number)
                  page.evaluate(
                      """
                      () => new Promise((done) => {
                        const began = performance.now()
                        const link = [...document.querySelectorAll('a')]
                          .find((a) => a.textContent.trim() === 'Limits')
                        const look = () => document.querySelector('main tbody tr td')
                          ? requestAnimationFrame(() => requestAnimationFrame(() =>
                              done(performance.now() - began)))
                          : requestAnimationFrame(look)
                        link.click()
                        look()
                      })
                      """))
              .doubleValue();
    }
    tell("from the click to " + LIMITS + " limits", opened);
    page.evaluate(
        """
        () => {
          window.took = []
          document.querySelector('[aria-label="Find limits"]').addEventListener('keydown', () => {
            const began = performance.now()
            requestAnimationFrame(() => requestAnimationFrame(() =>
              window.took.push(performance.now() - began)))
          }, true)
        }
        """);
    page.getByLabel("Find limits").focus();
    for (int round = 0; round < 2; round++) {
      int n = 0;
      for (char letter : WORDS.toCharArray()) {
        page.keyboard().press(letter == ' ' ? "Space" : String.valueOf(letter));
        n++;
      }
      for (; n > 0; n--) {
        page.keyboard().press("Backspace");
      }
    }
    tell("from a key press to the limits that match", took(page, "took"));
  }

  private static double[] warm(Page page, String what) {
    double[] all = took(page, what);
    return Arrays.copyOfRange(all, WARM, all.length);
  }

  private static double[] took(Page page, String what) {
    return ((List<?>) page.evaluate("what => window[what]", what))
        .stream().mapToDouble(v -> ((Number) v).doubleValue()).toArray();
  }

  private static void tell(String what, double[] took) {
    double[] sorted = took.clone();
    Arrays.sort(sorted);
    System.out.printf(
        Locale.ROOT,
        "bench trying: %s, %d times: median %.0f ms, p95 %.0f ms, worst %.0f ms%n",
        what,
        sorted.length,
        sorted[sorted.length / 2],
        sorted[(int) Math.ceil(0.95 * sorted.length) - 1],
        sorted[sorted.length - 1]);
  }
}
