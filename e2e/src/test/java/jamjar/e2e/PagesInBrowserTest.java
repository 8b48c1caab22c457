package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Response;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** From one page to the next: what is picked, the window, and what is answered late. */
@SharedSite
class PagesInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final Pattern TO = Pattern.compile("[?&]to=(\\d+)");
  private static Site site;
  private static int slow;
  private static int quick;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    slow = site.addEngine("slow", 1);
    quick = site.addEngine("quick", 1);
    Await.until("both tell what they are", SOON, () -> tells(slow) && tells(quick));
  }

  private static boolean tells(int instance) throws Exception {
    return !site.api().get("/api/instances/" + instance + "/facts").isEmpty();
  }

  @Test
  void facts_of_one_that_answers_late_are_not_those_of_the_next() {
    Page page = site.page();
    List<Route> held = new ArrayList<>();
    page.route("**/api/instances/" + slow + "/facts", held::add);
    page.navigate(site.address() + "/facts?pick=" + slow);
    assertThat(page.getByText("Fetching the facts …")).isVisible();
    page.waitForCondition(() -> !held.isEmpty());
    shelfRow(page, "quick").click();
    Locator facts = region(page, "Facts");
    assertThat(facts.getByRole(AriaRole.ROW).first()).isVisible();
    held.forEach(route -> answer(route, "told too late"));
    // what is asked now is answered after it
    page.getByLabel("Search facts").fill("version");
    assertThat(facts).containsText(Pattern.compile("\\d+\\.\\d+"));
    assertThat(facts).not().containsText("told too late");
    // and back at the first there is nothing of the second
    page.unroute("**/api/instances/" + slow + "/facts");
    List<Route> again = new ArrayList<>();
    page.route("**/api/instances/" + slow + "/facts", again::add);
    shelfRow(page, "slow").click();
    page.waitForCondition(() -> !again.isEmpty());
    assertThat(page.getByText("Fetching the facts …")).isVisible();
    again.forEach(route -> answer(route, "version told late"));
    assertThat(facts).containsText("version told late");
  }

  @Test
  void what_is_told_of_one_too_late_is_never_shown_of_the_next() throws Exception {
    String series = "**/api/instances/" + slow + "/series";
    late("/now?pick=" + slow, series, "\"title\":\"", "Transactions committed");
    late("/counters?pick=" + slow, series, "\"title\":\"", "Active and not waiting");
    late("/limits?pick=" + slow, series, "\"title\":\"", "Vacuum age");
    String ranked = "/counters?pick=" + slow + "&rank=transactions.committed";
    String ranking = "**/api/instances/" + slow + "/ranking?*";
    late(ranked, ranking, "\"database\":\"", "Active and not waiting");
  }

  @Test
  void the_checks_of_one_are_not_those_of_the_next() {
    Page page = site.page();
    List<Route> held = new ArrayList<>();
    String asked = "**/api/instances/" + slow + "/preflight";
    page.route(asked, held::add);
    page.navigate(site.address() + "/endpoints?point=" + slow);
    page.waitForCondition(() -> !held.isEmpty());
    Locator main = page.getByRole(AriaRole.MAIN);
    main.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("quick")).click();
    assertThat(main).containsText(Pattern.compile("Checked|Not checked yet"));
    held.forEach(
        route -> {
          String told =
              "{\"at\":1000,\"by\":\"told too late, \",\"checks\":[{\"check\":\"told too late\","
                  + "\"outcome\":\"fail\",\"found\":\"\",\"wanted\":\"\",\"fix\":\"\","
                  + "\"restartNeeded\":false}]}";
          json(route, told);
        });
    // what is asked now is answered after it
    main.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("check")).click();
    assertThat(main).containsText("Checked at");
    assertThat(main).not().containsText("told too late");
  }

  @Test
  void alerts_of_one_window_are_not_those_of_the_next() {
    Page page = site.page();
    List<Route> held = new ArrayList<>();
    String asked = "**/api/alerts?state=all&*";
    page.route(asked, held::add);
    page.navigate(site.address() + "/alerts?state=all&w=3h");
    page.waitForCondition(() -> !held.isEmpty());
    page.unroute(asked);
    page.keyboard().press("[");
    Locator main = page.getByRole(AriaRole.MAIN);
    assertThat(main).containsText("No alert in this time.");
    held.forEach(route -> json(route, Alerts.many(1, "told too late")));
    // what is asked now is answered after it; the rail asks, too, but up to now
    Instant twoHoursAgo = Instant.now().minus(Duration.ofHours(2));
    Response last =
        page.waitForResponse(
            response -> endsBefore(response.url(), twoHoursAgo), () -> page.keyboard().press("["));
    assertThat(main).containsText("No alert in this time.");
    org.assertj.core.api.Assertions.assertThat(last.text()).isEqualTo("[]");
    assertThat(main).not().containsText("told too late");
  }

  private static boolean endsBefore(String url, Instant moment) {
    Matcher to = TO.matcher(url);
    return url.contains("/api/alerts?")
        && to.find()
        && Instant.ofEpochMilli(Long.parseLong(to.group(1))).isBefore(moment);
  }

  @Test
  void points_of_one_are_not_drawn_of_the_next() {
    Page page = site.page();
    String one = "transactions.committed";
    List<Route> held = new ArrayList<>();
    page.route(
        "**/api/points",
        route -> {
          if (held.isEmpty()) {
            held.add(route);
          } else {
            route.resume();
          }
        });
    page.navigate(site.address() + "/now?pick=" + slow + "&w=5min&charts=" + one + "&big=" + one);
    page.waitForCondition(() -> !held.isEmpty());
    shelfRow(page, "quick").click();
    assertThat(page).hasURL(Pattern.compile("pick=" + quick));
    Locator card = page.getByRole(AriaRole.ARTICLE).first();
    card.press("Enter");
    assertThat(page).hasURL(Pattern.compile("big="));
    page.keyboard().press("t");
    Locator table =
        page.getByRole(
            AriaRole.TABLE, new Page.GetByRoleOptions().setName(Pattern.compile("point by point")));
    assertThat(table.getByRole(AriaRole.CELL)).not().hasCount(0);
    held.forEach(
        route ->
            json(
                route,
                route
                    .fetch()
                    .text()
                    .replaceAll("\"(mean|min|max)\":\\[[^]]*]", "\"$1\":[987654,987654]")
                    .replaceAll("\"at\":\\[[^]]*]", "\"at\":[1000,2000]")));
    // what is asked now is answered after it
    page.waitForResponse("**/api/points", () -> page.keyboard().press("}"));
    assertThat(table.getByRole(AriaRole.CELL)).not().hasCount(0);
    assertThat(table).not().containsText("987");
  }

  @Test
  void a_recipe_that_comes_too_late_is_not_edited_as_another() {
    Page page = site.page();
    List<Route> held = new ArrayList<>();
    page.route("**/api/recipes/postgresql", held::add);
    page.navigate(site.address() + "/recipes?recipe=postgresql");
    page.waitForCondition(() -> !held.isEmpty());
    Locator all =
        page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("All recipes"));
    all.getByRole(AriaRole.BUTTON).filter(new Locator.FilterOptions().setHasText("JVM, ")).click();
    Locator text = page.getByLabel("Text of the recipe");
    assertThat(text).hasValue(Pattern.compile("kind: jvm"));
    held.forEach(PagesInBrowserTest::tellTooLate);
    // what is asked then is answered after it
    page.getByRole(AriaRole.BANNER)
        .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("Estate"))
        .click();
    assertThat(page).hasURL(Pattern.compile("/estate"));
    page.goBack();
    assertThat(text).hasValue(Pattern.compile("kind: jvm"));
  }

  /**
   * What is asked about the slow one is answered when the quick one is shown already.
   *
   * @param begins what each text that is told begins with: then it says so
   * @param shows what is shown of both
   */
  private static void late(String path, String asked, String begins, String shows) {
    Page page = site.page();
    List<Route> held = new ArrayList<>();
    page.route(asked, held::add);
    page.navigate(site.address() + path);
    page.waitForCondition(() -> !held.isEmpty());
    shelfRow(page, "quick").click();
    Locator main = page.getByRole(AriaRole.MAIN);
    if (path.startsWith("/limits")) {
      // no question of its own: one gets there from Now
      main.getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("limits").setExact(true))
          .click();
    }
    assertThat(main).containsText(shows);
    held.forEach(
        route -> json(route, route.fetch().text().replace(begins, begins + "told too late ")));
    // what is asked now is answered after it
    page.keyboard().press("Escape");
    page.getByRole(AriaRole.BANNER)
        .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("Estate"))
        .click();
    assertThat(page).hasURL(Pattern.compile("/estate"));
    page.goBack();
    assertThat(main).containsText(shows);
    assertThat(main).not().containsText("told too late");
    page.close();
  }

  private static void tellTooLate(Route route) {
    json(route, route.fetch().text());
  }

  @Test
  void what_is_picked_and_when_stay_on_the_way_through_the_pages() {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + quick + "&w=3h");
    for (String name : List.of("Alerts", "Recipes", "End points", "Estate")) {
      page.getByRole(AriaRole.BANNER)
          .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName(name).setExact(true))
          .click();
      assertThat(page).hasURL(stays(name.replace(" ", "").toLowerCase(Locale.ROOT)));
    }
    page.getByRole(AriaRole.MAIN)
        .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("quick").setExact(true))
        .click();
    assertThat(page).hasURL(stays("now"));
    page.keyboard().press("7");
    assertThat(page).hasURL(stays("counters"));
    page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Facts")).click();
    page.getByLabel("Search facts").pressSequentially("max conn");
    assertThat(page).hasURL(Pattern.compile("/facts\\?.*filter=max"));
    // letters are no steps: one back is where it was before
    page.goBack();
    assertThat(page).hasURL(stays("counters"));
    // out of the field: letters are keys again
    page.getByRole(AriaRole.MAIN).getByRole(AriaRole.HEADING).first().click();
    page.keyboard().press("a");
    assertThat(page).hasURL(stays("alerts"));
  }

  private static Pattern stays(String path) {
    return Pattern.compile("/" + path + "\\?pick=" + quick + "&w=3h");
  }

  private static void answer(Route route, String words) {
    json(route, "[{\"name\":\"version\",\"value\":\"" + words + "\",\"from\":1,\"to\":null}]");
  }

  private static void json(Route route, String told) {
    route.fulfill(new Route.FulfillOptions().setContentType("application/json").setBody(told));
  }

  private static Locator region(Page page, String name) {
    return page.getByRole(
        AriaRole.REGION, new Page.GetByRoleOptions().setName(name).setExact(true));
  }

  private static Locator shelfRow(Page page, String name) {
    return page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Shelf"))
        .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name));
  }
}
