package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.core.session.StatementText;
import jamjar.core.statement.Counted;
import jamjar.core.statement.StatementCounts;
import jamjar.core.statement.StatementKey;
import jamjar.store.Store;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Which statement took the time, what changed of it, and who calls it. */
@SharedSite(second = true)
class StatementsInBrowserTest {
  private static final Duration NEXT_MINUTE = Duration.ofSeconds(100);
  private static final Instant YESTERDAY =
      Instant.now().truncatedTo(ChronoUnit.HOURS).minus(Duration.ofHours(30));
  private static final StatementText SEEK =
      StatementText.of("select weight from manifest where state = 'filed' and ship in (1, 2)");
  private static final StatementText PAY = StatementText.of("update fare set price = 7");
  private static Site site;
  private static int instance;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("counted-db", 5);
    try (Connection setup = site.folder().connect("setup");
        Statement statement = setup.createStatement()) {
      statement.execute("create table tide (id int, height text)");
    }
    try (Store store = site.openStore()) {
      // a quarter of an hour as usual, then without an index for another
      List<Counted> hour = new ArrayList<>();
      for (int m = 0; m < 30; m++) {
        hour.add(minute(YESTERDAY.plusSeconds(60L * m), m < 15 ? 4_000 : 180_000));
      }
      store.statements().put(instance, YESTERDAY, hour);
      store
          .statements()
          .tell(
              instance,
              Map.of(SEEK.fingerprint(), SEEK.text(), PAY.fingerprint(), PAY.text()),
              YESTERDAY);
    }
  }

  private static Counted minute(Instant at, long micros) {
    TreeMap<StatementKey, StatementCounts> all = new TreeMap<>();
    all.put(
        new StatementKey("manifest_app", "freight", SEEK.fingerprint(), true),
        new StatementCounts(60, 60 * micros, 120, 600, 0, 0));
    all.put(
        new StatementKey("fares_app", "bookings", PAY.fingerprint(), true),
        new StatementCounts(600, 600 * 1_000, 600, 0, 0, 0));
    return new Counted(at, 60_000, 0, all);
  }

  @AfterAll
  static void stop() throws Exception {
    try (Connection setup = site.folder().connect("setup");
        Statement statement = setup.createStatement()) {
      statement.execute("drop table tide");
    }
  }

  private static Locator row(Page page, String text) {
    return page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Statements"))
        .getByRole(AriaRole.ROW)
        .filter(new Locator.FilterOptions().setHasText(text));
  }

  @Test
  void from_the_window_to_what_got_slower_and_to_its_text_and_callers() {
    Page page = site.page();
    Instant from = YESTERDAY.plusSeconds(15 * 60 - 1);
    page.navigate(
        site.address()
            + "/now?pick="
            + instance
            + "&from="
            + from
            + "&to="
            + from.plus(Duration.ofMinutes(15)));
    Locator main = page.getByRole(AriaRole.MAIN);
    assertThat(main.getByRole(AriaRole.HEADING).first()).containsText("counted-db");
    page.keyboard().press("3");
    // 60 × 180 ms of 60 × 180 ms and 600 × 1 ms
    assertThat(row(page, "select weight")).containsText("94.7 %");
    assertThat(row(page, "select weight")).containsText("180 ms");
    assertThat(row(page, "update fare")).containsText("5.3 %");
    assertThat(main).containsText("15 min of 15 min counted · nothing was counted then");

    main.getByRole(AriaRole.COMBOBOX, new Locator.GetByRoleOptions().setName("against")).click();
    page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("the time just before it"))
        .click();
    assertThat(page).hasURL(Pattern.compile("vs=before"));
    // one a second, 176 ms more each: all of it slower
    assertThat(row(page, "select weight")).containsText("0 and +176");
    assertThat(row(page, "select weight")).containsText("4.00 ms");
    assertThat(row(page, "update fare")).containsText("0 and 0");

    main.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("calls").setExact(true))
        .click();
    assertThat(page.getByRole(AriaRole.TABLE).locator("tbody").getByRole(AriaRole.ROW).first())
        .containsText("update fare");

    row(page, "select weight").getByRole(AriaRole.BUTTON).click();
    Locator one = main.getByRole(AriaRole.REGION, named("The statement"));
    assertThat(one).containsText(Pattern.compile("ship in \\(…\\)"));
    assertThat(one).containsText("state = ?");
    assertThat(one).containsText("manifest_app");
    assertThat(one.getByRole(AriaRole.ARTICLE)).hasCount(2);
    assertThat(page).hasURL(Pattern.compile("statement=[0-9a-f]+"));
    page.goBack();
    assertThat(one).hasCount(0);
  }

  private static Locator.GetByRoleOptions named(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }

  @Test
  void what_an_engine_runs_now_is_there_a_minute_later_without_its_values() throws Exception {
    int[] ran = new int[1];
    try (Connection program = site.folder().connect("tide-tables");
        Statement statement = program.createStatement()) {
      Await.until(
          "its statements are counted",
          NEXT_MINUTE,
          () -> {
            // what ran before it was read first is in no increase: some run each time
            for (int i = 0; i < 10; i++) {
              statement.execute("select id from tide where height = 'planted-" + i + "'");
              ran[0]++;
            }
            return now().toString().contains("select id from tide");
          });
    }
    JsonNode told = now();
    JsonNode row =
        told.get("rows")
            .valueStream()
            .filter(one -> one.get("name").asString().startsWith("select id from tide"))
            .findFirst()
            .orElseThrow();
    assertThat(row.get("name").asString()).isEqualTo("select id from tide where height = ?");
    assertThat(row.get("calls").asInt()).isBetween(1, ran[0]);
    assertThat(row.get("users").toString()).isEqualTo("[\"postgres\"]");
    assertThat(told.toString()).doesNotContain("planted");
    double shares =
        told.get("rows")
            .valueStream()
            .filter(one -> one.get("top").asBoolean())
            .mapToDouble(one -> one.get("share").asDouble())
            .sum();
    assertThat(shares + told.get("unnamedShare").asDouble()).isEqualTo(1, within(1e-9));
  }

  private static JsonNode now() throws Exception {
    long to = Instant.now().toEpochMilli();
    return site.api()
        .get("/api/instances/" + instance + "/statements?from=" + (to - 600_000) + "&to=" + to);
  }
}
