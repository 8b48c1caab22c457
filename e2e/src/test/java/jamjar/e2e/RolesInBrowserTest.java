package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What a role may not is not offered to it: each sees the buttons of its own. */
@SharedSite(second = true)
class RolesInBrowserTest {
  private static final List<String> ROLES = List.of("look", "act", "shape", "administer");
  private static Site site;
  private static int engine;
  private static long alert;

  /**
   * Something that changes something.
   *
   * @param least the role from which on it is there
   */
  private record Control(String least, String path, AriaRole role, String name) {
    Locator on(Page page) {
      return page.getByRole(role, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    boolean isFor(String who) {
      return ROLES.indexOf(who) >= ROLES.indexOf(least);
    }
  }

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    engine = site.addEngine("booking-db-a", 1);
    Map<String, Object> limit = new HashMap<>();
    limit.put("counter", "sessions.workers");
    limit.put("labels", Map.of());
    limit.put("scope", Map.of("level", "instance", "of", Integer.toString(engine)));
    limit.put("condition", "above");
    limit.put("warning", 0);
    limit.put("hold", Map.of("m", 1, "n", 1));
    limit.put("clear", Map.of());
    limit.put("offReason", "");
    site.api().send("POST", "/api/limits", limit);
    Await.until("it is told", Duration.ofSeconds(60), () -> told() > 0);
    alert = told();
  }

  private static long told() throws Exception {
    for (JsonNode one : site.api().get("/api/alerts")) {
      if (one.get("instance").asInt() == engine
          && one.get("counter").asString().equals("sessions.workers")) {
        return one.get("id").asLong();
      }
    }
    return 0;
  }

  private static List<Control> controls() {
    AriaRole button = AriaRole.BUTTON;
    return List.of(
        new Control("act", "/alerts?id=" + alert, button, "Acknowledge"),
        new Control("act", "/alerts?id=" + alert, button, "Comment"),
        new Control("act", "/alerts?id=" + alert, button, "mark as incident"),
        new Control("act", "/alerts?id=" + alert, AriaRole.COMBOBOX, "Looked after by"),
        new Control("act", "/shelf", button, "mark"),
        new Control("shape", "/shelf", button, "add an instance"),
        new Control("shape", "/now?pick=" + engine, button, "change …"),
        new Control("shape", "/baseline?pick=" + engine, button, "freeze as …"),
        new Control("shape", "/baseline?pick=" + engine, button, "learn again"),
        new Control("shape", "/estate?part=file", button, "Try it without changing anything"),
        new Control("shape", "/estate?part=groups", button, "Add a group"),
        new Control("administer", "/people", button, "Add an account"),
        new Control("administer", "/people", button, "Make a token"));
  }

  @Test
  void each_role_is_offered_what_it_may_and_no_more() {
    List<String> wrong = new ArrayList<>();
    for (String who : ROLES) {
      Page page = who.equals("administer") ? site.page() : site.pageAs(who);
      String at = "";
      for (Control control : controls()) {
        if (!control.path().equals(at)) {
          at = control.path();
          page.navigate(site.address() + at);
          assertThat(page.getByRole(AriaRole.MAIN)).not().containsText("Fetching");
          assertThat(page.getByRole(AriaRole.MAIN).getByRole(AriaRole.HEADING).first()).isVisible();
        }
        if (control.isFor(who)) {
          assertThat(control.on(page).first()).isVisible();
        } else if (control.on(page).first().isVisible()) {
          wrong.add(who + " " + control);
        }
      }
    }
    assertThat(wrong).isEmpty();
  }

  @Test
  void who_may_only_look_finds_what_is_set_and_cannot_set_it() {
    Page page = site.pageAs("look");
    page.navigate(site.address() + "/estate?part=store");
    Locator days = page.getByLabel("days as it was read").first();
    assertThat(days).isDisabled();
    assertThat(Axe.findings(page)).isEmpty();
    page.navigate(site.address() + "/people");
    assertThat(page.getByRole(AriaRole.MAIN)).containsText("the role administer");
    page.navigate(site.address() + "/audit");
    assertThat(page.getByRole(AriaRole.MAIN)).containsText("administer");
    assertThat(page.getByRole(AriaRole.MAIN).getByRole(AriaRole.ROW)).hasCount(0);
    // nor by its key
    page.navigate(site.address() + "/now?pick=" + engine);
    assertThat(page.getByTestId("value").first()).isVisible();
    page.keyboard().press("m");
    assertThat(page.getByRole(AriaRole.DIALOG)).hasCount(0);
  }
}
