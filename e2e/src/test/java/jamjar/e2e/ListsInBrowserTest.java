package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Lists of thousands of rows, and lists that are read while they change. */
@SharedSite(second = true)
class ListsInBrowserTest {
  private static final int MANY = 5_000;
  private static final int AT_MOST = 80;

  private static Site site;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    site.addEngine("alpha", 1);
    site.addEngine("beta", 1);
    Await.until(
        "both are read",
        Duration.ofSeconds(60),
        () -> site.api().get("/api/health").get("reading").asInt() >= 2);
  }

  @Test
  void of_five_thousand_facts_only_those_in_view_stand_in_the_page() throws Exception {
    // under the facts of an engine stands what went wrong in its log, which may be much
    int itself = site.itself();
    Page page = site.page();
    page.route(
        "**/api/instances/" + itself + "/facts",
        route ->
            json(
                route,
                IntStream.range(0, MANY)
                    .mapToObj(
                        n ->
                            "{\"name\":\"settings/fact_%04d\",\"value\":\"told\",\"from\":1,\"to\":null}"
                                .formatted(n))
                    .collect(Collectors.joining(",", "[", "]"))));
    page.navigate(site.address() + "/facts?pick=" + itself);
    Locator main = page.getByRole(AriaRole.MAIN);
    Locator rows = main.getByRole(AriaRole.ROW);
    assertThat(main).containsText("fact_0000");
    assertThat(rows.count()).isBetween(10, AT_MOST);
    // to its end by one key, past rows of which nobody knows yet how high they are
    Locator last = main.getByText("fact_4999");
    main.getByText("fact_0000").click();
    page.keyboard().press("End");
    assertThat(last).isInViewport();
    assertThat(rows.count()).isLessThanOrEqualTo(AT_MOST);
    page.getByLabel("Search facts").fill("fact_0007");
    assertThat(main).containsText("1 fact");
    assertThat(main.getByText("fact_0007")).isVisible();
  }

  @Test
  void of_five_thousand_alerts_the_picked_one_stays_in_view() {
    Page page = site.page();
    page.route("**/api/alerts?state=all&*", route -> json(route, Alerts.many(MANY, "Numbered")));
    page.navigate(site.address() + "/alerts?state=all&by=time&id=4000");
    Locator main = page.getByRole(AriaRole.MAIN);
    Locator picked = main.getByRole(AriaRole.BUTTON, name(Pattern.compile("Numbered 4000\\b")));
    assertThat(picked).isInViewport();
    assertThat(main.getByRole(AriaRole.BUTTON, name(Pattern.compile("Numbered \\d+"))).count())
        .isLessThanOrEqualTo(AT_MOST);
    // arrows are those of the list once it has the focus
    picked.click();
    page.keyboard().press("ArrowDown");
    // the newest stand on top
    assertThat(page).hasURL(Pattern.compile("id=3999"));
    assertThat(main.getByRole(AriaRole.BUTTON, name(Pattern.compile("Numbered 3999\\b"))))
        .isInViewport();
  }

  @Test
  void a_list_is_sorted_by_the_keyboard_alone() {
    Page page = site.page();
    page.navigate(site.address() + "/endpoints");
    Locator main = page.getByRole(AriaRole.MAIN);
    Locator head = main.getByRole(AriaRole.BUTTON, name(Pattern.compile("^Instance$")));
    Locator names = main.getByRole(AriaRole.ROWHEADER);
    head.focus();
    page.keyboard().press("Enter");
    assertThat(page).hasURL(Pattern.compile("sort=name"));
    assertThat(names.first()).containsText("alpha");
    page.keyboard().press("Enter");
    assertThat(page).hasURL(Pattern.compile("sort=-name"));
    assertThat(names.first()).not().containsText("alpha");
    assertThat(names.last()).containsText("alpha");
    assertThat(main.getByRole(AriaRole.COLUMNHEADER).first())
        .hasAttribute("aria-sort", "descending");
  }

  @Test
  void what_is_new_waits_while_a_list_is_read() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/estate");
    Locator list = page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Instances"));
    list.hover();
    site.addEngine("zebra", 1);
    Locator newer = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("1 newer"));
    assertThat(newer).isVisible();
    assertThat(list).not().containsText("zebra");
    newer.click();
    assertThat(list).containsText("zebra");
  }

  private static Locator.GetByRoleOptions name(Pattern pattern) {
    return new Locator.GetByRoleOptions().setName(pattern);
  }

  private static void json(Route route, String told) {
    route.fulfill(new Route.FulfillOptions().setContentType("application/json").setBody(told));
  }
}
