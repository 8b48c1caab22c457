package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Request;
import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Several tabs of one browser, and a link that is opened in another. */
@SharedSite(second = true)
class TabsInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(60);
  private static final Predicate<String> TOLD_NOTHING = row -> row.contains("◌");
  private static Site site;
  private static int first;
  private static int second;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    first = site.addEngine("tab-one", 1);
    second = site.addEngine("tab-two", 1);
    Await.until("both are read", SOON, () -> reads(first) && reads(second));
  }

  private static boolean reads(int instance) throws Exception {
    return site.api().series(instance).containsKey("transactions.committed");
  }

  @Test
  void two_tabs_have_one_stream_which_goes_on_when_its_tab_is_closed() {
    Page one = site.page();
    List<String> streams = new CopyOnWriteArrayList<>();
    one.context().onRequest(request -> note(request, streams));
    one.navigate(site.address() + "/now?pick=" + first);
    moves(one);
    Page two = one.context().newPage();
    two.navigate(site.address() + "/now?pick=" + second);
    // told by the stream of the first, which was not told of the second one's instance before
    moves(two);
    shelfRow(one, "tab-two").click();
    moves(one);
    assertThat(streams).hasSize(1);
    one.close();
    moves(two);
    assertThat(streams).hasSize(2);
  }

  @Test
  void a_stream_that_was_cut_and_is_back_leaves_no_false_gap() throws Exception {
    try (CutLine line = new CutLine(URI.create(site.address()).getPort())) {
      Page page = site.page();
      String one = "transactions.committed";
      page.navigate(
          line.address() + "/now?pick=" + first + "&w=5min&charts=" + one + "&big=" + one);
      moves(page);
      page.keyboard().press("t");
      Locator table =
          page.getByRole(
              AriaRole.TABLE,
              new Page.GetByRoleOptions().setName(Pattern.compile("point by point")));
      assertThat(table.getByRole(AriaRole.ROW)).not().hasCount(0);
      int before = table.getByRole(AriaRole.ROW).count();
      line.cut();
      Locator head = page.getByRole(AriaRole.BANNER);
      assertThat(head).containsText("no word from Jam Jar for");
      line.mend();
      assertThat(head).not().containsText("no word from Jam Jar for");
      moves(page);
      // it was read all the time, each second: what was not told meanwhile is fetched
      page.waitForCondition(() -> longestWay(table) <= 2);
      List<String> rows = table.getByRole(AriaRole.ROW).allTextContents();
      long now = System.currentTimeMillis();
      // on a machine that has much else to do a second may be missed in earnest
      List<Missed> missed = missed(site.api().points(first, one, now - 300_000, now));
      assertThat(rows.subList(1, rows.size() - before))
          .isNotEmpty()
          .noneMatch(row -> TOLD_NOTHING.test(row) && missed.stream().noneMatch(m -> m.has(row)));
    }
  }

  /** From one reading to the next where they are so far apart that a gap is drawn. */
  private record Missed(LocalTime from, LocalTime to) {
    boolean has(String row) {
      LocalTime at = LocalTime.parse(row.substring(0, 8));
      return !at.plusSeconds(1).isBefore(from) && !at.isAfter(to);
    }
  }

  private static List<Missed> missed(JsonNode points) {
    List<Missed> missed = new ArrayList<>();
    long last = Long.MAX_VALUE;
    for (int i = 0; i < points.get("at").size(); i++) {
      if (points.get("mean").get(i).isNull()) {
        continue;
      }
      long at = points.get("at").get(i).asLong();
      if (at - last > 2500) {
        missed.add(new Missed(time(last), time(at)));
      }
      last = at;
    }
    return missed;
  }

  private static LocalTime time(long at) {
    return LocalTime.ofInstant(Instant.ofEpochMilli(at), ZoneId.systemDefault());
  }

  /** The longest time from one row to the next, s, of the last two minutes. */
  private static long longestWay(Locator table) {
    List<LocalTime> times =
        table.getByRole(AriaRole.ROWHEADER).allTextContents().stream()
            .map(LocalTime::parse)
            .toList();
    long longest = 0;
    for (int i = 1; i < times.size() && i < 60; i++) {
      longest = Math.max(longest, Duration.between(times.get(i), times.get(i - 1)).toSeconds());
    }
    return longest;
  }

  @Test
  void a_link_shows_the_same_moment_in_another_browser_elsewhere() {
    Page here = site.page();
    here.navigate(site.address() + "/now?pick=" + first + "&w=5min");
    moves(here);
    here.keyboard().press("[");
    assertThat(here).hasURL(Pattern.compile("from=.*to=.*zone="));
    String words = time(here).textContent();

    Page there = site.page(new Browser.NewContextOptions().setTimezoneId("Pacific/Auckland"));
    there.navigate(here.url());
    assertThat(time(there)).hasText(words);
    there.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("in mine")).click();
    assertThat(time(there)).not().hasText(words);
    assertThat(there).hasURL(Pattern.compile("zone=Pacific"));
  }

  private static void note(Request request, List<String> streams) {
    if (request.method().equals("GET") && request.url().endsWith("/api/live")) {
      streams.add(request.url());
    }
  }

  /** Its charts go on: the head says of a reading that it was just now, and a value changes. */
  private static void moves(Page page) {
    Locator value = page.getByTestId("value");
    assertThat(value.first()).isVisible();
    List<String> before = value.allTextContents();
    page.waitForCondition(() -> !value.allTextContents().equals(before));
  }

  private static Locator time(Page page) {
    return page.getByRole(AriaRole.CONTENTINFO, new Page.GetByRoleOptions().setName("Time"))
        .getByRole(AriaRole.STRONG);
  }

  private static Locator shelfRow(Page page, String name) {
    return page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Shelf"))
        .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name));
  }
}
