package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.BoundingBox;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** An alert at night: by keyboard alone, and on the telephone. */
@SharedSite
class NightInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final String WAITERS = "sessions.waiting_lock";
  private static final int MOST_TABS = 200;
  private static Site site;
  private static int instance;
  private static int alert;
  private static Connection holder;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("night-db", 1);
    Await.until("read", SOON, () -> site.api().value(instance, WAITERS) != null);
    site.api().send("POST", "/api/limits", limit());
    holder = site.folder().connect("fare-reload");
    holder.setAutoCommit(false);
    try (Statement statement = holder.createStatement()) {
      statement.execute("lock table sailing in access exclusive mode");
    }
    Await.until("it is critical", SOON, NightInBrowserTest::isCritical);
  }

  @AfterAll
  static void stop() throws Exception {
    holder.close();
  }

  private static boolean isCritical() throws Exception {
    for (JsonNode one : site.api().get("/api/alerts?state=open")) {
      if (one.get("counter").asString().equals(WAITERS)
          && one.get("state").asString().equals("critical")) {
        alert = one.get("id").asInt();
        return true;
      }
    }
    return false;
  }

  private static Map<String, Object> limit() {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", WAITERS);
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", "instance", "of", Integer.toString(instance)));
    body.put("condition", "above");
    body.put("warning", null);
    body.put("critical", 1);
    body.put("hold", Map.of("m", 1, "n", 1));
    body.put("criticalHold", null);
    Map<String, Object> clear = new HashMap<>();
    clear.put("number", null);
    clear.put("seconds", null);
    body.put("clear", clear);
    body.put("criticalClear", null);
    body.put("on", true);
    body.put("offReason", "");
    body.put("offUntil", null);
    return body;
  }

  @Test
  void from_the_head_to_the_charts_a_limit_and_an_acknowledgement_without_a_mouse()
      throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/shelf");
    Locator head = page.getByRole(AriaRole.BANNER);
    Locator worst =
        head.getByRole(
            AriaRole.LINK,
            new Locator.GetByRoleOptions().setName(Pattern.compile("night-db: sessions waiting")));
    assertThat(worst).containsText(Pattern.compile("normal|limit 1"));
    tabTo(page, worst);
    page.keyboard().press("Enter");

    Locator detail =
        page.getByRole(
            AriaRole.REGION, new Page.GetByRoleOptions().setName("Alert").setExact(true));
    assertThat(detail).containsText("not acknowledged");
    tabTo(page, button(detail, "Acknowledge"));
    page.keyboard().press("Enter");
    tabTo(page, detail.getByLabel("Note"));
    page.keyboard().type("the fare reload holds it");
    tabTo(page, button(detail, "Acknowledge with this note"));
    page.keyboard().press("Enter");
    assertThat(detail).containsText("acknowledged: the fare reload holds it");

    tabTo(
        page,
        detail.getByRole(
            AriaRole.LINK, new Locator.GetByRoleOptions().setName("the charts of that time")));
    page.keyboard().press("Enter");
    Locator card =
        page.getByRole(
                AriaRole.ARTICLE,
                new Page.GetByRoleOptions().setName("Sessions waiting for a lock"))
            .first();
    assertThat(card.getByTestId("value")).containsText("◆");
    tabTo(page, card);
    tabTo(page, button(card, "limit"));
    page.keyboard().press("Enter");
    Locator critical = page.getByLabel("Critical", new Page.GetByLabelOptions().setExact(true));
    assertThat(critical).hasValue("1");
    tabTo(page, critical);
    page.keyboard().press("Control+a");
    page.keyboard().type("2");
    page.keyboard().press("Enter");
    tabTo(page, button(page.getByRole(AriaRole.MAIN), "Save the limit"));
    page.keyboard().press("Enter");
    assertThat(page.getByText("Saved. It judges from now on.")).isVisible();
  }

  @Test
  void the_alert_fits_a_telephone_and_a_thumb() {
    Page page =
        site.page(
            new Browser.NewContextOptions()
                .setViewportSize(390, 844)
                .setIsMobile(true)
                .setHasTouch(true));
    page.navigate(site.address() + "/alerts?id=" + alert);
    assertThat(
            page.getByText(Pattern.compile("^Sessions waiting for a lock of night-db is .*since")))
        .isVisible();
    assertThat(page.locator(".band-chart canvas")).isVisible();
    Locator act =
        page.getByRole(
                AriaRole.BUTTON,
                new Page.GetByRoleOptions().setName(Pattern.compile("^(Acknowledge|Comment)$")))
            .first();
    act.scrollIntoViewIfNeeded();
    BoundingBox box = act.boundingBox();
    assertThat(box.height).isGreaterThanOrEqualTo(40);
    assertThat(box.x + box.width).isLessThanOrEqualTo(390);
    assertThat(((Number) page.evaluate("document.documentElement.scrollWidth")).intValue())
        .isLessThanOrEqualTo(390);
    act.tap();
    assertThat(page.getByRole(AriaRole.TEXTBOX).last()).isVisible();
  }

  private static Locator button(Locator within, String name) {
    return within.getByRole(
        AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name).setExact(true));
  }

  /** Goes on with the tabulator until it has the focus. */
  private static void tabTo(Page page, Locator wanted) {
    assertThat(wanted).isAttached();
    for (int i = 0; i < MOST_TABS; i++) {
      if ((boolean) wanted.evaluate("e => e === document.activeElement")) {
        return;
      }
      page.keyboard().press("Tab");
    }
    throw new AssertionError("not reached by the tabulator: " + wanted);
  }
}
