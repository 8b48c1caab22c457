package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.sql.Connection;
import java.time.Duration;
import java.time.Instant;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Who blocks whom, from the tree to the session and its command; now, and once it is over. */
@SharedSite(second = true)
class SessionsInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static Site site;
  private static OpenSessions open;
  private static int instance;
  private static Connection holder;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("locked-db", 5);
    // tables of its own: the load waits for none of them
    open = new OpenSessions(site);
    open.setup(
        "create table tariff (id int)",
        "create table tally (id int primary key, n int)",
        "insert into tally values (1, 0)");
    holder = open.session("fare-reload");
    OpenSessions.run(holder, "lock table tariff in access exclusive mode");
    Connection first = open.session("quotes one");
    OpenSessions.run(first, "update tally set n = 1 where id = 1");
    open.later(first, "select count(*) from tariff");
    Await.until("the first waits", SOON, () -> waiting() == 1);
    open.later(open.session("quotes two"), "update tally set n = 2 where id = 1");
    Await.until("both wait", SOON, () -> waiting() == 2);
  }

  @AfterAll
  static void stop() throws Exception {
    open.end();
    open.setup("drop table tariff, tally");
  }

  private static JsonNode locks(String at) throws Exception {
    return site.api().get("/api/instances/" + instance + "/locks" + at);
  }

  private static int waiting() throws Exception {
    return locks("").get("waiting").asInt();
  }

  @Test
  void from_the_tree_to_the_session_and_its_command_now_and_when_it_is_over() throws Exception {
    JsonNode now = locks("");
    long then = now.get("at").asLong();
    int root = now.get("roots").get(0).get("pid").asInt();
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + instance);
    Locator main = page.getByRole(AriaRole.MAIN);
    assertThat(main.getByRole(AriaRole.HEADING).first()).containsText("locked-db");
    page.keyboard().press("4");
    assertThat(main).containsText("1 root keeps 2 sessions waiting, 2 deep");
    assertThat(tree(page)).containsText(new String[] {"fare-reload", "quotes one", "quotes two"});
    Locator about =
        main.getByRole(
            AriaRole.REGION,
            new Locator.GetByRoleOptions().setName("About " + root).setExact(true));
    assertThat(about).containsText("2 sessions wait only because of " + root);
    assertThat(about).containsText("holds tariff (AccessExclusiveLock)");
    assertThat(about).containsText("select pg_terminate_backend(pid)");
    assertThat(about).not().containsText("pg_cancel_backend");
    assertThat(about).not().containsText("may be gone");

    about.getByRole(AriaRole.BUTTON, named("only those that wait for it")).click();
    assertThat(page).hasURL(Pattern.compile("/sessions\\?.*behind=" + root));
    Locator list = page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Sessions"));
    assertThat(main).containsText("3 sessions active or in a transaction");
    assertThat(list).containsText("update tally set n = ?");
    assertThat(list).containsText("last: lock table tariff");
    // by another split the charts are those of its parts
    main.getByRole(AriaRole.BUTTON, named("statement")).first().click();
    Locator part =
        page.getByRole(
            AriaRole.ARTICLE, new Page.GetByRoleOptions().setName("select count(*) from tariff"));
    assertThat(part.getByTestId("mean")).hasText(Pattern.compile("\\d"));
    list.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("" + root))
        .first()
        .click();

    holder.rollback();
    Await.until("the first has what it waited for", SOON, () -> waiting() == 1);
    page.navigate(
        site.address()
            + "/locks?pick="
            + instance
            + "&from="
            + Instant.ofEpochMilli(then - 60_000)
            + "&to="
            + Instant.ofEpochMilli(then));
    assertThat(main).containsText("1 root keeps 2 sessions waiting, 2 deep");
    assertThat(tree(page)).containsText(new String[] {"fare-reload", "quotes one", "quotes two"});
    assertThat(about).containsText("it may be gone");
    assertThat(locks("?at=" + then)).isEqualTo(now);
  }

  private static Locator tree(Page page) {
    return page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Who waits for whom"))
        .getByRole(AriaRole.ROWHEADER);
  }

  private static Locator.GetByRoleOptions named(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }
}
