package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What was asked of one instance and is answered late never stands under another one's name. */
@SharedSite
class LateAnswerInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
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

  private static void answer(Route route, String words) {
    route.fulfill(
        new Route.FulfillOptions()
            .setContentType("application/json")
            .setBody(
                "[{\"name\":\"version\",\"value\":\"" + words + "\",\"from\":1,\"to\":null}]"));
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
