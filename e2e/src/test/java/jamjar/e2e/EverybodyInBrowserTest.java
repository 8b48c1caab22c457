package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Every view, in both themes, for those who see little, hear it read out, or have no mouse. */
@SharedSite
class EverybodyInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  @TempDir private static Path folder;
  private static Site site;
  private static Servers servers;
  private static int engine;
  private static int server;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    engine = site.addEngine("booking-db-a", 1);
    servers = Servers.start(Skerry.servers().subList(0, 1), folder, Clock.systemUTC(), 11);
    SimServer booking = servers.all().get(0);
    int port = site.api().get("/api/instances/" + engine).get("endpoint").get("port").asInt();
    booking.leads(Map.of("booking-db-a", "jdbc:postgresql://127.0.0.1:" + port + "/booking"));
    server =
        site.api()
            .send("POST", "/api/instances", WatchedInstance.server(booking, 1).withoutUses().body())
            .get("id")
            .asInt();
    Await.until("both are read", SOON, () -> reads(engine) && reads(server));
    Await.until(
        "it is told where the pools lead",
        SOON,
        () -> site.api().get("/api/links/found").size() == 2);
  }

  @AfterAll
  static void stop() throws Exception {
    servers.close();
  }

  private static boolean reads(int instance) throws Exception {
    return !site.api().get("/api/instances/" + instance + "/facts").isEmpty();
  }

  @Test
  void where_a_pool_leads_is_a_link_once_a_person_says_so() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/estate");
    Locator found =
        page.getByRole(
            AriaRole.REGION, new Page.GetByRoleOptions().setName("Links found by address"));
    assertThat(found).containsText("booking-1 by its bookingPool leads to booking-db-a");
    assertThat(Axe.findings(page)).isEmpty();
    found.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("confirm all")).click();
    assertThat(found).hasCount(0);
    Locator row =
        page.getByRole(AriaRole.ROW, new Page.GetByRoleOptions().setName("booking-1")).first();
    assertThat(row).containsText("booking-db-a");
  }

  @Test
  void nothing_is_found_wrong_with_any_view_in_either_theme() {
    String one = "transactions.committed";
    List<String> views =
        List.of(
            "/shelf",
            "/now?pick=" + engine,
            "/now?pick=" + engine + "," + server,
            "/now?pick=" + engine + "&charts=" + one + "&big=" + one + "&edit=limit",
            "/sessions?pick=" + engine,
            "/locks?pick=" + engine,
            "/statements?pick=" + engine,
            "/memory?pick=" + server,
            "/pools?pick=" + server,
            "/applications?pick=" + server,
            "/baseline?pick=" + engine,
            "/moved",
            "/together",
            "/compare?pick=" + engine,
            "/counters?pick=" + engine,
            "/counters?pick=" + server + "&rank=component.time",
            "/facts?pick=" + engine,
            "/beans?pick=" + server,
            "/limits?pick=" + engine,
            "/limits",
            "/alerts",
            "/recipes",
            "/endpoints",
            "/estate",
            "/about?page=permits");
    List<String> found = new ArrayList<>();
    Page page = site.page();
    for (String path : views) {
      page.navigate(site.address() + path);
      assertThat(page.getByRole(AriaRole.MAIN).getByRole(AriaRole.HEADING).first()).isVisible();
      assertThat(page.getByRole(AriaRole.MAIN)).not().containsText("Fetching");
      Axe.findings(page).forEach(finding -> found.add(path + " " + finding));
    }
    page.navigate(site.address() + "/now?pick=" + engine);
    assertThat(page.getByTestId("value").first()).isVisible();
    for (String key : List.of("?", "m")) {
      page.keyboard().press(key);
      assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
      Axe.findings(page).forEach(finding -> found.add("key " + key + " " + finding));
      page.keyboard().press("Escape");
      assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
    }
    assertThat(found).isEmpty();
  }
}
