package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Mischief;
import jamjar.standins.servers.Mischief.Kind;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer.MethodName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import tools.jackson.databind.JsonNode;

/**
 * JVMs and application servers as a person brings them under watch and sees them misbehave; on a
 * site of their own, as it takes its time and needs no engine.
 */
@TestMethodOrder(MethodName.class)
class ServersInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final Duration RISES = Duration.ofSeconds(180);
  private static final Duration SETTLES = Duration.ofSeconds(240);
  private static final String BY_FORM = "booking-1";
  private static final List<String> NAMES =
      List.of("booking-1", "booking-2", "fares-1", "freight-1", "timetable-1");
  private static Site site;
  private static Path folder;
  private static Servers servers;
  private static Mischief mischief;
  private static final Map<String, Integer> ids = new HashMap<>();
  private static long before;

  @BeforeAll
  static void start() throws Exception {
    site = Site.withoutEngine();
    folder = Files.createTempDirectory("jamjar-servers");
    servers =
        Servers.start(
            Skerry.servers().stream().filter(p -> NAMES.contains(p.name())).toList(),
            folder,
            Clock.systemUTC(),
            11);
    mischief = new Mischief(folder.resolve("mischief"), Clock.systemUTC());
    for (SimServer server : servers.all()) {
      if (!server.name().equals(BY_FORM)) {
        Object body = WatchedInstance.server(server, 1).body();
        ids.put(server.name(), site.api().send("POST", "/api/instances", body).get("id").asInt());
      }
    }
    for (int id : ids.values()) {
      Await.until("read", SOON, () -> site.api().value(id, "cpu.process") != null);
    }
    for (int id : ids.values()) {
      soon(id);
    }
    before = System.currentTimeMillis();
    // they take a while to be told: meanwhile the screens are looked at
    Duration time = Duration.ofMinutes(10);
    mischief.begin("booking-2", Kind.FILL_POOL, time);
    mischief.begin("fares-1", Kind.LEAK, time);
    mischief.begin("freight-1", Kind.QUEUE_UP, time);
    mischief.begin("freight-1", Kind.DEADLOCK, time);
    mischief.begin("timetable-1", Kind.STOP, time);
  }

  @AfterEach
  void closePages() {
    site.closePages();
  }

  @AfterAll
  static void end() throws Exception {
    servers.close();
    site.close();
  }

  /** What is shipped tells and settles as soon as it can: its numbers stay, its times do not. */
  private static void soon(int id) throws Exception {
    for (JsonNode limit : site.api().get("/api/limits")) {
      JsonNode scope = limit.get("scope");
      if (scope.get("level").asString().equals("kind")
          && scope.get("of").asString().equals("appserver")
          && !limit.get("condition").asString().equals("outside")) {
        Map<String, Object> body = new HashMap<>();
        body.put("counter", limit.get("counter"));
        body.put("labels", limit.get("labels"));
        body.put("scope", Map.of("level", "instance", "of", Integer.toString(id)));
        body.put("condition", limit.get("condition"));
        body.put("hold", Map.of("m", 1, "n", 1));
        Map<String, Object> clear = new HashMap<>();
        clear.put("number", null);
        clear.put("seconds", 5);
        body.put("clear", clear);
        body.put("offReason", "");
        site.api().send("POST", "/api/limits", body);
      }
    }
  }

  private static SimServer server(String name) {
    return servers.all().stream().filter(s -> s.name().equals(name)).findFirst().orElseThrow();
  }

  @Test
  void an_application_server_is_added_by_the_form_and_its_pools_and_applications_are_seen() {
    Page page = site.page();
    page.navigate(site.address() + "/");
    page.getByRole(AriaRole.BUTTON, button("add an instance")).click();
    page.getByText("Application server", exact()).click();
    page.getByLabel("Host").fill("127.0.0.1");
    page.getByLabel("Port").fill(Integer.toString(server("booking-1").port()));
    page.getByText("off", exact()).click();
    page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Recipe"))
        .press("ArrowDown");
    page.getByRole(
            AriaRole.OPTION,
            new Page.GetByRoleOptions().setName(Pattern.compile("Skerry Line server")))
        .click();
    page.getByLabel("Name").fill("booking-1");
    page.getByLabel("Group").fill("booking");
    page.getByLabel("Every").fill("1");
    page.getByRole(AriaRole.BUTTON, button("Check only")).click();
    assertThat(page.getByRole(AriaRole.LIST, named("Checks"))).containsText("pools");
    page.getByRole(AriaRole.BUTTON, button("Check and add")).click();

    assertThat(page.getByRole(AriaRole.HEADING, named("booking-1"))).isVisible();
    assertThat(card(page, "Pool in use").getByTestId("value"))
        .containsText(Pattern.compile("[0-9.]+ %"));

    page.keyboard().press("6");
    Locator pools = page.getByRole(AriaRole.TABLE, named("Connection pools"));
    assertThat(pools).containsText("bookingPool");
    assertThat(pools).containsText(Pattern.compile("\\d+ of 20"));
    page.getByRole(AriaRole.BUTTON, button("loyaltyPool")).click();
    assertThat(card(page, "Pool in use loyaltyPool")).isVisible();
    assertThat(page.getByRole(AriaRole.TABLE, named("Queues"))).containsText("refund.out");

    page.keyboard().press("5");
    assertThat(page.getByText("Tenured Gen", exact())).isVisible();
    assertThat(card(page, "Heap floor").getByTestId("value"))
        .containsText(Pattern.compile("4[0-9.]+ %"));

    page.getByRole(
            AriaRole.LINK, new Page.GetByRoleOptions().setName("Applications").setExact(true))
        .last()
        .click();
    assertThat(page.getByRole(AriaRole.BUTTON, button("hold berth"))).isVisible();
    assertThat(page.getByText("booking 1 of 1")).isVisible();
    assertThat((Integer) page.evaluate("document.documentElement.scrollWidth")).isEqualTo(1280);
  }

  @Test
  void jam_jar_itself_stands_on_the_shelf_and_is_not_counted() {
    Page page = site.page();
    page.navigate(site.address() + "/");
    page.getByRole(AriaRole.NAVIGATION, named("Shelf"))
        .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Jam Jar"))
        .click();
    assertThat(card(page, "Lateness").getByTestId("value"))
        .containsText(Pattern.compile("[0-9.]+ (µs|ms|s)"));
    // the five of them that are watched by then; Jam Jar is not among them
    assertThat(page.getByRole(AriaRole.BANNER)).containsText(Pattern.compile("\\d of [45] read"));
  }

  @Test
  void misbehaviours_raise_the_shipped_alerts_and_settle_and_a_restart_makes_a_gap_and_no_spike()
      throws Exception {
    JsonNode waiting = open(ids.get("booking-2"), "pool.waiting");
    assertThat(waiting.get("labels").get("pool").asString()).isIn("bookingPool", "loyaltyPool");
    open(ids.get("booking-2"), "pool.in_use_share");
    open(ids.get("freight-1"), "queue.oldest");
    open(ids.get("timetable-1"), "");
    open(ids.get("fares-1"), "old_generation.floor_share");

    Page page = site.page();
    page.navigate(site.address() + "/pools?pick=" + ids.get("booking-2"));
    assertThat(page.getByRole(AriaRole.TABLE, named("Connection pools"))).containsText("20 of 20");
    // the work explains a few of them: the others are not given back
    page.navigate(site.address() + "/pools?w=5min&pick=" + ids.get("booking-2"));
    assertThat(page.getByRole(AriaRole.MAIN))
        .containsText(Pattern.compile("Pool: [1-9]\\d* not coming back: "));
    assertThat(
            page.getByRole(AriaRole.NAVIGATION, named("Shelf"))
                .getByTitle(Pattern.compile("^timetable-1: refused")))
        .isVisible();
    page.navigate(site.address() + "/pools?pick=" + ids.get("freight-1"));
    assertThat(page.getByRole(AriaRole.TABLE, named("Queues")))
        .containsText("never, at these rates");
    threadsOfThen(page);

    mischief.end("booking-2", Kind.FILL_POOL);
    mischief.end("freight-1", Kind.QUEUE_UP);
    mischief.end("freight-1", Kind.DEADLOCK);
    mischief.end("timetable-1", Kind.STOP);
    // what leaked is kept until it starts anew
    mischief.end("fares-1", Kind.LEAK);
    mischief.begin("fares-1", Kind.STOP, Duration.ofSeconds(5));
    settled(ids.get("booking-2"), "pool.waiting");
    settled(ids.get("booking-2"), "pool.in_use_share");
    settled(ids.get("freight-1"), "queue.oldest");
    settled(ids.get("freight-1"), "threads.deadlocked");
    settled(ids.get("timetable-1"), "");
    settled(ids.get("fares-1"), "old_generation.floor_share");

    JsonNode cpu =
        site.api()
            .points(ids.get("timetable-1"), "cpu.process", before, System.currentTimeMillis());
    assertThat(cpu.get("spans").valueStream().map(s -> s.get("why").asString()))
        .anyMatch(why -> why.startsWith("refused"));
    assertThat(cpu.get("max").valueStream().filter(v -> !v.isNull()).map(JsonNode::asDouble))
        .isNotEmpty()
        .allMatch(v -> v >= 0 && v < 1);
  }

  /** What the threads did when it became critical is there, by lock and by what they do. */
  private static void threadsOfThen(Page page) throws Exception {
    int pooled = ids.get("booking-2");
    Await.until("its threads were looked at", RISES, () -> !taken(pooled).isEmpty());
    page.navigate(site.address() + "/locks?pick=" + pooled);
    assertThat(page.getByRole(AriaRole.LIST, named("When they were looked at")))
        .containsText("is critical");
    Locator doing = page.getByRole(AriaRole.TABLE, named("What threads do"));
    assertThat(doing).containsText("skerry.pool.ConnectionPool.borrow:214");
    doing
        .getByRole(
            AriaRole.BUTTON,
            new Locator.GetByRoleOptions().setName("skerry.pool.ConnectionPool.borrow:214"))
        .click();
    assertThat(doing).containsText("java.util.concurrent.SynchronousQueue$TransferQueue.transfer");

    int ring = open(ids.get("freight-1"), "threads.deadlocked").get("instance").asInt();
    Await.until("its threads were looked at", RISES, () -> !taken(ring).isEmpty());
    page.navigate(site.address() + "/locks?pick=" + ring);
    Locator locks = page.getByRole(AriaRole.TABLE, named("Locks that threads wait for"));
    assertThat(locks).containsText("in a circle: it never ends");
    assertThat(locks).containsText("refund-1");
    assertThat(locks).containsText("pay-1");
  }

  private static JsonNode taken(int instance) throws Exception {
    return site.api()
        .get("/api/instances/" + instance + "/threads?from=0&to=" + System.currentTimeMillis());
  }

  private static JsonNode open(int instance, String counter) throws Exception {
    Await.until(
        counter + " of " + instance + " alerts", RISES, () -> find(instance, counter) != null);
    return find(instance, counter);
  }

  private static void settled(int instance, String counter) throws Exception {
    Await.until(
        counter + " of " + instance + " settles", SETTLES, () -> find(instance, counter) == null);
  }

  private static JsonNode find(int instance, String counter) throws Exception {
    for (JsonNode alert : site.api().get("/api/alerts?state=open")) {
      if (alert.get("instance").asInt() == instance
          && alert.get("counter").asString().equals(counter)) {
        return alert;
      }
    }
    return null;
  }

  private static Locator card(Page page, String title) {
    return page.getByRole(AriaRole.ARTICLE, named(title)).first();
  }

  private static Page.GetByTextOptions exact() {
    return new Page.GetByTextOptions().setExact(true);
  }

  private static Page.GetByRoleOptions button(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }
}
