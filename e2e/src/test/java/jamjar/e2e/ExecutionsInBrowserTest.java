package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.DemoFolder;
import jamjar.standins.WatchedInstance;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** One slow execution among many is found in three steps, with the engine's log and without. */
@SharedSite(second = true)
class ExecutionsInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(90);
  private static Site site;
  private static int logged;
  private static int sampled;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    logged = site.addEngine("logged-db", 5);
    setup("create role no_log login password 'p' in role pg_monitor");
    Map<String, Object> body =
        WatchedInstance.engine(
                "sampled-db", site.enginePort(), DemoFolder.DATABASE, "no_log", "p", 5)
            .at("booking-db", "Northquay", "")
            .body();
    sampled = site.api().send("POST", "/api/instances", body).get("id").asInt();
    Await.until("both are sampled", SOON, () -> isSampled(logged) && isSampled(sampled));
    Await.until("the log is read", SOON, () -> log(logged).get("read").asBoolean());
    // nine seconds: samples see it, the log tells it to the millisecond
    try (Connection program = site.folder().connect("tide-tables");
        Statement statement = program.createStatement()) {
      statement.execute("select pg_sleep(9), 'planted' as slow_tide");
    }
    try (Connection program = site.folder().connect("tide-tables");
        Statement statement = program.createStatement()) {
      statement.execute("set statement_timeout = 7000");
      statement.execute("select pg_sleep(90), 'planted' as cancelled_tide");
    } catch (SQLException e) {
      assertThat(e.getSQLState()).isEqualTo("57014");
    }
  }

  @AfterAll
  static void stop() throws Exception {
    setup("drop role no_log");
  }

  private static void setup(String sql) throws SQLException {
    try (Connection connection = site.folder().connect("setup");
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  private static boolean isSampled(int instance) throws Exception {
    return !site.api().get("/api/instances/" + instance + "/sessions").get("at").isNull();
  }

  private static String lately() {
    long now = System.currentTimeMillis();
    return "?from=" + (now - 600_000) + "&to=" + now;
  }

  private static JsonNode log(int instance) throws Exception {
    return site.api().get("/api/instances/" + instance + "/log" + lately());
  }

  private static JsonNode executions(int instance) throws Exception {
    return site.api().get("/api/instances/" + instance + "/executions" + lately());
  }

  private Locator found(int instance, String source) throws Exception {
    Await.until(
        "it is told",
        SOON,
        () ->
            executions(instance).get("source").asString().equals(source)
                && executions(instance).toString().contains("slow_tide"));
    Page page = site.page();
    page.navigate(site.address() + "/statements?pick=" + instance);
    Locator part =
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Single executions"));
    Locator strip =
        part.getByRole(
            AriaRole.GROUP,
            new Locator.GetByRoleOptions().setName(Pattern.compile("When executions ended.*")));
    // one: the stretch; the keys begin where most are, and stretch it
    strip.focus();
    page.keyboard().press("ArrowRight");
    assertThat(part).containsText("picked: ");
    // who picked something goes on from there
    assertThat(strip).isFocused();
    for (int i = 0; i < 4; i++) {
      page.keyboard().press("Shift+ArrowUp");
    }
    for (int i = 0; i < 40; i++) {
      page.keyboard().press("Shift+ArrowRight");
    }
    for (int i = 0; i < 40; i++) {
      page.keyboard().press("ArrowLeft");
    }
    for (int i = 0; i < 120; i++) {
      page.keyboard().press("Shift+ArrowRight");
    }
    assertThat(part).containsText("picked: ");
    // two: the one that is meant
    Locator row =
        part.getByRole(AriaRole.ROW)
            .filter(new Locator.FilterOptions().setHasText("slow_tide"))
            .first();
    assertThat(row).containsText("tide-tables");
    row.getByRole(AriaRole.BUTTON).click();
    // three: its text, without what was given
    assertThat(part).containsText("select pg_sleep(?), ? as slow_tide");
    assertThat(part).not().containsText("planted");
    assertThat(part.getByRole(AriaRole.LINK, named("its session then"))).isVisible();
    return part;
  }

  private static Locator.GetByRoleOptions named(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }

  @Test
  void with_the_log_it_is_exact_and_one_that_was_cancelled_says_so() throws Exception {
    Locator part = found(logged, "log");
    assertThat(part).containsText("from the engine's own log, over 100 ms");
    assertThat(part).containsText(Pattern.compile("9\\.\\d\\d s"));
    assertThat(part).containsText("not logged");
    Await.until(
        "the cancelled one is told",
        SOON,
        () -> executions(logged).toString().contains("cancelled_tide"));
    JsonNode cancelled =
        executions(logged)
            .get("executions")
            .valueStream()
            .filter(one -> one.get("text").asString().contains("cancelled_tide"))
            .findFirst()
            .orElseThrow();
    assertThat(cancelled.get("ending").asString()).isEqualTo("cancelled");
    JsonNode log = log(logged);
    assertThat(log.get("errors").toString()).contains("57014");
    assertThat(log.toString()).doesNotContain("planted");
  }

  @Test
  void without_the_log_samples_tell_it_and_what_to_change_is_said() throws Exception {
    Locator part = found(sampled, "samples");
    assertThat(part).containsText("as samples saw them every 5 s, over 1.00 s");
    assertThat(part).containsText(Pattern.compile("\\d\\.\\d\\d s – \\d+\\.\\d+ s"));
    assertThat(part).containsText("no_log may not read the engine's log");
    assertThat(part).containsText("grant execute on function jamjar.read_log");
  }
}
