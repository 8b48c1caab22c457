package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.sql.Connection;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/**
 * Whatever a target or a person can name is named by an element of HTML: it is shown as text on
 * every page, and nowhere is there such an element. On a site of its own: what is named so would be
 * in the way of others.
 */
class ScriptsInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final String TAG = "<taken-over>";

  /** Where any sign may stand: out of a text, an attribute, a script. */
  private static final String EVIL = "'\"/>" + TAG + "<img src=x onerror=taken=1>";

  /** Where it is there to be seen. */
  private static final Set<String> MUST_SHOW =
      Set.of(
          "/shelf",
          "/locks",
          "/sessions",
          "/statements",
          "/pools",
          "/applications",
          "/alerts",
          "/estate",
          "/recipes",
          "/audit",
          "/facts");

  @TempDir private static Path folder;
  private static Site site;
  private static Servers servers;
  private static OpenSessions sessions;
  private static int engine;
  private static int server;
  private static long alert;

  @BeforeAll
  static void start() throws Exception {
    site = Site.start();
    target();
    engine = site.addEngine("booking-db-a", 1);
    servers = Servers.start(List.of(evil()), folder, Clock.systemUTC(), 11);
    Map<String, Object> body =
        new HashMap<>(WatchedInstance.server(servers.all().get(0), 1).withoutUses().body());
    person(body);
    server = site.api().send("POST", "/api/instances", body).get("id").asInt();
    Await.until("both are read", SOON, () -> reads(engine) && reads(server));
    limits();
    Await.until(
        "its sessions are seen",
        SOON,
        () ->
            site.api()
                .answer("GET", "/api/instances/" + engine + "/sessions", null, Map.of())
                .body()
                .contains(TAG));
    Await.until("it is told", SOON, () -> alert() > 0);
    alert = alert();
    said();
  }

  @AfterAll
  static void stop() throws Exception {
    sessions.end();
    servers.close();
    site.close();
  }

  /** What is named in an engine: who is connected by what, tables, roles, statements. */
  private static void target() throws Exception {
    sessions = new OpenSessions(site);
    sessions.setup(
        "drop table if exists \"" + TAG + " table\"",
        "create table \"" + TAG + " table\" (id int primary key)",
        "insert into \"" + TAG + " table\" values (1)",
        "drop role if exists \"" + TAG + " role\"",
        "create role \"" + TAG + " role\"");
    Connection holder = sessions.session(EVIL);
    OpenSessions.run(
        holder,
        "select '" + TAG + "' as \"" + TAG + "\"",
        "update \"" + TAG + " table\" set id = 1 where id = 1");
    Connection waiter = sessions.session(EVIL + " 2");
    sessions.later(
        waiter, "/* " + TAG + " */ update \"" + TAG + " table\" set id = 1 where id = 1");
  }

  /** What is named in an application server: applications, their steps, pools and queues. */
  private static Profile evil() {
    return new Profile(
        "booking-1",
        "booking",
        "Northquay",
        24,
        now -> 1.0,
        60,
        0.44,
        List.of(TAG + " application"),
        List.of(new Profile.Step(TAG + " application", TAG + " step", 0.9, 35)),
        List.of(new Profile.Pool(TAG + " pool", "booking-db-a", 20, 1.4, 45)),
        List.of(new Profile.Queue(TAG + " queue", 0.25, 3, 1)));
  }

  /** What a person names. */
  private static void person(Map<String, Object> body) throws Exception {
    for (String field : List.of("name", "group", "site", "machine")) {
      body.put(field, EVIL + " " + field);
    }
    body.put("tags", List.of(TAG + "tag"));
    Api api = site.api();
    api.send("PUT", "/api/credentials/evil%3Cb%3E", Map.of("user", EVIL, "secret", EVIL));
    Map<String, Object> group = new HashMap<>();
    group.put("name", EVIL + " group");
    group.put("site", EVIL + " site");
    group.put("expected", 3);
    group.put("command", EVIL);
    api.send("PUT", "/api/groups", group);
    for (String kind : List.of("release", "note", "maintenance")) {
      Map<String, Object> marker = new HashMap<>();
      marker.put("kind", kind);
      marker.put("title", EVIL + " " + kind);
      marker.put("note", EVIL);
      marker.put("from", System.currentTimeMillis() - 60_000);
      marker.put("to", System.currentTimeMillis() - 30_000);
      marker.put("reach", Map.of("level", "site", "of", EVIL + " site"));
      api.send("POST", "/api/markers", marker);
    }
    String text =
        api.get("/api/recipes/jvm")
            .get("text")
            .asString()
            .replaceFirst("(?m)^name: .*", "name: '" + EVIL.replace("'", "''") + "'");
    HttpResponse<String> recipe =
        api.answer("PUT", "/api/recipes/evil", Map.of("text", text), Map.of());
    assertThat(recipe.statusCode()).as(recipe.body()).isEqualTo(200);
  }

  private static void limits() throws Exception {
    for (int instance : new int[] {engine, server}) {
      Map<String, Object> body = new HashMap<>();
      body.put("counter", instance == engine ? "sessions.waiting_lock" : "cpu.process");
      body.put("labels", Map.of());
      body.put("scope", Map.of("level", "instance", "of", Integer.toString(instance)));
      body.put("condition", "above");
      body.put("warning", 0);
      body.put("hold", Map.of("m", 1, "n", 1));
      body.put("clear", Map.of());
      body.put("offReason", EVIL);
      int limit = site.api().send("POST", "/api/limits", body).get("id").asInt();
      site.api()
          .send(
              "PUT",
              "/api/what-to-do",
              Map.of("reach", "limit", "of", Integer.toString(limit), "words", EVIL));
    }
    site.api()
        .send(
            "PUT",
            "/api/what-to-do",
            Map.of("reach", "instance", "of", Integer.toString(engine), "words", EVIL));
  }

  private static void said() throws Exception {
    String path = "/api/alerts/" + alert;
    site.api().send("POST", path + "/acknowledge", Map.of("note", EVIL));
    site.api().send("POST", path + "/comments", Map.of("note", EVIL));
    long now = System.currentTimeMillis();
    Map<String, Object> frozen = new HashMap<>();
    frozen.put("name", EVIL);
    frozen.put("from", now - 3_600_000);
    frozen.put("to", now);
    site.api().answer("POST", "/api/instances/" + engine + "/frozen", frozen, Map.of());
  }

  private static boolean reads(int instance) throws Exception {
    return !site.api().get("/api/instances/" + instance + "/facts").isEmpty();
  }

  private static long alert() throws Exception {
    for (JsonNode one : site.api().get("/api/alerts")) {
      if (one.get("instance").asInt() == engine
          && one.get("counter").asString().equals("sessions.waiting_lock")) {
        return one.get("id").asLong();
      }
    }
    return 0;
  }

  @Test
  void whatever_is_named_so_is_text_on_every_page() {
    List<String> views =
        List.of(
            "/shelf",
            "/now?pick=" + engine,
            "/now?pick=" + server,
            "/sessions?pick=" + engine,
            "/locks?pick=" + engine,
            "/statements?pick=" + engine,
            "/memory?pick=" + server,
            "/pools?pick=" + server,
            "/applications?pick=" + server,
            "/baseline?pick=" + engine,
            "/compare?pick=" + engine,
            "/counters?pick=" + engine,
            "/counters?pick=" + server,
            "/counters?pick=" + server + "&rank=component.time",
            "/facts?pick=" + engine,
            "/facts?pick=" + server,
            "/beans?pick=" + server,
            "/limits?pick=" + engine,
            "/limits",
            "/alerts?id=" + alert,
            "/moved",
            "/together",
            "/recipes",
            "/recipes?recipe=evil",
            "/endpoints",
            "/estate",
            "/estate?part=groups",
            "/estate?part=credentials",
            "/estate?part=store",
            "/people",
            "/telling",
            "/telling?part=rules",
            "/telling?part=people",
            "/telling?part=channels",
            "/audit",
            "/account");
    Page page = site.page();
    List<String> told = new ArrayList<>();
    page.onConsoleMessage(message -> told.add(message.text()));
    TreeSet<String> shown = new TreeSet<>();
    for (String path : views) {
      page.navigate(site.address() + path);
      Locator main = page.getByRole(AriaRole.MAIN);
      assertThat(main.getByRole(AriaRole.HEADING).first()).isVisible();
      assertThat(main).not().containsText("Fetching");
      assertThat(page.locator("taken-over, img[src=x]")).hasCount(0);
      String view = path.replaceFirst("\\?.*", "");
      boolean again =
          views.subList(views.indexOf(path) + 1, views.size()).stream()
              .anyMatch(later -> later.startsWith(view));
      if (!again && MUST_SHOW.contains(view) && !shown.contains(view)) {
        assertThat(page.locator("body"))
            .containsText(
                TAG,
                new LocatorAssertions.ContainsTextOptions()
                    .setUseInnerText(true)
                    .setTimeout(60_000));
      }
      if (page.locator("body").innerText().contains(TAG)) {
        shown.add(view);
      }
      assertThat(page.evaluate("window.taken")).as(path).isNull();
    }
    assertThat(shown).containsAll(MUST_SHOW);
    assertThat(told).noneMatch(text -> text.contains("taken is not defined"));
  }
}
