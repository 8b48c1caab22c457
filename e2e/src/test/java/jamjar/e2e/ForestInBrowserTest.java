package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Two roots, one of them a prepared transaction; behind the other, which does nothing, three deep,
 * and a change of a table with others queued behind it: what is shown is what was made.
 */
@SharedSite(second = true)
class ForestInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(90);
  private static final String GID = "pay-4711";

  /** By hand: who waits below whom, in the order in which it is shown. */
  private static final String[] FOREST = {
    "holder", "first", "second", "third", "change", "reader one", "reader two", GID, "behind"
  };

  private static Site site;
  private static OpenSessions open;
  private static int instance;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("forest-db", 5);
    open = new OpenSessions(site);
    open.setup(
        "create table mooring (id int primary key, held int)",
        "insert into mooring select n, 0 from generate_series(1, 9) n",
        "create table jetty (id int)");
    Connection holder = open.session("holder");
    OpenSessions.run(holder, "update mooring set held = 1 where id = 1");
    OpenSessions.run(holder, "select count(*) from jetty");
    Connection prepares = open.session("prepares");
    OpenSessions.run(prepares, "update mooring set held = 1 where id = 2");
    OpenSessions.run(prepares, "prepare transaction '" + GID + "'");
    Connection first = open.session("first");
    OpenSessions.run(first, "update mooring set held = 1 where id = 3");
    Connection second = open.session("second");
    OpenSessions.run(second, "update mooring set held = 1 where id = 4");
    later(first, "update mooring set held = 2 where id = 1", 1);
    later(second, "update mooring set held = 2 where id = 3", 2);
    later(open.session("third"), "update mooring set held = 2 where id = 4", 3);
    later(open.session("behind"), "update mooring set held = 2 where id = 2", 4);
    later(open.session("change"), "alter table jetty add column name text", 5);
    later(open.session("reader one"), "select count(*) from jetty", 6);
    later(open.session("reader two"), "select count(*) from jetty", 7);
  }

  @AfterAll
  static void stop() throws Exception {
    end();
    open.setup("drop table mooring, jetty");
  }

  /** All that was made is let go. */
  private static void end() throws SQLException {
    open.end();
    try (Connection setup = site.folder().connect("setup");
        Statement statement = setup.createStatement()) {
      if (statement
          .executeQuery("select 1 from pg_prepared_xacts where gid = '" + GID + "'")
          .next()) {
        statement.execute("rollback prepared '" + GID + "'");
      }
    }
  }

  /** Runs it, and goes on when so many wait. */
  private static void later(Connection connection, String sql, int waiting) throws Exception {
    open.later(connection, sql);
    Await.until(waiting + " wait", SOON, () -> ours().size() >= waiting);
  }

  /** Waiters of this test: the load has some of its own, for a moment. */
  private static List<String> ours() throws Exception {
    List<String> waiting = new ArrayList<>();
    for (JsonNode session :
        site.api().get("/api/instances/" + instance + "/sessions").get("sessions")) {
      String program = session.get("program").asString();
      if (!session.get("blockers").isEmpty() && List.of(FOREST).contains(program)) {
        waiting.add(program);
      }
    }
    return waiting;
  }

  private static Locator tree(Page page) {
    return page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Who waits for whom"))
        .getByRole(AriaRole.ROWHEADER);
  }

  @Test
  void what_is_shown_is_what_was_made_now_and_when_it_is_over() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/locks?pick=" + instance);
    Locator main = page.getByRole(AriaRole.MAIN);
    assertThat(main).containsText("2 roots keep 7 sessions waiting, 3 deep");
    assertThat(tree(page)).containsText(FOREST);
    assertThat(main).containsText("6 sessions wait only because of");
    assertThat(main).containsText("is ahead of others: cancelled, it frees 2");
    page.getByRole(AriaRole.ROW)
        .filter(new Locator.FilterOptions().setHasText(GID))
        .getByRole(AriaRole.BUTTON)
        .click();
    assertThat(main).containsText("commit prepared '" + GID + "'");
    assertThat(main).containsText("rollback prepared '" + GID + "'");
    assertThat(main).not().containsText("pg_terminate_backend");
    JsonNode now = site.api().get("/api/instances/" + instance + "/locks");
    long then = now.get("at").asLong();
    assertThat(now.get("waiting").asInt()).isEqualTo(7);

    end();
    Await.until("nobody waits any more", SOON, () -> ours().isEmpty());
    page.navigate(
        site.address()
            + "/locks?pick="
            + instance
            + "&from="
            + Instant.ofEpochMilli(then - 60_000)
            + "&to="
            + Instant.ofEpochMilli(then));
    assertThat(main).containsText("2 roots keep 7 sessions waiting, 3 deep");
    assertThat(tree(page)).containsText(FOREST);
    assertThat(site.api().get("/api/instances/" + instance + "/locks?at=" + then)).isEqualTo(now);
  }
}
