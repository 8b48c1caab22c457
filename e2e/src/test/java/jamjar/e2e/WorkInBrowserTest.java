package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.DemoFolder;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Nobody has to believe a number: it says how it was made, and how to make it again. */
@SharedSite
class WorkInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(90);

  /** Their raw values by psql: theirs, ours, theirs. */
  private static final List<String> BY_PSQL =
      List.of(
          "connections.maximum",
          "connections.usable",
          "transactions.prepared",
          "own.sessions",
          "rows.inserted",
          "blocks.hit",
          "wal.bytes",
          "checkpoints.timed",
          "statements.calls",
          "buffers.allocated");

  private static Site site;
  private static int instance;

  @BeforeAll
  static void start(Site shared) throws Exception {
    site = shared;
    instance = site.addEngine("booking-db-a", 1);
    Await.until(
        "rates and ratios are there",
        SOON,
        () -> site.api().value(instance, "statements.mean_time") != null);
  }

  @Test
  void each_value_of_an_engine_and_of_a_jvm_can_be_made_again() throws Exception {
    assertThat(madeAgain(instance)).hasSizeGreaterThan(80);
    assertThat(madeAgain(site.itself())).hasSizeGreaterThan(20);
  }

  /** The counters of which a value was made again by what is told of it. */
  private static Set<String> madeAgain(int of) throws Exception {
    Set<String> counters = new HashSet<>();
    for (JsonNode series : site.api().get("/api/instances/" + of + "/series")) {
      JsonNode work = site.api().get("/api/series/" + series.get("id").asInt() + "/work");
      if (work.get("value").isNull()) {
        continue;
      }
      String name = series.get("counter").asString();
      double[] kept =
          work.get("parts").valueStream().mapToDouble(part -> keptOf(work, part)).toArray();
      double below =
          switch (work.get("shape").asString()) {
            case "level" -> 1;
            case "total" -> work.get("elapsed").asLong() / 1000.0;
            default -> sum(kept) - kept[0];
          };
      double made = kept[0] / below * work.get("factor").asDouble();
      assertThat(made)
          .as(name)
          .isCloseTo(work.get("value").asDouble(), within(1e-9 * Math.max(1, Math.abs(made))));
      assertThat(work.get("interval").asInt()).isPositive();
      counters.add(name);
    }
    return counters;
  }

  private static double sum(double[] all) {
    double sum = 0;
    for (double one : all) {
      sum += one;
    }
    return sum;
  }

  /** What is kept of a part, made again from what was told of it. */
  private static double keptOf(JsonNode work, JsonNode part) {
    double kept = part.get("kept").asDouble();
    double raw = part.get("raw").asDouble(Double.NaN);
    double before = part.get("rawBefore").asDouble(Double.NaN);
    if (!part.get("sumOf").isEmpty()) {
      return part.get("sumOf").valueStream().mapToDouble(one -> keptOf(work, one)).sum();
    }
    double step = part.get("resolution").asDouble();
    if (step > 0 && !Double.isNaN(raw)) {
      return Math.rint(raw / step) * step;
    }
    // what entries were added up to is no difference
    return part.get("byEntries").asBoolean() || Double.isNaN(raw)
        ? kept
        : Double.isNaN(before) ? raw : raw - before;
  }

  @Test
  void what_stands_there_can_be_run_by_hand() throws Exception {
    for (String counter : BY_PSQL) {
      int id = site.api().series(instance).get(counter).get("id").asInt();
      String query = part(id).get("byHand").asString();
      assertThat(part(id).get("how").asString()).contains(DemoFolder.DATABASE);
      Await.until(
          counter + " agrees with psql",
          SOON,
          () -> {
            double before = Double.parseDouble(site.psql(query));
            long asked = System.currentTimeMillis();
            Await.until(
                "a reading that began since",
                SOON,
                () -> site.api().get("/api/series/" + id + "/work").get("at").asLong() > asked);
            double ours = rawOf(part(id));
            double after = Double.parseDouble(site.psql(query));
            return ours >= Math.min(before, after) && ours <= Math.max(before, after);
          });
    }
  }

  private static JsonNode part(int series) throws Exception {
    return site.api().get("/api/series/" + series + "/work").get("parts").get(0);
  }

  /** Of one that is the sum of others, by database, the sum of theirs. */
  private static double rawOf(JsonNode part) {
    return part.get("sumOf").isEmpty()
        ? part.get("raw").asDouble()
        : part.get("sumOf").valueStream().mapToDouble(WorkInBrowserTest::rawOf).sum();
  }

  private static boolean wasReadEachSecond() throws Exception {
    long now = System.currentTimeMillis();
    JsonNode means =
        site.api().points(instance, "transactions.committed", now - 12_000, now).get("mean");
    return means.valueStream().filter(mean -> !mean.isNull()).count() >= 10
        && means.valueStream().noneMatch(JsonNode::isNull);
  }

  @Test
  void a_key_shows_how_a_number_is_made_and_the_past_what_is_kept_of_it() throws Exception {
    site.awaitRead(instance, "transactions.committed", 20);
    Page page = site.page();
    page.navigate(site.address() + "/now?pick=" + instance + "&w=20s");
    Locator card =
        page.locator("main")
            .getByRole(
                AriaRole.ARTICLE, new Locator.GetByRoleOptions().setName("Transactions committed"));
    assertThat(card.getByTestId("value")).containsText(Pattern.compile("[1-9][0-9.]* /s"));
    card.focus();
    page.keyboard().press("w");
    Locator panel = page.getByRole(AriaRole.DIALOG);
    assertThat(panel).containsText("Transactions committed · booking-db-a");
    assertThat(panel).containsText(Pattern.compile("÷ [0-9.]+ s = [0-9.,]+ /s"));
    assertThat(panel).containsText("by its own clock");
    assertThat(panel).containsText("select sum(v.xact_commit::bigint) from pg_stat_database v");
    assertThat(panel).containsText(Pattern.compile("read every 1 s, with [0-9]+ others in"));
    page.keyboard().press("Escape");
    assertThat(panel).isHidden();

    page.waitForFunction("() => !document.body.innerText.includes('Fetching the chart')");
    Locator chart = card.locator("canvas").first();
    // a moment that was read: on a machine that has much else to do some are missed
    Await.until("it is read each second", SOON, WorkInBrowserTest::wasReadEachSecond);
    chart.click(new Locator.ClickOptions().setPosition(0.7 * chart.boundingBox().width, 40));
    assertThat(page.getByText("pinned")).isVisible();
    page.keyboard().press("w");
    assertThat(panel).containsText("of the past what it grew by is kept");
    assertThat(panel).containsText(Pattern.compile("= [0-9.,]+ /s"));
    page.keyboard().press("Escape");
    assertThat(panel).isHidden();
    // by hand as by key: the number that is looked at, not the one of now
    card.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("how")).click();
    assertThat(panel).containsText("of the past what it grew by is kept");
    page.keyboard().press("Escape");
    assertThat(panel).isHidden();
    // without a mouse over it and without a focus on it there is nothing to show
    page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(1)).click();
    page.keyboard().press("w");
    assertThat(panel).isHidden();
  }
}
