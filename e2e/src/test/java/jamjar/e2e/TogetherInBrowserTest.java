package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Several lines in one chart, what a pinned moment leads to, and that nothing typed is lost. */
@SharedSite
class TogetherInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(90);
  private static final String COMMITTED = "Transactions committed";
  private static Site site;
  private static int first;
  private static int second;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    first = site.addEngine("booking-db-a", 1);
    second = site.addEngine("booking-db-b", 1);
    for (int instance : new int[] {first, second}) {
      Await.until(
          "commits are read",
          SOON,
          () -> site.api().value(instance, "transactions.committed") != null);
    }
  }

  @Test
  void two_instances_lie_over_each_other_and_a_colleague_sees_the_same() {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + first + "," + second);
    Locator cards = card(page, COMMITTED);
    assertThat(cards).hasCount(2);
    button(page, "in one chart").click();
    assertThat(cards).hasCount(1);
    assertThat(cards.getByRole(AriaRole.LISTITEM))
        .hasText(
            new Pattern[] {
              Pattern.compile("booking-db-a [0-9.]+ /s"), Pattern.compile("booking-db-b [0-9.]+ /s")
            });
    button(page, "as share of normal").click();
    assertThat(cards).containsText(Pattern.compile("booking-db-a ([0-9.]+ ×|◌ no normal)"));

    Page theirs = site.page();
    theirs.navigate(page.url());
    assertThat(card(theirs, COMMITTED)).hasCount(1);
    assertThat(button(theirs, "as numbers")).isVisible();
    button(theirs, "side by side").click();
    assertThat(card(theirs, COMMITTED)).hasCount(2);
  }

  @Test
  void counters_that_are_read_together_share_a_chart() {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + first);
    button(page, "arrange").click();
    page.getByRole(AriaRole.TOOLBAR, new Page.GetByRoleOptions().setName("Arrange " + COMMITTED))
        .getByText("with …")
        .click();
    page.getByLabel("Search counters").fill("rolled back");
    page.getByLabel("Search counters").press("Enter");
    assertThat(card(page, COMMITTED).getByRole(AriaRole.LISTITEM))
        .hasText(
            new Pattern[] {
              Pattern.compile(COMMITTED + " [0-9.]+ /s"),
              Pattern.compile("Transactions rolled back [0-9.]+ /s")
            });
    page.reload();
    assertThat(card(page, COMMITTED)).containsText("Transactions rolled back");
  }

  @Test
  void a_pinned_moment_leads_to_a_limit_at_what_it_was_and_typing_is_not_lost() throws Exception {
    site.awaitRead(first, "transactions.committed", 20);
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + first + "&w=20s");
    assertThat(card(page, COMMITTED).getByTestId("value"))
        .containsText(Pattern.compile("[1-9][0-9.]* /s"));
    page.waitForFunction("() => !document.body.innerText.includes('Fetching the chart')");
    Locator chart = card(page, COMMITTED).locator("canvas").first();
    chart.click(new Locator.ClickOptions().setPosition(0.7 * chart.boundingBox().width, 40));
    assertThat(page.getByText("pinned")).isVisible();
    page.getByText("limit here").click();
    Locator warning = page.getByLabel("Warning").first();
    assertThat(warning).not().hasValue("");
    String then = warning.inputValue();
    assertThat(Double.parseDouble(then)).isPositive();

    warning.fill("123");
    warning.press("Tab");
    page.goBack();
    Locator asking = page.getByRole(AriaRole.DIALOG).filter(saying("has not been saved"));
    assertThat(asking).isVisible();
    asking.getByText("Go on typing").click();
    assertThat(asking).isHidden();
    assertThat(warning).hasValue("123");
    page.goBack();
    asking.getByText("Leave without saving").click();
    assertThat(warning).isHidden();
  }

  @Test
  void the_rail_goes_back_to_the_first_that_is_kept() {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + first);
    Locator all = button(page, "all");
    all.click();
    // what is kept is younger than six weeks: these stay the least
    assertThat(button(page, "six weeks")).hasAttribute("aria-pressed", "true");
    button(page, "six weeks").click();
    assertThat(all).hasAttribute("aria-pressed", "false");
  }

  @Test
  void a_generated_password_stands_in_the_commands() {
    Page page = site.page();
    page.navigate(site.address() + "/shelf");
    page.getByText("add an instance").click();
    Locator form = page.getByRole(AriaRole.DIALOG);
    form.getByText("generate one").click();
    String secret = form.getByLabel("Password").inputValue();
    assertThat(secret).hasSizeGreaterThan(19);
    assertThat(form.locator("pre").first()).containsText(secret);
    page.keyboard().press("Escape");
    assertThat(page.getByText("has not been saved")).isVisible();
    page.getByText("Leave without saving").click();
    assertThat(form).isHidden();
  }

  private static Locator.FilterOptions saying(String words) {
    return new Locator.FilterOptions().setHasText(words);
  }

  private static Locator card(Page page, String title) {
    return page.locator("main")
        .getByRole(AriaRole.ARTICLE, new Locator.GetByRoleOptions().setName(title));
  }

  private static Locator button(Page page, String name) {
    return page.getByRole(
        AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
  }
}
