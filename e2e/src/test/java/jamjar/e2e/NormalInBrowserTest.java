package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

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
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/**
 * What is normal, what moved, and what is better or worse, on two servers with three weeks behind
 * them: a heap that leaked from one release to the next, and a Saturday on which a pool ran empty.
 */
class NormalInBrowserTest {
  private static final Story STORY = new Story(Instant.now().truncatedTo(ChronoUnit.MINUTES));
  private static final List<String> NAMES = List.of("booking-2", "freight-2");
  private static final long SEED = 4711;
  private static final Duration SOON = Duration.ofSeconds(120);
  private static Site site;
  private static Servers servers;
  private static final Map<String, Integer> ids = new HashMap<>();

  @BeforeAll
  static void start() throws Exception {
    site = Site.withoutEngine();
    Path folder = Files.createTempDirectory("jamjar-normal");
    List<Profile> profiles =
        Skerry.servers().stream().filter(p -> NAMES.contains(p.name())).toList();
    servers = Servers.start(profiles, folder, Clock.systemUTC(), STORY, SEED);
    for (SimServer server : servers.all()) {
      Object body = WatchedInstance.server(server, 10).body();
      ids.put(server.name(), site.api().send("POST", "/api/instances", body).get("id").asInt());
    }
    try (Store store = site.openStore();
        History.Writing writing =
            new History(store, STORY, Duration.ofDays(22)).begin(words -> {})) {
      for (History.Subject subject : History.servers(profiles, STORY, SEED)) {
        Await.until(subject.name() + " is read", SOON, () -> writing.add(subject));
      }
      writing.await();
    }
    for (int id : ids.values()) {
      site.api().send("POST", "/api/instances/" + id + "/learn", null);
    }
    Story.Mark cured = STORY.marks().get(1);
    site.api()
        .send(
            "POST",
            "/api/markers",
            Map.of(
                "kind", "release",
                "title", cured.title(),
                "note", "",
                "from", cured.at().toEpochMilli(),
                "reach", Map.of("level", "group", "of", "freight")));
  }

  @AfterEach
  void closePages() {
    site.closePages();
  }

  @AfterAll
  static void end() throws Exception {
    servers.close();
    site.close();
  }

  private static String window(Instant from, Instant to) {
    return "&from=" + from + "&to=" + to;
  }

  private static Locator.GetByRoleOptions named(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }

  @Test
  void a_limit_is_tried_on_the_past_before_it_is_set() {
    Page page = site.page();
    List<String> broken = new ArrayList<>();
    page.onConsoleMessage(
        message -> {
          if (message.text().contains("Error:")) {
            broken.add(message.text());
          }
        });
    String pool = "pool.waiting~pool=bookingPool";
    page.navigate(
        site.address()
            + "/now?pick="
            + ids.get("booking-2")
            + "&charts="
            + pool
            + "&big="
            + pool
            + "&edit=limit");
    Locator trying =
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Tried on the past"));
    page.getByLabel("Warning", new Page.GetByLabelOptions().setExact(true)).fill("3");
    assertThat(trying).containsText("no incident is marked");
    // the Saturday on which the pool ran empty would have been told
    Locator risen =
        trying.getByRole(
            AriaRole.BUTTON,
            new Locator.GetByRoleOptions().setName(Pattern.compile("^[◣◆].* for .*worst")));
    risen.first().click();
    trying.getByRole(AriaRole.BUTTON, named("was real")).click();
    assertThat(trying).containsText(Pattern.compile("1 of 1\\s*incidents caught"));
    assertThat(trying.getByRole(AriaRole.BUTTON, named("was real"))).hasCount(0);

    trying.getByLabel("Wanted alerts a week").selectOption("0");
    trying.getByRole(AriaRole.BUTTON, named("take it")).click();
    assertThat(page.getByLabel("Warning", new Page.GetByLabelOptions().setExact(true)))
        .not()
        .hasValue("3");
    assertThat(risen).hasCount(0);
    assertThat(trying).containsText(Pattern.compile("0 of 1\\s*incidents caught"));

    page.getByLabel("Warning", new Page.GetByLabelOptions().setExact(true)).fill("3");
    risen.first().click();
    trying.getByRole(AriaRole.BUTTON, named("open that moment")).click();
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Leave")).click();
    assertThat(page).hasURL(Pattern.compile("/now\\?.*from="));
    org.assertj.core.api.Assertions.assertThat(broken).isEmpty();
  }

  @Test
  void the_week_as_learned_is_kept_by_a_name_and_shows_from_what_it_is() throws Exception {
    // what another test marked teaches nothing
    site.clearMarkers(0, System.currentTimeMillis(), "incident"::equals);
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + ids.get("booking-2"));
    assertThat(page.getByRole(AriaRole.HEADING, level("booking-2"))).isVisible();
    page.keyboard().press("8");
    Locator main = page.getByRole(AriaRole.MAIN);
    Locator from = main.getByRole(AriaRole.ARTICLE, named("Learned from"));
    assertThat(from).containsText(Pattern.compile("\\d+ of 672 quarter-hours"));
    assertThat(main.getByRole(AriaRole.ARTICLE, named("How often outside")))
        .containsText(Pattern.compile("[0-9.]+ %"));

    // another counter, by its name: the quarter-hours in which the pool was empty taught nothing
    main.getByRole(AriaRole.HEADING).getByRole(AriaRole.BUTTON).click();
    page.getByLabel("Search counters").fill("Connections in use bookingPool");
    page.getByLabel("Search counters").press("Enter");
    assertThat(page).hasURL(Pattern.compile("of=pool\\."));
    assertThat(from).containsText("far from the other weeks");
    assertThat(from).containsText("Saturday 08:30 – 09:15 left out");

    main.getByRole(AriaRole.BUTTON, named("freeze as …")).click();
    page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("November");
    page.getByRole(
            AriaRole.BUTTON,
            new Page.GetByRoleOptions().setName("Freeze the baseline").setExact(true))
        .click();
    Locator frozen = main.getByRole(AriaRole.ARTICLE, named("Slowly moving?"));
    assertThat(frozen).containsText("November");
    assertThat(frozen).containsText(Pattern.compile("[+−]0\\.\\d spreads: no drift that matters"));
  }

  private static Page.GetByRoleOptions level(String name) {
    return new Page.GetByRoleOptions().setName(name).setLevel(1);
  }

  @Test
  void what_moved_names_who_left_first_and_leads_to_its_chart() {
    Page page = site.page();
    Instant began = STORY.emptyPools().from();
    page.navigate(
        site.address()
            + "/moved?order=first"
            + window(began.minusSeconds(900), began.plusSeconds(2_700)));
    Locator rows =
        page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("What moved"));
    Locator first = rows.getByRole(AriaRole.ROW).nth(1);
    assertThat(first).containsText("bookingPool");
    assertThat(first).containsText("booking-2");
    assertThat(first).containsText("the first");
    first.getByRole(AriaRole.BUTTON).click();
    assertThat(page).hasURL(Pattern.compile("/now\\?.*pick=" + ids.get("booking-2")));
    assertThat(page.getByRole(AriaRole.ARTICLE).first()).containsText("bookingPool");
  }

  @Test
  void a_leak_is_told_before_it_is_cured_and_the_release_that_cured_it_is_proved()
      throws Exception {
    Page page = site.page();
    Instant cured = STORY.marks().get(1).at();
    page.navigate(
        site.address()
            + "/memory?pick="
            + ids.get("freight-2")
            + window(cured.minus(Duration.ofHours(30)), cured.minusSeconds(3_600)));
    Locator main = page.getByRole(AriaRole.MAIN);
    assertThat(main).containsText("A leak: for");
    assertThat(main).containsText(Pattern.compile("At that pace it is full in \\d+ (h|days)"));
    // nobody else is accused
    page.navigate(
        site.address()
            + "/memory?pick="
            + ids.get("booking-2")
            + window(cured.minus(Duration.ofHours(30)), cured.minusSeconds(3_600)));
    assertThat(main).containsText("No leak: over");

    page.navigate(site.address() + "/compare?pick=" + ids.get("freight-2"));
    Locator since = main.getByRole(AriaRole.COMBOBOX, named("since a marker"));
    since.press("ArrowDown");
    page.getByRole(
            AriaRole.OPTION, new Page.GetByRoleOptions().setName(Pattern.compile("release 4\\.9")))
        .click();
    Locator sentence = main.getByRole(AriaRole.ARTICLE, named("In a sentence"));
    assertThat(sentence).containsText("Against the day before “release 4.9”");
    assertThat(sentence).containsText(Pattern.compile("better.* beyond their usual change"));
    Locator changed = main.getByRole(AriaRole.TABLE, named("What changed"));
    Locator floor =
        changed
            .getByRole(AriaRole.ROW)
            .filter(new Locator.FilterOptions().setHasText(Pattern.compile("^Heap floor")));
    assertThat(floor).containsText("better");
    floor.getByRole(AriaRole.BUTTON).click();
    assertThat(main.getByRole(AriaRole.ARTICLE, named("Heap floor, before and after"))).isVisible();
    assertThat((Integer) page.evaluate("document.documentElement.scrollWidth")).isEqualTo(1280);
  }
}
