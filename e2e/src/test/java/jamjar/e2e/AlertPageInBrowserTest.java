package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * What a person does with an alert, here with one of Jam Jar's own counters; a limit on what did
 * not happen, and maintenance that comes again.
 */
class AlertPageInBrowserTest {
  private static final String READINGS = "watch.readings";
  private static final Duration RISES = Duration.ofSeconds(90);
  private static Site site;
  private static int own;

  @BeforeAll
  static void start() throws Exception {
    site = Site.withoutEngine();
    own = site.api().get("/api/instances").get(0).get("id").asInt();
  }

  @AfterAll
  static void end() throws Exception {
    site.close();
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }

  private static Locator.GetByRoleOptions within(String name) {
    return new Locator.GetByRoleOptions().setName(name).setExact(true);
  }

  private static JsonNode risen() throws Exception {
    Map<String, Object> limit = new HashMap<>();
    limit.put("counter", READINGS);
    limit.put("labels", Map.of());
    limit.put("scope", Map.of("level", "instance", "of", "" + own));
    limit.put("condition", "above");
    limit.put("warning", 0.001);
    limit.put("hold", Map.of("m", 1, "n", 1));
    limit.put("clear", Map.of());
    limit.put("on", true);
    limit.put("offReason", "");
    site.api().send("POST", "/api/limits", limit);
    JsonNode[] found = {null};
    Await.until(
        "an alert",
        RISES,
        () -> {
          for (JsonNode alert : site.api().get("/api/alerts")) {
            found[0] = alert.get("counter").asString().equals(READINGS) ? alert : found[0];
          }
          return found[0] != null;
        });
    return found[0];
  }

  @Test
  void who_knows_of_it_makes_it_step_back_and_writes_down_what_to_do() throws Exception {
    JsonNode alert = risen();
    Page page = site.page();
    page.navigate(site.address() + "/alerts?id=" + alert.get("id").asInt());
    Locator detail = page.getByRole(AriaRole.REGION, named("Alert"));
    assertThat(detail).containsText("The first of it in six weeks.");
    assertThat(detail).containsText("What else moved");

    detail.getByRole(AriaRole.BUTTON, within("write it down")).click();
    detail
        .getByLabel("What to do", new Locator.GetByLabelOptions().setExact(true))
        .fill("nothing, see http://docs.invalid/readings");
    detail.getByRole(AriaRole.BUTTON, within("Save")).click();
    assertThat(detail.getByRole(AriaRole.LINK, within("http://docs.invalid/readings"))).isVisible();
    assertThat(detail).containsText("for this limit");

    detail.getByRole(AriaRole.BUTTON, within("mark as incident")).click();
    assertThat(detail.getByRole(AriaRole.BUTTON, within("mark as incident"))).hasCount(0);
    List<String> kinds =
        site.api()
            .get("/api/markers?from=0&to=4102444800000")
            .valueStream()
            .map(marker -> marker.get("kind").asString())
            .toList();
    assertThat(kinds).contains("incident");

    Locator head = page.getByRole(AriaRole.BANNER);
    detail.getByRole(AriaRole.BUTTON, within("Acknowledge")).click();
    assertThat(detail.getByLabel("Note")).isVisible();
    assertThat(Axe.findings(page)).isEmpty();
    detail.getByLabel("Note").fill("as wanted");
    detail.getByLabel("For how long it steps back").selectOption("1");
    detail.getByRole(AriaRole.BUTTON, within("Acknowledge with this note")).click();
    assertThat(detail)
        .containsText(Pattern.compile("known until .* or until it gets worse: as wanted"));
    assertThat(head.getByTitle(Pattern.compile("1 warning"))).hasCount(0);
    Locator listed =
        page.getByRole(AriaRole.REGION, named("Alerts"))
            .getByRole(
                AriaRole.BUTTON,
                new Locator.GetByRoleOptions().setName(Pattern.compile("Readings kept")));
    assertThat(listed).containsText("known until");
  }

  @Test
  void a_limit_on_what_is_to_happen_each_day_says_by_when() throws Exception {
    Page page = site.page();
    page.navigate(
        site.address()
            + "/now?pick="
            + own
            + "&charts="
            + READINGS
            + "&big="
            + READINGS
            + "&edit=limit");
    page.getByRole(AriaRole.COMBOBOX, named("Watches for")).press("Enter");
    page.getByRole(AriaRole.OPTION, named("did not happen")).click();
    page.getByLabel("Warning", new Page.GetByLabelOptions().setExact(true)).fill("30.5");
    assertThat(page.getByRole(AriaRole.BUTTON, named("Save the limit"))).isDisabled();
    page.getByLabel("Due each day by").fill("02:10");
    page.getByRole(AriaRole.BUTTON, named("Save the limit")).click();
    assertThat(page.getByText("Saved. It judges from now on.")).isVisible();

    page.navigate(site.address() + "/limits?pick=" + own);
    Locator main = page.getByRole(AriaRole.MAIN);
    assertThat(main).containsText("did not happen by 02:10");
    assertThat(main).containsText("30.5 min late");
    page.navigate(site.address() + "/limits?words=overdue");
    assertThat(main).containsText("did not happen by 02:10");
  }

  @Test
  void several_limits_are_changed_at_once_seen_before_and_put_back() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/limits?words=vacuum");
    page.getByLabel("Tick all that are shown").check();
    page.getByRole(AriaRole.BUTTON, named("Change 2 …")).click();
    Locator many =
        page.getByRole(
            AriaRole.REGION, new Page.GetByRoleOptions().setName("Change several limits"));
    many.getByLabel("◣ Warning: what is done with it").selectOption("times");
    many.getByLabel("◣ Warning: times").fill("0.5");
    many.getByLabel("◣ Warning: times").press("Tab");
    Locator preview =
        page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("What becomes of each"));
    assertThat(preview.getByText(Pattern.compile("500.*→ 250"))).hasCount(2);
    // a warning that critical would be passed before is told before it is saved
    many.getByLabel("◣ Warning: times").fill("9");
    many.getByLabel("◣ Warning: times").press("Tab");
    assertThat(many.getByRole(AriaRole.ALERT)).containsText("critical would be passed before");
    assertThat(many.getByRole(AriaRole.BUTTON, inIt("Change 2 limits"))).isDisabled();
    many.getByLabel("◣ Warning: times").fill("0.5");
    many.getByLabel("◣ Warning: times").press("Tab");
    many.getByRole(AriaRole.BUTTON, inIt("Try them on the past four weeks")).click();
    assertThat(many.getByText("not tried")).hasCount(2);
    assertThat(Axe.findings(page)).isEmpty();

    many.getByRole(AriaRole.BUTTON, inIt("Change 2 limits")).click();
    assertThat(many.getByRole(AriaRole.STATUS)).containsText("2 limits changed");
    assertThat(warningOf("vacuum.age")).isEqualTo(250e6);
    many.getByRole(AriaRole.BUTTON, inIt("Undo")).click();
    assertThat(many).hasCount(0);
    assertThat(warningOf("vacuum.age")).isEqualTo(500e6);
  }

  private static Locator.GetByRoleOptions inIt(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }

  private static double warningOf(String counter) throws Exception {
    return site.api()
        .get("/api/limits")
        .valueStream()
        .filter(one -> one.get("counter").asString().equals(counter))
        .findFirst()
        .orElseThrow()
        .get("warning")
        .asDouble();
  }

  @Test
  void maintenance_comes_again_each_day_and_a_script_has_its_line() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/shelf");
    assertThat(page.getByRole(AriaRole.HEADING).first()).isVisible();
    page.keyboard().press("m");
    Locator form = page.getByRole(AriaRole.DIALOG);
    page.getByRole(AriaRole.COMBOBOX, named("Kind")).press("Enter");
    page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("▭ maintenance")).click();
    form.getByLabel("Title").fill("nightly backup");
    form.getByText("for a script that deploys").click();
    assertThat(form).containsText("/api/markers -H 'Content-Type: application/json'");
    assertThat(form).containsText("Authorization: Bearer $JAMJAR_TOKEN");
    form.getByLabel("From").fill("2026-11-01T03:30");
    form.getByLabel("Until", new Locator.GetByLabelOptions().setExact(true))
        .fill("2026-11-01T04:00");
    form.getByLabel("Comes again").selectOption("day");
    page.getByRole(AriaRole.BUTTON, named("Set the marker")).click();
    assertThat(form).hasCount(0);
    JsonNode marker =
        site.api()
            .get("/api/markers?from=1793500000000&to=1793700000000")
            .valueStream()
            .filter(one -> one.get("title").asString().equals("nightly backup"))
            .findFirst()
            .orElseThrow();
    assertThat(marker.get("repeats").asString()).isEqualTo("day");
    assertThat(marker.get("zone").asString()).isNotEmpty();
  }
}
