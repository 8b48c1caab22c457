package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jamjar.standins.inbox.TellingBodies.rule;
import static jamjar.standins.inbox.TellingBodies.step;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jamjar.standins.LimitBodies;
import jamjar.standins.WatchedInstance;
import jamjar.standins.inbox.Inbox;
import jamjar.standins.inbox.Mail;
import jamjar.standins.inbox.TellingBodies;
import jamjar.standins.servers.Mischief;
import jamjar.standins.servers.Mischief.Kind;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer.MethodName;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import tools.jackson.databind.JsonNode;

/** Somebody is told of an alert, finds it, and what becomes of messages is seen. */
@Order(1)
@TestMethodOrder(MethodName.class)
class ToldInBrowserTest {
  private static final Duration SOON = Duration.ofSeconds(120);
  private static final String SHARED = "shared with the chat room";

  /** Far from each other: none of them belongs together with another. */
  private static final List<String> NAMES = List.of("booking-1", "freight-1", "fares-1");

  private static Site site;
  private static Inbox inbox;
  private static Servers servers;
  private static Mischief mischief;

  @BeforeAll
  static void start() throws Exception {
    site = Site.withoutEngine("--jamjar.hooks.own-network=127.0.0.1");
    inbox = Inbox.start(0, 0, Clock.systemUTC());
    Path folder = Files.createTempDirectory("jamjar-told");
    servers =
        Servers.start(
            Skerry.servers().stream().filter(p -> NAMES.contains(p.name())).toList(),
            folder,
            Clock.systemUTC(),
            3);
    mischief = new Mischief(folder.resolve("mischief"), Clock.systemUTC());
    for (SimServer server : servers.all()) {
      WatchedInstance one = WatchedInstance.server(server, 1).withoutUses();
      int id = site.api().send("POST", "/api/instances", one.body()).get("id").asInt();
      Await.until("it is read", SOON, () -> site.api().value(id, "cpu.process") != null);
      site.api().send("POST", "/api/limits", LimitBodies.atOnce(id, "pool.waiting", 0.5));
    }
    site.page();
    put("/api/channels/letters", TellingBodies.mail(inbox.mailPort(), "jamjar@skerryline.invalid"));
    put("/api/channels/chat", TellingBodies.hook(inbox.hook("chat"), "", SHARED));
  }

  @AfterEach
  void closePages() {
    site.closePages();
  }

  @AfterAll
  static void end() throws Exception {
    servers.close();
    inbox.close();
    site.close();
  }

  private static void put(String path, Object body) throws Exception {
    int status = site.api().answer("PUT", path, body, Map.of()).statusCode();
    assertThat(status).as(path).isLessThan(300);
  }

  /** Whoever is named is told of one instance, each after so many minutes; nobody of the rest. */
  private static void plan(String instance, String... to) throws Exception {
    List<Map<String, Object>> steps = new java.util.ArrayList<>();
    for (String one : to) {
      int at = one.lastIndexOf('@');
      steps.add(step(one.substring(0, at), Integer.parseInt(one.substring(at + 1)), "wake"));
    }
    int version = site.api().get("/api/telling").get("version").asInt();
    put(
        "/api/telling",
        TellingBodies.plan(
            version,
            TellingBodies.noonZone(Instant.now()),
            List.of(person("anna"), person("bo"), person(Inbox.UNKNOWN)),
            List.of(TellingBodies.duty("on call", List.of("anna"))),
            List.of(
                rule(
                    "of " + instance,
                    Map.of("instances", List.of(instance), "counters", List.of("pool.waiting")),
                    steps),
                rule("the rest is told to nobody", Map.of(), List.of())),
            List.of(Map.of("channel", "chat", "address", "", "everyMinutes", 1))));
  }

  private static Map<String, Object> person(String name) {
    return TellingBodies.person(name, "letters", name + "@skerryline.invalid");
  }

  private static List<Mail> mailsTo(String name) {
    return inbox.mails().stream().filter(mail -> mail.to().startsWith(name + "@")).toList();
  }

  private static Page.GetByRoleOptions named(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }

  @Test
  void a_who_is_told_finds_that_moment_and_the_next_is_not_told() throws Exception {
    plan("booking-1", "duty:on call@0", "channel:chat@0", "person:bo@1");
    mischief.begin("booking-1", Kind.FILL_POOL, Duration.ofHours(1));
    Await.until("the mail is there", SOON, () -> mailsTo("anna").size() == 1);
    Mail mail = mailsTo("anna").get(0);
    long rose = mail.at();
    assertThat(mail.subject())
        .startsWith("Critical: booking-1: ")
        .contains("normal", "limit 10", "since");
    assertThat(mail.text()).contains("It suggests: ").contains("by the rule \"of booking-1\"");
    assertThat(mail.picture()).isNotEmpty();

    // from the inbox to the moment, by who has not signed in yet
    Page page = site.strangersPage();
    page.navigate(inbox.address().toString());
    page.getByRole(AriaRole.LINK, named(mail.subject())).click();
    Locator picture = page.frameLocator("iframe").getByRole(AriaRole.IMG);
    assertThat(picture).hasAttribute("alt", "Chart: " + mail.subject());
    assertThat((Boolean) picture.evaluate("image => image.complete && image.naturalWidth > 0"))
        .isTrue();
    page.frameLocator("iframe").getByText("Open that moment in Jam Jar").click();
    page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill(Site.ADMINISTRATOR);
    page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill(Site.PASSWORD);
    page.keyboard().press("Enter");
    Locator alert = page.getByRole(AriaRole.REGION, named("Alert").setExact(true));
    assertThat(alert).containsText("booking-1");
    assertThat(alert).containsText("anna was told that it rose, by letters");
    assertThat(alert).containsText("By the rule “of booking-1”.");
    assertThat(alert).containsText("not acknowledged");

    page.getByRole(AriaRole.BUTTON, named("Acknowledge").setExact(true)).click();
    page.getByRole(AriaRole.BUTTON, named("Acknowledge with this note")).click();
    assertThat(alert).containsText("acknowledged");
    assertThat(alert).containsText("bo: not told, " + Site.ADMINISTRATOR + " knew of it by then");
    // due after a minute
    Await.until(
        "the next would be told by now", SOON, () -> System.currentTimeMillis() > rose + 60_000);
    assertThat(mailsTo("bo")).isEmpty();

    mischief.end("booking-1", Kind.FILL_POOL);
    Await.until("that it is over is told", SOON, () -> mailsTo("anna").size() == 2);
    Mail over = mailsTo("anna").get(1);
    assertThat(over.subject()).startsWith("Over: booking-1: ");
    assertThat(over.answerTo()).isEqualTo(mail.id());
    assertThat(alert).containsText("anna was told that it is over, by letters");
    assertThat(mailsTo("bo")).isEmpty();

    signedAndBeating();
  }

  /** The chat room was told too, and can tell that it was Jam Jar; and hears that it is there. */
  private static void signedAndBeating() throws Exception {
    Await.until(
        "it was told, and that Jam Jar is there",
        SOON,
        () ->
            inbox.hooked().stream().anyMatch(one -> one.body().contains("\"rise\""))
                && inbox.hooked().stream()
                    .anyMatch(one -> one.body().contains("is there: 3 of 3")));
    for (var one : inbox.hooked()) {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(SHARED.getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
      String wanted =
          HexFormat.of()
              .formatHex(
                  mac.doFinal((one.time() + "." + one.body()).getBytes(StandardCharsets.UTF_8)));
      assertThat(one.signature()).isEqualTo("sha256=" + wanted);
    }
  }

  @Test
  void b_whatever_a_mail_server_does_each_message_ends_as_it_should() throws Exception {
    Page page = site.page();
    page.navigate(site.address() + "/telling");
    Locator messages = page.getByRole(AriaRole.TABLE, named("Messages"));
    // takes the message, and is gone before it says so; knows one of three not
    inbox.mail("drops");
    plan("freight-1", "person:anna@0", "person:" + Inbox.UNKNOWN + "@0", "person:bo@0");
    mischief.begin("freight-1", Kind.FILL_POOL, Duration.ofHours(1));
    assertThat(messages).containsText("tried 1 ×, again soon");
    inbox.mail("well");
    assertThat(messages).containsText("failed: 550 5.1.1");
    Await.until(
        "what was taken once came again",
        SOON,
        () -> twice("freight-1") && sent("freight-1").equals(List.of("failed", "sent", "sent")));
    assertThat(messages).containsText("sent at attempt 2");

    // greets, and says nothing more
    inbox.mail("hangs");
    plan("fares-1", "person:anna@0");
    int before = mailsTo("anna").size();
    mischief.begin("fares-1", Kind.FILL_POOL, Duration.ofHours(1));
    Await.until(
        "it was tried",
        SOON,
        () -> sent("fares-1").equals(List.of("waiting")) && attempts("fares-1") >= 1);
    page.navigate(site.address() + "/telling?part=channels");
    assertThat(page.getByRole(AriaRole.TABLE, named("Channels")))
        .containsText("nothing gets through since");
    inbox.mail("well");
    Await.until("it got through", SOON, () -> sent("fares-1").equals(List.of("sent")));
    assertThat(mailsTo("anna")).hasSizeGreaterThan(before);
    assertThat(page.getByRole(AriaRole.TABLE, named("Channels")))
        .not()
        .containsText("nothing gets through since");
  }

  /** Whether one and the same message came more than once. */
  private static boolean twice(String instance) {
    return inbox.mails().stream()
        .filter(mail -> mail.subject().contains(" " + instance + ":"))
        .collect(Collectors.groupingBy(Mail::id, Collectors.counting()))
        .values()
        .stream()
        .anyMatch(times -> times > 1);
  }

  private static List<JsonNode> messagesOf(String instance) throws Exception {
    long now = System.currentTimeMillis();
    return site.api()
        .get("/api/messages?from=" + (now - 3_600_000) + "&to=" + (now + 60_000))
        .valueStream()
        .filter(one -> one.get("subject").asString().contains(" " + instance + ":"))
        .filter(one -> one.get("kind").asString().equals("rise"))
        .toList();
  }

  private static List<String> sent(String instance) throws Exception {
    return messagesOf(instance).stream().map(one -> one.get("state").asString()).sorted().toList();
  }

  private static int attempts(String instance) throws Exception {
    return messagesOf(instance).stream()
        .mapToInt(one -> one.get("attempts").asInt())
        .max()
        .orElse(0);
  }

  @Test
  void c_who_is_told_is_set_tried_and_saved_in_the_browser() throws Exception {
    inbox.mail("well");
    Page page = site.page();
    page.navigate(site.address() + "/telling?part=channels");
    Locator form = page.getByRole(AriaRole.MAIN);
    form.getByLabel("Name", new Locator.GetByLabelOptions().setExact(true)).fill("pager");
    form.getByLabel("Mail server").fill("127.0.0.1");
    form.getByLabel("Port").fill(Integer.toString(inbox.mailPort()));
    form.getByLabel("Encryption").selectOption("off");
    page.getByRole(AriaRole.TEXTBOX, named("From")).fill("jamjar@skerryline.invalid");
    page.getByRole(AriaRole.BUTTON, named("Add a channel")).click();
    Locator channels = page.getByRole(AriaRole.TABLE, named("Channels"));
    assertThat(channels).containsText("pager");
    form.getByLabel("Trials by mail go to").fill("carla@skerryline.invalid");
    channels
        .getByRole(AriaRole.ROW)
        .filter(new Locator.FilterOptions().setHasText("pager"))
        .getByText("send a trial")
        .click();
    assertThat(page.getByText("The trial was taken by pager")).isVisible();
    assertThat(mailsTo("carla").get(0).subject()).isEqualTo("Trial: Jam Jar tells by this channel");
    assertThat(Axe.findings(page)).isEmpty();

    page.navigate(site.address() + "/telling?part=people");
    form.getByLabel("Name", new Locator.GetByLabelOptions().setExact(true)).first().fill("carla");
    page.getByRole(AriaRole.BUTTON, named("Add a person")).click();
    form.getByLabel("Channel of carla").selectOption("pager");
    form.getByLabel("Address of carla").fill("carla@skerryline.invalid");
    assertThat(page.getByText("Changed, and not saved")).isVisible();
    page.getByRole(AriaRole.BUTTON, named("Save who is told")).click();
    assertThat(page.getByText("Changed, and not saved")).hasCount(0);
    assertThat(Axe.findings(page)).isEmpty();

    page.navigate(site.address() + "/telling?part=rules");
    page.getByRole(AriaRole.BUTTON, named("Add a rule")).click();
    form.getByLabel("Name", new Locator.GetByLabelOptions().setExact(true)).fill("For carla");
    page.getByRole(AriaRole.BUTTON, named("Tell …")).click();
    form.getByLabel("told is").selectOption("person:carla");
    page.getByRole(AriaRole.BUTTON, named("Try it on the last four weeks")).click();
    assertThat(page.getByRole(AriaRole.REGION, named("Trial")))
        .containsText("The last four weeks had");
    assertThat(Axe.findings(page)).isEmpty();
    page.getByRole(AriaRole.BUTTON, named("Save who is told")).click();
    assertThat(page.getByText("Changed, and not saved")).hasCount(0);
    assertThat(site.api().get("/api/telling").get("rules").get(0).get("name").asString())
        .isEqualTo("For carla");

    page.navigate(site.address() + "/telling");
    page.getByRole(AriaRole.BUTTON, named("swap …")).click();
    form.getByLabel("Who has it instead").fill("carla");
    page.getByRole(AriaRole.BUTTON, named("Swap it")).click();
    assertThat(form).containsText("carla");
    assertThat(Axe.findings(page)).isEmpty();
    assertThat(site.api().get("/api/telling/duty").get(0).get("person").asString())
        .isEqualTo("carla");
  }
}
