package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.core.limit.AlertState;
import jamjar.core.limit.Condition;
import jamjar.core.limit.Docket;
import jamjar.core.limit.LimitState;
import jamjar.store.Store;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer.MethodName;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import tools.jackson.databind.JsonNode;

/** A limit from being set to its alert being calm again, on a real engine, as a person sees it. */
@Order(1)
@TestMethodOrder(MethodName.class)
@SharedSite
class LimitsInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(30);
  private static final Duration RISES = Duration.ofSeconds(60);
  private static final Duration SETTLES = Duration.ofSeconds(60);
  private static final String WAITERS = "sessions.waiting_lock";
  private static Site site;
  private static int instance;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("booking-db-a", 1);
    Await.until("read", SOON, () -> site.api().value(instance, WAITERS) != null);
  }

  @Test
  void a_limit_is_set_its_alert_rises_is_seen_acknowledged_and_settles() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + instance);
    Locator card = card(page, "Sessions waiting for a lock");
    card.hover();
    card.getByRole(AriaRole.BUTTON, named("limit")).click();
    page.getByLabel("Warning", exact()).fill("3");
    page.getByLabel("Critical", exact()).fill("50");
    page.getByLabel("Checks that pass").fill("2");
    page.getByLabel("Checks looked at").fill("2");
    page.getByLabel("Calm again at").fill("1");
    page.getByLabel("Calm for seconds").fill("10");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Save the limit")).click();
    assertThat(page.getByText("Saved. It judges from now on.")).isVisible();
    assertThat(card(page, "Sessions waiting for a lock")).containsText("limit 3 ◣");

    JsonNode alert;
    try (Connection holder = holdLock()) {
      assertThat(holder.isClosed()).isFalse();
      assertThat(card(page, "Sessions waiting for a lock").getByTestId("value"))
          .containsText(Pattern.compile("◣ [1-9]"));
      alert = open(WAITERS, RISES);
      assertThat(page.getByTitle(Pattern.compile("\\d+ warnings?"))).isVisible();
      assertThat(shelfRow(page)).containsText("sessions waiting for a lock");
      assertThat(
              page.getByLabel(Pattern.compile("warning: booking-db-a Sessions waiting for a lock")))
          .isVisible();

      page.keyboard().press("Escape");
      page.keyboard().press("a");
      page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Alerts").setExact(true))
          .getByRole(AriaRole.BUTTON, named("booking-db-a Sessions waiting for a lock"))
          .click();
      Locator detail =
          page.getByRole(
              AriaRole.REGION, new Page.GetByRoleOptions().setName("Alert").setExact(true));
      detail.getByRole(AriaRole.BUTTON, named("Acknowledge")).click();
      detail.getByLabel("Note").fill("the fare reload; ending it");
      detail.getByRole(AriaRole.BUTTON, named("Acknowledge with this note")).click();
      assertThat(detail).containsText("acknowledged: the fare reload; ending it");
    }
    Locator transitions =
        page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("Transitions"));
    assertThat(transitions.getByRole(AriaRole.ROW).last()).containsText("calm");
    assertThat(transitions).containsText(Pattern.compile("building.*warning.*settling.*calm"));

    JsonNode settled = site.api().get("/api/alerts/" + alert.get("id").asInt());
    assertThat(states(settled)).containsExactly("building", "warning", "settling", "calm");
    long before = 0;
    for (JsonNode t : settled.get("transitions")) {
      assertThat(t.get("at").asLong()).isGreaterThan(before);
      assertThat(t.get("arrived").asLong()).isGreaterThanOrEqualTo(t.get("at").asLong());
      assertThat(t.get("value").isNull()).isFalse();
      before = t.get("at").asLong();
    }
    assertThat(settled.get("since")).isEqualTo(settled.get("transitions").get(0).get("at"));
    assertThat(settled.get("worst").asDouble()).isGreaterThanOrEqualTo(3);

    // what it told is counted with the limit
    page.navigate(site.address() + "/limits?words=waiting");
    Locator all = page.getByRole(AriaRole.TABLE, new Page.GetByRoleOptions().setName("All limits"));
    assertThat(all.getByRole(AriaRole.ROW).nth(1))
        .containsText(Pattern.compile("Sessions waiting for a lock.*booking-db-a1"));
  }

  @Test
  void b_a_restart_in_the_middle_of_the_hold_loses_nothing_of_it() throws Exception {
    // the limit of the test before, now with a longer hold
    JsonNode limit = limit();
    Map<String, Object> body = body(3);
    site.api().send("PUT", "/api/limits/" + limit.get("id").asInt(), body);
    try (Connection holder = holdLock()) {
      assertThat(holder.isClosed()).isFalse();
      Docket.Key waiters =
          new Docket.Key(
              site.api().series(instance).get(WAITERS).get("id").asInt(), Condition.ABOVE);
      try (Store store = site.openStore()) {
        Await.until(
            "in the middle of the hold",
            RISES,
            () -> {
              LimitState state = store.states().ofInstance(instance).get(waiters);
              return state != null && state.state() == AlertState.BUILDING;
            });
      }
      site.stopServer();
      long stopped = System.currentTimeMillis();
      site.startServer();
      JsonNode alert = open(WAITERS, RISES);
      assertThat(states(alert)).startsWith("building", "warning");
      assertThat(alert.get("since").asLong()).isLessThan(stopped);
      assertThat(alert.get("transitions").get(1).get("at").asLong()).isGreaterThan(stopped);
    }
    Await.until("calm again", SETTLES, () -> find(WAITERS) == null);
  }

  @Test
  void c_maintenance_mutes_and_what_still_holds_at_its_end_tells_then() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + instance);
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("mark")).click();
    page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Kind")).press("Enter");
    page.getByRole(AriaRole.OPTION, new Page.GetByRoleOptions().setName("▭ maintenance")).click();
    page.getByLabel("Title").fill("swap of a disk");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Set the marker")).click();
    Locator marker =
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("▭ swap of a disk"));
    assertThat(marker).isVisible();
    site.api().send("PUT", "/api/limits/" + limit().get("id").asInt(), body(1));
    try (Connection holder = holdLock()) {
      assertThat(holder.isClosed()).isFalse();
      JsonNode alert = open(WAITERS, RISES);
      assertThat(alert.get("quiet").asString()).isEqualTo("maintenance");
      assertThat(page.getByTitle(Pattern.compile("\\d+ warnings?"))).isHidden();
      marker.click();
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("remove the marker"))
          .click();
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("now").setExact(true))
          .click();
      assertThat(page.getByTitle(Pattern.compile("\\d+ warnings?"))).isVisible();
      assertThat(open(WAITERS, SOON).get("quiet").asString()).isEmpty();
    }
    Await.until("calm again", SETTLES, () -> find(WAITERS) == null);
  }

  private static JsonNode limit() throws Exception {
    for (JsonNode limit : site.api().get("/api/limits")) {
      if (limit.get("counter").asString().equals(WAITERS)
          && limit.get("scope").get("level").asString().equals("instance")) {
        return limit;
      }
    }
    throw new AssertionError("no limit of the instance");
  }

  private static Map<String, Object> body(int hold) {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", WAITERS);
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", "instance", "of", Integer.toString(instance)));
    body.put("condition", "above");
    body.put("warning", 3);
    body.put("critical", 50);
    body.put("hold", Map.of("m", hold, "n", hold));
    body.put("clear", Map.of("number", 1, "seconds", 10));
    body.put("on", true);
    body.put("offReason", "");
    return body;
  }

  /** The open alert of a counter; waits for it. */
  private static JsonNode open(String counter, Duration most) throws Exception {
    Await.until("an alert of " + counter, most, () -> find(counter) != null);
    return find(counter);
  }

  private static JsonNode find(String counter) throws Exception {
    for (JsonNode alert : site.api().get("/api/alerts")) {
      if (alert.get("counter").asString().equals(counter)) {
        return alert;
      }
    }
    return null;
  }

  private static List<String> states(JsonNode alert) {
    List<String> states = new ArrayList<>();
    alert.get("transitions").forEach(t -> states.add(t.get("to").asString()));
    return states;
  }

  /** Holds what everybody needs; closing it lets them go on. */
  private static Connection holdLock() throws Exception {
    Connection holder = site.folder().connect("fare-reload");
    holder.setAutoCommit(false);
    try (Statement statement = holder.createStatement()) {
      statement.execute("lock table sailing in access exclusive mode");
    }
    return holder;
  }

  private static Locator card(Page page, String title) {
    return page.getByRole(AriaRole.ARTICLE, new Page.GetByRoleOptions().setName(title)).first();
  }

  private static Locator shelfRow(Page page) {
    return page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Shelf"))
        .getByRole(AriaRole.BUTTON, named("booking-db-a"));
  }

  private static Locator.GetByRoleOptions named(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }

  private static Page.GetByLabelOptions exact() {
    return new Page.GetByLabelOptions().setExact(true);
  }
}
