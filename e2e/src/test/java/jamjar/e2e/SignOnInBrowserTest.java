package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.company.CompanySignOn;
import jamjar.standins.company.CompanySignOn.Person;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.sql.Connection;
import java.sql.ResultSet;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** People of a company come in by its own sign-on, and may what their groups may. */
class SignOnInBrowserTest {
  private static final String SECRET = "planted-client-secret";
  private static final String PASSWORD = "planted-company-password";
  private static CompanySignOn company;
  private static Site site;

  @BeforeAll
  static void start() throws Exception {
    company =
        new CompanySignOn(
            0,
            "jamjar",
            SECRET,
            List.of(
                new Person("hedvig", PASSWORD, List.of("dba", "everybody", "southmole")),
                new Person("solveig", PASSWORD, List.of("dba")),
                new Person("olaf", PASSWORD, List.of("stewards"))));
    site =
        Site.withoutEngine(
            "--jamjar.sign-on.issuer=" + company.issuer(),
            "--jamjar.sign-on.secret=" + SECRET,
            "--jamjar.sign-on.name=Skerry Line");
    company.sendsBackTo(site.address() + "/signed-on");
  }

  @AfterEach
  void closePages() {
    site.closePages();
  }

  @AfterAll
  static void end() throws Exception {
    site.close();
    company.close();
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }

  private static Locator banner(Page page) {
    return page.getByRole(AriaRole.BANNER);
  }

  private static void right(String group, String role, List<String> scope) throws Exception {
    site.api()
        .send("PUT", "/api/sign-on/groups", Map.of("name", group, "role", role, "scope", scope));
  }

  /** From the entry of Jam Jar to where the company asks who it is. */
  private static Page known(String name, String path) {
    Page page = site.strangersPage();
    page.navigate(site.address() + path);
    page.getByRole(AriaRole.BUTTON, named("Sign in by Skerry Line")).click();
    page.getByLabel("Username").fill(name);
    page.getByLabel("Password").fill(PASSWORD);
    page.getByRole(AriaRole.BUTTON, named("Sign in")).click();
    return page;
  }

  @Test
  void who_is_known_there_is_let_in_by_the_groups_and_finds_the_page_asked_for() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/people");
    page.getByLabel("Group", new Page.GetByLabelOptions().setExact(true)).fill("dba");
    page.getByLabel("Role of the group").selectOption("shape");
    page.getByRole(AriaRole.BUTTON, named("Let its members in")).click();
    Locator groups = page.getByRole(AriaRole.TABLE, named("Groups of Skerry Line"));
    assertThat(groups).containsText("dbashapeall instances");
    assertThat(Axe.findings(page)).isEmpty();
    right("everybody", "look", List.of());
    right("southmole", "shape", List.of("site:Southmole"));
    right("dba", "shape", List.of("tag:test"));

    Page hers = known("hedvig", "/limits?kind=jvm");
    assertThat(banner(hers)).containsText("hedvig");
    assertThat(hers).hasURL(Pattern.compile("/limits\\?kind=jvm"));
    hers.navigate(site.address() + "/account");
    Locator main = hers.getByRole(AriaRole.MAIN);
    assertThat(main).containsText("with the role shape");
    assertThat(main).containsText("site Southmole, tag test");
    hers.getByLabel("From now on").fill("a password that outlasts the company's");
    hers.getByRole(AriaRole.BUTTON, named("Change the password")).click();
    assertThat(hers.getByRole(AriaRole.ALERT)).containsText("your password is kept there");

    // another group, and the next time another role
    right("dba", "look", List.of());
    right("southmole", "look", List.of());
    hers.getByRole(AriaRole.BUTTON, named("Sign out here")).click();
    Page again = known("hedvig", "/account");
    assertThat(again.getByRole(AriaRole.MAIN)).containsText("with the role look");
    assertThat(accounts("hedvig")).hasSize(1);
    right("dba", "shape", List.of());
  }

  private static List<JsonNode> accounts(String begins) throws Exception {
    return site.api()
        .get("/api/accounts")
        .valueStream()
        .filter(account -> account.get("name").asString().startsWith(begins))
        .toList();
  }

  @Test
  void who_is_called_as_somebody_here_takes_no_account_over() throws Exception {
    site.page().navigate(site.address());
    right("dba", "shape", List.of());
    Page hers = known("solveig", "/shelf");
    assertThat(banner(hers)).containsText("solveig 2");
    assertThat(accounts("solveig").stream().map(a -> a.get("role").asString()))
        .containsExactlyInAnyOrder("administer", "shape");
  }

  @Test
  void who_is_in_no_group_that_may_anything_is_told_so() throws Exception {
    Page his = known("olaf", "/shelf");
    assertThat(his.getByRole(AriaRole.ALERT)).containsText("none of your groups is let in here");
    assertThat(Axe.findings(his)).isEmpty();
    assertThat(accounts("olaf")).isEmpty();
  }

  private static long sessions() throws Exception {
    try (Connection store = site.intoStore();
        ResultSet count =
            store.createStatement().executeQuery("select count(*) from spring_session")) {
      count.next();
      return count.getLong(1);
    }
  }

  private static HttpResponse<String> ask(HttpClient client, String address) throws Exception {
    return client.send(
        HttpRequest.newBuilder(URI.create(address)).build(), BodyHandlers.ofString());
  }

  @Test
  void what_comes_back_without_having_been_sent_lets_nobody_in() throws Exception {
    HttpClient client = HttpClient.newHttpClient();
    long sessions = sessions();
    for (String forged :
        List.of("?code=any&state=any", "?code=any", "?error=any&state=any", "?state=any", "")) {
      HttpResponse<String> answer = ask(client, site.address() + "/signed-on" + forged);
      assertThat(answer.headers().firstValue("Location").orElse("/shelf"))
          .as(forged)
          .matches(".*/shelf(\\?refused=failed)?");
      assertThat(answer.headers().firstValue("Set-Cookie").orElse("")).doesNotContain("jamjar-");
    }
    // nor is anybody sent elsewhere than there and back
    HttpResponse<String> away =
        ask(client, site.address() + "/sign-on/company?redirect_uri=http://evil.invalid&to=//evil");
    String to = away.headers().firstValue("Location").orElseThrow();
    assertThat(to).startsWith(company.issuer() + "/oauth2/authorize?").doesNotContain("evil");
    assertThat(to).contains("code_challenge_method=S256", "nonce=", "state=");
    assertThat(to).contains("redirect_uri=" + site.address() + "/signed-on");
    assertThat(ask(client, site.address() + "/sign-on/another").statusCode()).isEqualTo(404);
    // however many strangers come, nothing is kept of them
    assertThat(sessions()).isEqualTo(sessions);
    String kept =
        away.headers().allValues("Set-Cookie").stream()
            .filter(cookie -> cookie.startsWith("jamjar-sign-on"))
            .findFirst()
            .orElseThrow();
    assertThat(kept).contains("HttpOnly", "SameSite=Lax").doesNotContain("state");
  }
}
