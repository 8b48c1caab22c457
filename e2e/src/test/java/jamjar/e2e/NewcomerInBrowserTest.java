package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.DemoFolder;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.Statement;
import java.time.Clock;
import java.util.List;
import java.util.regex.Pattern;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Somebody who has never seen it brings an engine, a JVM and an application server under watch. */
@SharedSite(second = true)
class NewcomerInBrowserTest {
  private static Site site;
  private static Servers servers;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    List<String> names = List.of("booking-1", "timetable-1", "fares-1");
    servers =
        Servers.start(
            Skerry.servers().stream().filter(p -> names.contains(p.name())).toList(),
            Files.createTempDirectory("jamjar-newcomer"),
            Clock.systemUTC(),
            3);
  }

  @AfterAll
  static void end() throws Exception {
    servers.close();
  }

  @Test
  void by_the_screens_alone_three_are_added_found_changed_and_paused() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/");
    page.getByRole(AriaRole.BUTTON, button("Add an instance")).first().click();
    anEngine(page);
    aJvm(page);
    anApplicationServer(page);
    many(page);
    aCounter(page);
    anAttribute(page);
    aRecipe(page);
    paused(page);
    theStore(page);
  }

  /** The role is not there yet: the commands that the form gives make it. */
  private static void anEngine(Page page) throws Exception {
    Locator form = page.getByRole(AriaRole.DIALOG);
    field(form, "Host").fill("127.0.0.1");
    field(form, "Port").fill(Integer.toString(site.enginePort()));
    field(form, "Database").fill(DemoFolder.DATABASE);
    form.getByText("off", exact()).click();
    field(form, "User").fill("newcomer");
    field(form, "Password").fill("chosen here");
    field(form, "Name").fill("booking-db-a");
    form.getByRole(AriaRole.BUTTON, within("Check and add")).click();
    Locator checks = form.getByRole(AriaRole.LIST, within("Checks"));
    assertThat(checks).containsText("password authentication failed");
    assertThat(checks).containsText("Works: name, reach, protocol");
    form.getByText("It does not exist yet").click();
    run(form.locator("details pre").first().textContent().replace("choose one", "chosen here"));
    form.getByRole(AriaRole.BUTTON, within("Check and add")).click();
    assertThat(page.getByRole(AriaRole.HEADING, named("booking-db-a"))).isVisible();
    assertThat(page.getByTestId("value").first()).containsText(Pattern.compile("\\d"));
  }

  /** Each line as it stands. */
  private static void run(String commands) throws Exception {
    try (Connection superuser =
            DriverManager.getConnection(
                site.folder().engine().url(DemoFolder.DATABASE),
                "postgres",
                site.folder().engine().password());
        Statement statement = superuser.createStatement()) {
      for (String line : commands.split("\n")) {
        if (!line.startsWith("--")) {
          statement.execute(line);
        }
      }
    }
  }

  private static void aJvm(Page page) {
    page.getByRole(AriaRole.BUTTON, button("add an instance")).click();
    Locator form = page.getByRole(AriaRole.DIALOG);
    form.getByText("JVM", exact()).click();
    field(form, "Host").fill("127.0.0.1");
    field(form, "Port").fill("1");
    form.getByText("off", exact()).click();
    field(form, "Name").fill("timetable-1");
    form.getByRole(AriaRole.BUTTON, within("Check only")).click();
    Locator checks = form.getByRole(AriaRole.LIST, within("Checks"));
    assertThat(checks).containsText("-Dcom.sun.management.jmxremote.port=1");
    assertThat(checks).containsText("It must restart there for it.");
    field(form, "Port").fill(Integer.toString(port("timetable-1")));
    form.getByRole(AriaRole.BUTTON, within("Check and add")).click();
    assertThat(page.getByRole(AriaRole.HEADING, named("timetable-1"))).isVisible();
  }

  private static void anApplicationServer(Page page) {
    page.getByRole(AriaRole.BUTTON, button("add an instance")).click();
    Locator form = page.getByRole(AriaRole.DIALOG);
    form.getByText("Application server", exact()).click();
    field(form, "Host").fill("127.0.0.1");
    field(form, "Port").fill(Integer.toString(port("booking-1")));
    form.getByText("off", exact()).click();
    // the make that stands there at first is another one: the checks find the one that fits
    form.getByRole(AriaRole.BUTTON, within("Check only")).click();
    assertThat(form.getByRole(AriaRole.LIST, within("Checks"))).containsText("All of it works");
    assertThat(form.getByText("By its managed beans it is of this make: Skerry Line")).isVisible();
    field(form, "Name").fill("booking-1");
    form.getByRole(AriaRole.BUTTON, within("Check and add")).click();
    assertThat(page.getByRole(AriaRole.HEADING, named("booking-1"))).isVisible();
  }

  private static void many(Page page) {
    page.getByRole(AriaRole.LINK, link("Estate")).click();
    page.getByRole(AriaRole.BUTTON, button("from a file, into a file")).click();
    page.getByLabel("Instances", new Page.GetByLabelOptions().setExact(true))
        .fill(
            "defaults: {kind: appserver, recipe: stand-in, host: 127.0.0.1, tls: 'off'}\n"
                + "instances:\n"
                + "- {name: fares-1, port: "
                + port("fares-1")
                + "}\n- name: fares-2\n  port: none\n");
    page.getByRole(AriaRole.BUTTON, button("Try it without changing anything")).click();
    Locator rows = page.locator("main table tbody tr");
    assertThat(rows.first()).containsText("line 5, port 'none' is not a number");
    page.getByRole(AriaRole.BUTTON, button("Take in the good one")).click();
    assertThat(page.getByText("Done:")).isVisible();
    assertThat(page.getByRole(AriaRole.NAVIGATION, named("Shelf"))).containsText("fares-1");
    page.getByRole(AriaRole.LINK, link("End points")).click();
    assertThat(page.getByText("4 of 4 answer")).isVisible();
    page.locator("main").getByRole(AriaRole.BUTTON, within("booking-db-a")).click();
    page.getByRole(AriaRole.BUTTON, button("check again")).click();
    assertThat(page.getByRole(AriaRole.LIST, named("Checks"))).containsText("Works:");
  }

  private static void aCounter(Page page) {
    page.getByRole(AriaRole.NAVIGATION, named("Shelf"))
        .getByRole(AriaRole.BUTTON, within("booking-db-a"))
        .click();
    page.keyboard().press("7");
    page.getByLabel("Search counters").fill("who is waiting");
    Locator row = page.locator("main table tbody tr").first();
    assertThat(row).containsText("Sessions waiting for a lock");
    row.getByRole(AriaRole.BUTTON, within("Sessions waiting for a lock").setExact(true)).click();
    assertThat(page.getByText("Answers:")).isVisible();
    page.getByLabel("Search counters").fill("");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("^rank ")))
        .first()
        .click();
    assertThat(page.getByText("all together")).isVisible();
  }

  /** A number of a managed bean becomes a counter, and is read. */
  private static void anAttribute(Page page) {
    page.getByRole(AriaRole.NAVIGATION, named("Shelf"))
        .getByRole(AriaRole.BUTTON, within("timetable-1"))
        .click();
    page.getByRole(AriaRole.LINK, link("Beans")).click();
    page.getByLabel("Search managed beans").fill("memory nonheap");
    page.locator("main").getByRole(AriaRole.BUTTON, within("Memory")).click();
    page.getByRole(AriaRole.BUTTON, button("Make a counter of NonHeapMemoryUsage.committed"))
        .click();
    Locator form = page.getByRole(AriaRole.DIALOG);
    field(form, "What it means").fill("What the JVM has taken beside its heap.");
    form.getByText("a level, which goes up and down").click();
    form.getByRole(AriaRole.BUTTON, within("Make it a counter")).click();
    assertThat(form.getByText("is read from now on, of timetable-1")).isVisible();
    form.getByRole(AriaRole.LINK, within("see it among the counters")).click();
    assertThat(page.locator("main table tbody tr").first())
        .containsText(Pattern.compile("Non heap memory usage committed *\\d.* MiB"));
  }

  private static void aRecipe(Page page) {
    page.getByRole(AriaRole.NAVIGATION, named("Shelf"))
        .getByRole(AriaRole.BUTTON, within("booking-db-a"))
        .click();
    page.getByRole(AriaRole.LINK, link("Recipes")).click();
    page.getByLabel("Filter counters").fill("deadlocks");
    page.getByRole(AriaRole.LIST, named("Counters of the recipe"))
        .getByRole(AriaRole.CHECKBOX)
        .first()
        .uncheck();
    assertThat(page.getByText("unsaved: nothing of this is collected yet")).isVisible();
    page.getByRole(AriaRole.BUTTON, button("What would it do?")).click();
    assertThat(page.getByText("Not read any more:")).isVisible();
    page.getByRole(AriaRole.BUTTON, button("Save")).click();
    assertThat(page.getByText("Saved. 1 instances are read by it from now on")).isVisible();
    assertThat(page.getByRole(AriaRole.BUTTON, button("back to the shipped one"))).isVisible();
    // left out, it is found all the same, and taken in from there
    page.getByRole(AriaRole.NAVIGATION, named("Shelf"))
        .getByRole(AriaRole.BUTTON, within("booking-db-a"))
        .click();
    page.keyboard().press("7");
    page.getByLabel("Search counters").fill("deadlocks");
    Locator left = page.getByRole(AriaRole.REGION, named("Not collected"));
    assertThat(left).containsText("Deadlocks");
    left.getByRole(AriaRole.BUTTON, within("add to the recipe")).first().click();
    page.getByRole(AriaRole.BUTTON, button("Read it")).click();
    assertThat(page.getByText("Deadlocks is read from now on.")).isVisible();
    assertThat(left).isHidden();
  }

  private static void paused(Page page) throws Exception {
    page.getByRole(AriaRole.LINK, link("Estate")).click();
    page.getByLabel("Pick booking-1").check();
    page.getByRole(AriaRole.BUTTON, button("pause")).click();
    Locator row = page.locator("main tr", new Page.LocatorOptions().setHasText("booking-1"));
    assertThat(row).containsText("paused");
    assertThat(page.getByText("3 of 3 read")).isVisible();
    page.getByRole(AriaRole.BUTTON, button("resume")).click();
    assertThat(row).containsText("reading");
    Assertions.assertThat(site.api().get("/api/alerts?state=open").toString())
        .doesNotContain("silent");
  }

  /** For how long what is read of one is kept. */
  private static void theStore(Page page) {
    page.getByRole(AriaRole.BUTTON, button("the store")).click();
    assertThat(page.getByText("All of the journal is in the database.")).isVisible();
    page.getByRole(AriaRole.COMBOBOX, named("Class of timetable-1")).press("Enter");
    page.getByRole(AriaRole.OPTION, named("short")).click();
    assertThat(page.getByText("What is read of timetable-1 from now on is kept so.")).isVisible();
    Locator days = page.getByLabel("short: days as it was read");
    days.fill("20");
    days.press("Enter");
    Locator asked = page.getByRole(AriaRole.REGION, named("A change of how long is kept"));
    assertThat(asked).containsText("Nothing that is there goes by it now.");
    asked.getByRole(AriaRole.BUTTON, within("leave it as it was")).click();
    assertThat(days).hasValue("14");
    days.fill("20");
    days.press("Enter");
    asked.getByRole(AriaRole.BUTTON, within("Keep it so")).click();
    assertThat(page.getByText("What is older goes from")).isVisible();
    page.reload();
    assertThat(page.getByLabel("short: days as it was read")).hasValue("20");
  }

  private static Locator field(Locator form, String label) {
    return form.getByLabel(label, new Locator.GetByLabelOptions().setExact(true));
  }

  private static int port(String name) {
    return servers.all().stream()
        .filter(s -> s.name().equals(name))
        .map(SimServer::port)
        .findFirst()
        .orElseThrow();
  }

  private static Page.GetByRoleOptions button(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }

  private static Page.GetByRoleOptions link(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }

  private static Locator.GetByRoleOptions within(String name) {
    return new Locator.GetByRoleOptions().setName(name);
  }

  private static Locator.GetByTextOptions exact() {
    return new Locator.GetByTextOptions().setExact(true);
  }
}
