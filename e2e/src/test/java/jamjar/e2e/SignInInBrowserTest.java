package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** How people come in and go, let others in, and see who did what. */
class SignInInBrowserTest {
  private static final String SECRET = "ropes and ladders of a grey ferry";
  private static Site site;

  @BeforeAll
  static void start() {
    site = Site.withoutEngine();
  }

  @AfterEach
  void closePages() {
    site.closePages();
  }

  @AfterAll
  static void end() throws Exception {
    site.close();
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }

  private static Locator password(Page page) {
    return page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true));
  }

  private static Locator banner(Page page) {
    return page.getByRole(AriaRole.BANNER);
  }

  @Test
  void who_signs_in_sees_the_page_that_was_asked_for_and_who_signs_out_nothing() {
    // made here, with the password
    site.page();
    Page page = site.strangersPage();
    page.navigate(site.address() + "/limits?words=vacuum");
    assertThat(page.getByRole(AriaRole.HEADING, named("Jam Jar"))).isVisible();
    assertThat(banner(page)).hasCount(0);
    assertThat(Axe.findings(page)).isEmpty();
    page.getByLabel("Name").fill(Site.ADMINISTRATOR);
    password(page).fill("not this one");
    page.getByRole(AriaRole.BUTTON, named("Sign in")).click();
    assertThat(page.getByRole(AriaRole.ALERT)).containsText("do not go together");
    password(page).fill(Site.PASSWORD);
    page.keyboard().press("Enter");
    assertThat(page.getByRole(AriaRole.MAIN)).containsText("2 of ");
    assertThat(page).hasURL(site.address() + "/limits?words=vacuum");

    banner(page).getByTitle("Your account: " + Site.ADMINISTRATOR).click();
    page.getByRole(AriaRole.BUTTON, named("sign out")).click();
    assertThat(page.getByRole(AriaRole.BUTTON, named("Sign in"))).isVisible();
    page.goBack();
    assertThat(page.getByRole(AriaRole.BUTTON, named("Sign in"))).isVisible();
    assertThat(banner(page)).hasCount(0);
  }

  @Test
  void who_administers_lets_another_in_who_then_has_a_password() {
    Page page = site.page();
    page.navigate(site.address() + "/shelf");
    assertThat(page.getByRole(AriaRole.BUTTON, named("Add an instance"))).isVisible();
    page.navigate(site.address() + "/people");
    page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("eskil");
    page.getByLabel("Role of the new account").selectOption("act");
    page.getByRole(AriaRole.BUTTON, named("Add an account")).click();
    Locator told = page.getByRole(AriaRole.STATUS).filter(has("lets eskil in once"));
    assertThat(told).isVisible();
    assertThat(Axe.findings(page)).isEmpty();
    String words = told.innerText();
    String address = words.substring(words.indexOf("http")).split("\\s")[0];

    Page his = site.strangersPage();
    his.navigate(address);
    assertThat(banner(his)).containsText("eskil");
    assertThat(his).hasURL(site.address() + "/shelf");
    his.navigate(site.address() + "/account");
    assertThat(his.getByRole(AriaRole.MAIN)).containsText("with the role act");
    his.getByLabel("From now on").fill("short");
    his.getByRole(AriaRole.BUTTON, named("Change the password")).click();
    assertThat(his.getByRole(AriaRole.ALERT)).containsText("12 to 128 signs");
    his.getByLabel("From now on").fill(SECRET);
    his.getByRole(AriaRole.BUTTON, named("Change the password")).click();
    assertThat(his.getByRole(AriaRole.MAIN)).containsText("Changed.");
    assertThat(Axe.findings(his)).isEmpty();
    // what is not his is not shown to him
    his.navigate(site.address() + "/shelf");
    assertThat(his.getByRole(AriaRole.MAIN)).containsText("Nothing is under watch yet.");
    assertThat(his.getByRole(AriaRole.BUTTON, named("Add an instance"))).hasCount(0);
    his.navigate(site.address() + "/people");
    assertThat(his.getByRole(AriaRole.MAIN)).containsText("the role administer");
    his.navigate(address);
    assertThat(his.getByRole(AriaRole.ALERT)).containsText("has been used");
    his.getByRole(AriaRole.LINK, named("go on as eskil")).click();
    assertThat(banner(his)).containsText("eskil");

    page.navigate(site.address() + "/settings");
    assertThat(page.getByRole(AriaRole.TABLE, named("Listening"))).containsText("127.0.0.1");
    assertThat(Axe.findings(page)).isEmpty();
    page.navigate(site.address() + "/account");
    assertThat(page.getByRole(AriaRole.TABLE, named("Where you are signed in")))
        .containsText("this one");
    page.navigate(site.address() + "/audit");
    page.getByPlaceholder("a name, an address, a kind of thing").fill("eskil account");
    Locator rows = page.getByRole(AriaRole.MAIN).getByRole(AriaRole.ROW);
    assertThat(rows.filter(has("password true"))).hasCount(1);
    assertThat(rows.filter(has("role act"))).hasCount(1);
    assertThat(Axe.findings(page)).isEmpty();
  }

  private static Locator.FilterOptions has(String text) {
    return new Locator.FilterOptions().setHasText(text);
  }

  @Test
  void how_somebody_likes_it_is_so_at_every_browser() throws Exception {
    site.page();
    site.api().send("POST", "/api/accounts", Map.of("name", "jonna", "role", "look", "off", false));
    Page page = site.strangersPage();
    page.navigate(site.address() + site.entry("jonna"));
    assertThat(banner(page)).containsText("jonna");
    page.navigate(site.address() + "/account");
    choose(page, "Colours", "dark");
    assertThat(page.locator("html")).hasAttribute("data-theme", "dark");
    choose(page, "What is shown first", "Alerts");
    Locator zone = page.getByLabel("Times are told in");
    zone.fill("Atlantis/Capital");
    zone.press("Enter");
    assertThat(page.getByRole(AriaRole.ALERT)).containsText("No zone is called that");
    zone.fill("Asia/Tokyo");
    zone.press("Enter");
    assertThat(page.getByRole(AriaRole.ALERT)).hasCount(0);
    page.getByRole(AriaRole.MAIN).getByText("keys act").click();
    assertThat(page.getByRole(AriaRole.CHECKBOX, named("keys act"))).not().isChecked();

    Page other = site.strangersPage();
    other.navigate(site.address() + site.entry("jonna"));
    assertThat(other).hasURL(site.address() + "/alerts");
    assertThat(other.locator("html")).hasAttribute("data-theme", "dark");
    other.keyboard().press("?");
    other.navigate(site.address() + "/account");
    assertThat(other.getByRole(AriaRole.CHECKBOX, named("keys act"))).not().isChecked();
    assertThat(other.getByLabel("Times are told in")).hasValue("Asia/Tokyo");
    assertThat(other.getByRole(AriaRole.DIALOG)).hasCount(0);
  }

  private static void choose(Page page, String what, String value) {
    page.getByRole(AriaRole.COMBOBOX, named(what)).press("Enter");
    page.getByRole(AriaRole.OPTION, named(value)).click();
  }

  @Test
  void who_was_signed_out_meanwhile_finds_what_was_entered() throws Exception {
    Page page = site.page();
    site.api()
        .send("POST", "/api/accounts", Map.of("name", "ingrid", "role", "shape", "off", false));
    Page hers = site.strangersPage();
    hers.navigate(site.address() + site.entry("ingrid"));
    assertThat(banner(hers)).containsText("ingrid");
    hers.navigate(site.address() + "/account");
    hers.getByLabel("From now on").fill(SECRET);
    hers.getByRole(AriaRole.BUTTON, named("Change the password")).click();
    assertThat(hers.getByRole(AriaRole.MAIN)).containsText("Changed.");
    hers.navigate(site.address() + "/limits");
    Locator filter = hers.getByPlaceholder("a counter, a group, an instance");
    filter.fill("vacuum");

    page.navigate(site.address() + "/people");
    page.getByRole(AriaRole.ROW, new Page.GetByRoleOptions().setName("ingrid"))
        .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("sign out everywhere"))
        .click();
    assertThat(hers.getByRole(AriaRole.BUTTON, named("Sign in"))).isVisible();
    assertThat(hers.getByText("What you had on the screen")).isVisible();
    password(hers).fill(SECRET);
    hers.getByRole(AriaRole.BUTTON, named("Sign in")).click();
    assertThat(hers.getByRole(AriaRole.BUTTON, named("Sign in"))).hasCount(0);
    assertThat(filter).hasValue("vacuum");
  }

  @Test
  void who_has_a_scope_sees_nothing_else() throws Exception {
    Page page = site.page();
    site.api()
        .send("POST", "/api/accounts", Map.of("name", "torvald", "role", "look", "off", false));
    int inner = nowhere("inner-db", "Inner");
    int outer = nowhere("outer-db", "Outer");
    page.navigate(site.address() + "/people");
    page.getByRole(AriaRole.COMBOBOX, named("Scope of torvald")).click();
    page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("site Inner")).click();
    assertThat(row(page, "torvald")).containsText("site Inner");
    Page his = site.strangersPage();
    his.navigate(site.address() + site.entry("torvald"));
    assertThat(banner(his)).containsText("torvald");
    his.navigate(site.address() + "/shelf");
    assertThat(his.getByRole(AriaRole.MAIN)).containsText("inner-db");
    assertThat(his.getByText("outer-db")).hasCount(0);
    his.navigate(site.address() + "/account");
    assertThat(his.getByRole(AriaRole.MAIN)).containsText("of site Inner");
    his.navigate(site.address() + "/estate");
    assertThat(his.getByRole(AriaRole.MAIN)).containsText("inner-db");
    assertThat(his.getByText("the store")).hasCount(0);
    site.api().send("DELETE", "/api/instances/" + outer, null);
    site.api().send("DELETE", "/api/instances/" + inner, null);
    // nothing is left in it
    assertThat(his.getByText("inner-db")).hasCount(0);
  }

  /** An instance that does not answer. */
  private static int nowhere(String name, String site) throws Exception {
    Map<String, Object> body = new HashMap<>();
    body.put("name", name);
    body.put("kind", "postgresql");
    body.put("group", "");
    body.put("site", site);
    body.put("machine", "");
    body.put("tags", List.of());
    body.put(
        "endpoint",
        Map.of("host", "127.0.0.1", "port", 1, "database", "postgres", "tls", "off", "ca", ""));
    body.put("credential", Map.of("user", "nobody", "secret", "nothing"));
    body.put("recipe", "postgresql");
    body.put("interval", 10);
    body.put("zone", "Europe/Oslo");
    return SignInInBrowserTest.site
        .api()
        .send("POST", "/api/instances?insist=true", body)
        .get("id")
        .asInt();
  }

  private static Locator row(Page page, String name) {
    return page.getByRole(AriaRole.ROW, new Page.GetByRoleOptions().setName(name));
  }

  @Test
  void a_name_with_a_script_in_it_is_a_name() throws Exception {
    String evil = "<img src=x onerror=\"document.title='taken'\">";
    Map<String, Object> group = new HashMap<>();
    group.put("name", evil);
    group.put("site", evil);
    group.put("expected", 3);
    site.api().answer("PUT", "/api/groups", group, Map.of());
    long now = System.currentTimeMillis();
    Map<String, Object> marker = new HashMap<>();
    marker.put("kind", "release");
    marker.put("title", evil);
    marker.put("note", evil);
    marker.put("from", now - 60_000);
    marker.put("reach", Map.of("level", "all", "of", ""));
    JsonNode made = site.api().send("POST", "/api/markers", marker);
    assertThat(made.get("title").asString()).isEqualTo(evil);
    Page page = site.page();
    for (String path : new String[] {"/shelf", "/estate", "/audit", "/moved", "/alerts"}) {
      page.navigate(site.address() + path);
      assertThat(page.getByRole(AriaRole.MAIN).getByRole(AriaRole.HEADING).first()).isVisible();
      assertThat(page.locator("img[src=x]")).hasCount(0);
      assertThat(page.title()).doesNotContain("taken");
    }
    page.navigate(site.address() + "/audit");
    assertThat(page.getByText(evil).first()).isVisible();
  }
}
