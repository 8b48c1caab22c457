package jamjar.standins;

import jamjar.standins.inbox.Inbox;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** Has the ferry company's people told, at the inbox that ships with the demo. */
final class ToldPeople {
  private static final String MAIL = "mail";
  private static final String CHAT = "chat";
  private static final String ON_CALL = "duty:on call";
  private static final String ZONE = "Europe/Oslo";
  private static final Map<String, Object> ALWAYS =
      Map.of("days", List.of(), "from", 0, "to", 0, "holidays", "as_any");

  private final Watching watching;
  private final Inbox inbox;

  ToldPeople(Watching watching, Inbox inbox) {
    this.watching = watching;
    this.inbox = inbox;
  }

  /** Ports are other ones at each start; who is told is set once, and people's to change. */
  void set() throws IOException, InterruptedException {
    Map<String, Object> mail = new HashMap<>();
    mail.put(
        "mail",
        Map.of(
            "host",
            "127.0.0.1",
            "port",
            inbox.mailPort(),
            "tls",
            "off",
            "ca",
            "",
            "user",
            "",
            "from",
            "jamjar@skerryline.invalid"));
    mail.put("hook", null);
    mail.put("secret", "");
    watching.put("/api/channels/" + MAIL, mail);
    Map<String, Object> chat = new HashMap<>();
    chat.put("mail", null);
    chat.put(
        "hook",
        Map.of(
            "url", inbox.hook(CHAT).toString(),
            "ca", "",
            "template", "{\"text\": \"{{subject}} {{link}}\"}"));
    chat.put("secret", "made-up-and-shared");
    watching.put("/api/channels/" + CHAT, chat);
    JsonNode plan = watching.get("/api/telling");
    if (plan.get("version").asInt() == 0) {
      watching.put("/api/telling", plan());
    }
  }

  private static Map<String, Object> plan() {
    Map<String, Object> plan = new HashMap<>();
    plan.put("version", 0);
    plan.put("zone", ZONE);
    plan.put("reportMinute", 420);
    plan.put("people", List.of(person("eskil"), person("sunniva"), person("ragna")));
    plan.put(
        "duties",
        List.of(
            Map.of(
                "name",
                "on call",
                "people",
                List.of("eskil", "sunniva"),
                "from",
                "2026-01-05",
                "days",
                7,
                "minute",
                480,
                "swaps",
                List.of())));
    List<Map<String, Object>> rules = new ArrayList<>();
    rules.add(
        rule(
            "What is not normal, and forecasts, wake nobody",
            Map.of("conditions", List.of("outside", "reaches")),
            List.of(step(ON_CALL, 0, "morning"))));
    rules.add(
        rule(
            "Who waits for a lock of the bookings wakes who is on call",
            Map.of(
                "groups", List.of("booking-db"),
                "counters", List.of("sessions.waiting_lock")),
            List.of(step(ON_CALL, 0, "wake"), step("person:ragna", 15, "wake"))));
    rules.add(
        rule(
            "Critical wakes who is on call",
            Map.of("severities", List.of("critical")),
            List.of(
                step(ON_CALL, 0, "wake"),
                step("channel:" + CHAT, 0, "wake"),
                step("person:ragna", 15, "wake"))));
    rules.add(
        rule("All else waits for the morning", Map.of(), List.of(step(ON_CALL, 0, "morning"))));
    plan.put("rules", rules);
    plan.put("heartbeats", List.of(Map.of("channel", CHAT, "address", "", "everyMinutes", 10)));
    return plan;
  }

  private static Map<String, Object> person(String name) {
    return Map.of(
        "name", name,
        "ways", List.of(Map.of("channel", MAIL, "address", name + "@skerryline.invalid")),
        "hours", ALWAYS);
  }

  private static Map<String, Object> step(String to, int after, String urgency) {
    return Map.of("to", to, "afterMinutes", after, "urgency", urgency);
  }

  private static Map<String, Object> rule(
      String name, Map<String, List<String>> fits, List<Map<String, Object>> steps) {
    Map<String, Object> rule = new HashMap<>();
    rule.put("name", name);
    for (String part :
        List.of("sites", "groups", "instances", "tags", "counters", "conditions", "severities")) {
      rule.put(part, fits.getOrDefault(part, List.of()));
    }
    rule.put("hours", ALWAYS);
    rule.put("steps", steps);
    return rule;
  }
}
