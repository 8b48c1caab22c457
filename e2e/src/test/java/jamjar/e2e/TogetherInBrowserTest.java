package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The servers of a group beside each other. */
@SharedSite
class TogetherInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  @TempDir private static Path folder;
  private static Site site;
  private static Servers servers;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    List<Profile> freight =
        Skerry.servers().stream().filter(p -> p.group().equals("freight")).limit(2).toList();
    servers = Servers.start(freight, folder, Clock.systemUTC(), 17);
    for (SimServer server : servers.all()) {
      int id =
          site.api()
              .send("POST", "/api/instances", WatchedInstance.server(server, 1).body())
              .get("id")
              .asInt();
      Await.until(
          server.name() + " is read",
          SOON,
          () -> !site.api().get("/api/instances/" + id + "/facts").isEmpty());
    }
  }

  @AfterAll
  static void stop() throws Exception {
    servers.close();
  }

  @Test
  void from_its_name_on_the_shelf_to_its_servers_side_by_side_and_to_one_of_them() {
    Page page = site.page();
    page.navigate(site.address() + "/shelf?w=5min");
    Locator main = page.getByRole(AriaRole.MAIN);
    link(main, "freight").click();
    assertThat(page).hasURL(Pattern.compile("whose=group:freight"));
    Locator table =
        main.getByRole(AriaRole.TABLE, new Locator.GetByRoleOptions().setName("Side by side"));
    assertThat(table.getByRole(AriaRole.LINK)).hasText(new String[] {"freight-1", "freight-2"});
    // what is summed up of them stands below
    assertThat(table.getByRole(AriaRole.ROWHEADER))
        .containsText(
            new String[] {"freight-1", "freight-2", "all 2", "mean", "least", "greatest"});

    // another counter through time
    main.getByRole(
            AriaRole.BUTTON,
            new Locator.GetByRoleOptions().setName("Messages in queue through time"))
        .click();
    assertThat(main.getByRole(AriaRole.HEADING, new Locator.GetByRoleOptions().setLevel(2)))
        .containsText("Messages in queue of 2 instances");
    Locator strip =
        main.getByRole(AriaRole.IMG, new Locator.GetByRoleOptions().setName("freight-2"));
    strip.hover();
    // the table is of the moment under the pointer
    assertThat(main).containsText("ago.");
    strip.click();
    assertThat(page).hasURL(Pattern.compile("/now\\?.*big=queue.pending"));
    assertThat(page).hasURL(Pattern.compile("w=5min"));
    assertThat(main.getByRole(AriaRole.HEADING, new Locator.GetByRoleOptions().setLevel(1)))
        .hasText("freight-2");
  }

  private static Locator link(Locator in, String name) {
    return in.getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName(name).setExact(true));
  }
}
