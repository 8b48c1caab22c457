package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What a person does with the first screens, on a real engine. */
@SharedSite(second = true)
class DemoInBrowserTest {
  private static Site site;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
  }

  @Test
  void an_engine_is_added_by_the_form_and_its_chart_moves() {
    Page page = site.page();
    page.navigate(site.address() + "/");
    page.getByRole(AriaRole.BUTTON, button("Add an instance")).click();
    page.getByLabel("Host").fill("127.0.0.1");
    page.getByLabel("Port").fill(Integer.toString(site.enginePort()));
    page.getByLabel("Database").fill("bookings");
    page.getByText("off", new Page.GetByTextOptions().setExact(true)).click();
    page.getByLabel("User").fill("jamjar_reader");
    page.getByLabel("Password").fill("wrong");
    page.getByLabel("Name").fill("booking-db-a");
    page.getByLabel("Site").fill("Northquay");
    page.getByLabel("Every").fill("1");
    page.getByRole(AriaRole.BUTTON, button("Check and add")).click();
    assertThat(page.getByRole(AriaRole.LIST, named("Checks"))).containsText("sign-in refused");
    assertThat(page.getByRole(AriaRole.BUTTON, button("Save all the same"))).isVisible();

    page.getByLabel("Password").fill(site.readerPassword());
    page.getByRole(AriaRole.BUTTON, button("Check and add")).click();

    assertThat(page.getByRole(AriaRole.HEADING, named("booking-db-a"))).isVisible();
    Locator commits = card(page, "Transactions committed");
    assertThat(commits).containsText(Pattern.compile("[1-9][0-9.]* /s"));
    assertThat(page.getByRole(AriaRole.BANNER))
        .containsText(Pattern.compile("1 of 1 read, [0-9] s ago"));
    assertThat(page.url()).contains("/now?pick=");
    // nothing scrolls sideways
    assertThat((Integer) page.evaluate("document.documentElement.scrollWidth")).isEqualTo(1280);
  }

  private static Locator card(Page page, String title) {
    return page.getByRole(AriaRole.ARTICLE, named(title)).first();
  }

  private static Page.GetByRoleOptions button(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }
}
