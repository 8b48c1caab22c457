package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.DemoFolder;
import jamjar.standins.booking.HeldSessions;
import jamjar.store.Store;
import java.nio.file.Files;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.MethodOrderer.MethodName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import tools.jackson.databind.JsonNode;

/** What happens on a real engine, and what a person sees of it. */
@TestMethodOrder(MethodName.class)
@SharedSite(second = true)
class EngineInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(90);
  private static Site site;
  private static int instance;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("booking-db-a", 1);
  }

  @BeforeEach
  void beingRead() throws Exception {
    Await.until(
        "commits are read",
        SOON,
        () -> site.api().value(instance, "transactions.committed") != null);
  }

  @Test
  void held_sessions_are_said_alike_by_screen_api_and_psql() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + instance);
    addChart(page, "idle in transaction", "Idle in transaction");
    addChart(page, "active and not waiting", "Active and not waiting");
    Files.writeString(site.folder().loadSwitch(), "off\n");
    Await.untilEquals(0.0, SOON, () -> site.api().value(instance, "sessions.total"));
    try (HeldSessions held = HeldSessions.open(site.folder(), 7, 5, 3, Duration.ofSeconds(300))) {
      Await.untilEquals("7|5|3", SOON, EngineInBrowserTest::counted);
      assertThat(psql()).isEqualTo("7|5|3");
      assertThat(value(page, "Idle in transaction")).hasText("7");
      // at its shipped warning, and marked so
      assertThat(value(page, "Sessions waiting for a lock")).hasText("◣ 5");
      assertThat(value(page, "Active and not waiting")).hasText("3");
      // it moves: the waiters show in the chart's own numbers too
      assertThat(site.api().value(instance, "locks.waiters")).isGreaterThanOrEqualTo(5);
    } finally {
      Files.deleteIfExists(site.folder().loadSwitch());
    }
    assertThat(value(page, "Sessions waiting for a lock")).hasText("0");
  }

  @Test
  void charts_are_arranged_kept_and_put_back() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + instance);
    Locator cards = page.locator("main").getByRole(AriaRole.ARTICLE);
    assertThat(cards.first()).isVisible();
    List<String> before = titles(cards);
    // locked: nothing to move or take away
    assertThat(page.getByRole(AriaRole.TOOLBAR)).hasCount(0);
    page.getByRole(AriaRole.BUTTON, named("arrange")).click();

    Locator third = tools(page, before.get(2));
    third.getByText("drag").dragTo(cards.first());
    assertThat(cards.first()).hasAccessibleName(before.get(2));
    third.getByRole(AriaRole.BUTTON, within("wider")).click();
    Locator card = cards.first();
    Await.until("a wider chart", SOON, () -> width(card) > 1.5 * width(cards.nth(1)));
    tools(page, before.get(0)).getByRole(AriaRole.BUTTON, within("remove")).click();
    tools(page, before.get(1)).getByRole(AriaRole.BUTTON, within("swap")).click();
    page.getByLabel("Search counters").fill("idle in transaction");
    page.getByLabel("Search counters").press("Enter");
    assertThat(cards.nth(1)).hasAccessibleName("Idle in transaction");

    page.getByRole(AriaRole.BUTTON, named("keep for booking-db-a")).click();
    assertThat(page.getByRole(AriaRole.TOOLBAR)).hasCount(0);
    page.navigate(site.address() + "/now?pick=" + instance);
    assertThat(cards.nth(1)).hasAccessibleName("Idle in transaction");
    assertThat(cards.first()).hasAccessibleName(before.get(2));
    assertThat(cards).hasCount(before.size() - 1);

    page.getByRole(AriaRole.BUTTON, named("arrange")).click();
    page.getByRole(AriaRole.BUTTON, named("back to the original")).click();
    page.getByRole(AriaRole.BUTTON, named("Go back")).click();
    assertThat(cards.first()).hasAccessibleName(before.get(0));
    assertThat(titles(cards)).isEqualTo(before);
  }

  private static List<String> titles(Locator cards) {
    return cards.all().stream().map(card -> card.getAttribute("aria-label").strip()).toList();
  }

  private static Locator tools(Page page, String title) {
    return page.getByRole(AriaRole.TOOLBAR, named("Arrange " + title));
  }

  private static double width(Locator card) {
    return card.boundingBox().width;
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }

  private static Locator.GetByRoleOptions within(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }

  @Test
  void stopped_engine_is_unreachable_in_words_and_leaves_a_gap_without_a_spike() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + instance + "&w=5min");
    assertThat(value(page, "Transactions committed"))
        .containsText(Pattern.compile("[1-9][0-9.]* /s"));
    long from = System.currentTimeMillis() - 60_000;
    double before = site.api().value(instance, "transactions.committed");

    site.folder().engine().stop();
    Locator notice = page.getByText("booking-db-a is unreachable").locator("..");
    assertThat(notice).containsText(Pattern.compile("(refused|broken off|stopping).*127.0.0.1"));
    assertThat(row(page)).containsText("refused");
    assertThat(value(page, "Transactions committed")).containsText("cut off");

    site.folder().engine().start(DemoFolder.settings());
    assertThat(value(page, "Transactions committed"))
        .containsText(Pattern.compile("[1-9][0-9.]* /s"));
    assertThat(notice).isHidden();
    Await.until(
        "five readings after the gap",
        SOON,
        () -> {
          JsonNode points = points("transactions.committed", from);
          JsonNode last = points.get("mean");
          return StreamSupport.stream(last.spliterator(), false)
                  .skip(Math.max(0, last.size() - 5))
                  .filter(v -> !v.isNull())
                  .count()
              == 5;
        });
    JsonNode points = points("transactions.committed", from);
    // it may be back before the port was asked
    assertThat(points.get("spans").toString()).containsPattern("refused|broken off|stopping");
    assertThat(points.get("mean").valueStream().filter(v -> v.isNull())).isNotEmpty();
    assertThat(
            points
                .get("mean")
                .valueStream()
                .filter(v -> !v.isNull())
                .mapToDouble(v -> v.asDouble()))
        .allSatisfy(v -> assertThat(v).isBetween(0.0, Math.max(200, 6 * before)));
  }

  @Test
  void a_restart_of_the_server_keeps_everything_and_loses_no_interval_of_a_total()
      throws Exception {
    long from = System.currentTimeMillis() - 5_000;
    Await.until(
        "some readings",
        SOON,
        () -> points("transactions.committed", from).get("mean").size() > 10);
    try (Store store = site.openStore()) {
      Totals totals = Totals.from(store, instance, DemoFolder.DATABASE);
      site.stopServer();
      site.startServer();
      beingRead();
      Await.until(
          "readings after the restart",
          SOON,
          () -> points("transactions.committed", from).get("mean").size() > 16);

      assertThat(site.api().get("/api/instances").get(0).get("name").asString())
          .isEqualTo("booking-db-a");
      totals.noIntervalIsLost();
    }
  }

  private static JsonNode points(String counter, long from) throws Exception {
    return site.api().points(instance, counter, from, System.currentTimeMillis());
  }

  private static void addChart(Page page, String words, String title) {
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("add a chart +")).click();
    page.getByLabel("Search counters").fill(words);
    page.getByLabel("Search counters").press("Enter");
    assertThat(value(page, title)).isVisible();
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Close this dialog"))
        .click();
    assertThat(page.getByLabel("Search counters")).isHidden();
  }

  private static Locator value(Page page, String title) {
    return page.getByRole(AriaRole.ARTICLE, new Page.GetByRoleOptions().setName(title))
        .first()
        .getByTestId("value");
  }

  private static Locator row(Page page) {
    return page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Shelf"))
        .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("booking-db-a"));
  }

  /** What the API says. */
  private static String counted() throws Exception {
    Map<String, JsonNode> series = site.api().series(instance);
    return Stream.of(
            "sessions.idle_in_transaction", "sessions.waiting_lock", "sessions.active_not_waiting")
        .map(counter -> Integer.toString((int) series.get(counter).get("value").asDouble(-1)))
        .collect(Collectors.joining("|"));
  }

  /** What the engine's own client says, Jam Jar's and its own session left out. */
  private static String psql() throws Exception {
    return site.psql(
        "select count(*) filter (where state = 'idle in transaction'),"
            + " count(*) filter (where state = 'active' and wait_event_type = 'Lock'),"
            + " count(*) filter (where state = 'active' and wait_event_type is null)"
            + " from pg_stat_activity where backend_type = 'client backend'"
            + " and application_name not like 'jamjar%' and application_name <> 'psql'");
  }
}
