package jamjar.standins;

import static jamjar.standins.inbox.TellingBodies.duty;
import static jamjar.standins.inbox.TellingBodies.hook;
import static jamjar.standins.inbox.TellingBodies.mail;
import static jamjar.standins.inbox.TellingBodies.rule;
import static jamjar.standins.inbox.TellingBodies.step;

import jamjar.standins.inbox.Inbox;
import jamjar.standins.inbox.TellingBodies;
import jamjar.standins.servers.Story;
import java.io.IOException;
import java.util.List;
import java.util.Map;

/** Has the ferry company's people told, at the inbox that ships with the demo. */
final class ToldPeople {
  private static final String MAIL = "mail";
  private static final String CHAT = "chat";
  private static final String ON_CALL = "duty:on call";
  private static final String LEAD = "person:ragna";
  private static final String ZONE = "Europe/Oslo";
  private static final String GATES = "gates";
  private static final int NOBODY_KNOWS = 15;

  private final Watching watching;
  private final Inbox inbox;

  ToldPeople(Watching watching, Inbox inbox) {
    this.watching = watching;
    this.inbox = inbox;
  }

  /** Ports are other ones at each start; who is told is set once, and people's to change. */
  void set() throws IOException, InterruptedException {
    watching.put("/api/channels/" + MAIL, mail(inbox.mailPort(), "jamjar@skerryline.invalid"));
    watching.put(
        "/api/channels/" + CHAT,
        hook(inbox.hook(CHAT), "{\"text\": \"{{subject}} {{link}}\"}", "made-up-and-shared"));
    if (watching.get("/api/telling").get("version").asInt() == 0) {
      watching.put("/api/telling", plan());
    }
  }

  private static Map<String, Object> plan() {
    List<Map<String, Object>> wake =
        List.of(step(ON_CALL, 0, "wake"), step(LEAD, NOBODY_KNOWS, "wake"));
    return TellingBodies.plan(
        0,
        ZONE,
        List.of(person("eskil"), person("sunniva"), person("ragna")),
        List.of(duty("on call", List.of("eskil", "sunniva"))),
        List.of(
            rule(
                "gate-4 is away since its change, as all know",
                Map.of("instances", List.of(Story.GONE, GATES)),
                List.of()),
            rule(
                "What is not normal, and forecasts, wake nobody",
                Map.of("conditions", List.of("outside", "reaches")),
                List.of(step(ON_CALL, 0, "morning"))),
            rule(
                "Who waits for a lock of the bookings wakes who is on call",
                Map.of(
                    "groups", List.of("booking-db"), "counters", List.of("sessions.waiting_lock")),
                wake),
            rule(
                "Critical wakes who is on call",
                Map.of("severities", List.of("critical")),
                List.of(wake.get(0), step("channel:" + CHAT, 0, "wake"), wake.get(1))),
            rule("All else waits for the morning", Map.of(), List.of(step(ON_CALL, 0, "morning")))),
        List.of(Map.of("channel", CHAT, "address", "", "everyMinutes", 10)));
  }

  private static Map<String, Object> person(String name) {
    return TellingBodies.person(name, MAIL, name + "@skerryline.invalid");
  }
}
