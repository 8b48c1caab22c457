package jamjar.standins.inbox;

import java.net.URI;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** What a program sends to set by what, and of what, people are told. */
public final class TellingBodies {
  private static final Map<String, Object> ALWAYS =
      Map.of("days", List.of(), "from", 0, "to", 0, "holidays", "as_any");
  private static final List<String> FITS =
      List.of("sites", "groups", "instances", "tags", "counters", "conditions", "severities");

  private TellingBodies() {}

  /** A mail server on loopback that asks for nothing. */
  public static Map<String, Object> mail(int port, String from) {
    Map<String, Object> body = new HashMap<>();
    body.put(
        "mail",
        Map.of(
            "host", "127.0.0.1", "port", port, "tls", "off", "ca", "", "user", "", "from", from));
    body.put("hook", null);
    body.put("secret", "");
    return body;
  }

  /**
   * A web hook.
   *
   * @param template empty for all there is
   */
  public static Map<String, Object> hook(URI url, String template, String secret) {
    Map<String, Object> body = new HashMap<>();
    body.put("mail", null);
    body.put("hook", Map.of("url", url.toString(), "ca", "", "template", template));
    body.put("secret", secret);
    return body;
  }

  /** Somebody who is told by one channel, at any hour. */
  public static Map<String, Object> person(String name, String channel, String address) {
    return Map.of(
        "name",
        name,
        "ways",
        List.of(Map.of("channel", channel, "address", address)),
        "hours",
        ALWAYS);
  }

  /** A duty that people have in turn, each for a week. */
  public static Map<String, Object> duty(String name, List<String> people) {
    return Map.of(
        "name",
        name,
        "people",
        people,
        "from",
        "2026-01-05",
        "days",
        7,
        "minute",
        480,
        "swaps",
        List.of());
  }

  public static Map<String, Object> step(String to, int afterMinutes, String urgency) {
    return Map.of("to", to, "afterMinutes", afterMinutes, "urgency", urgency);
  }

  /**
   * A rule.
   *
   * @param fits what it is for; nothing named for all
   */
  public static Map<String, Object> rule(
      String name, Map<String, List<String>> fits, List<Map<String, Object>> steps) {
    Map<String, Object> rule = new HashMap<>();
    rule.put("name", name);
    for (String part : FITS) {
      rule.put(part, fits.getOrDefault(part, List.of()));
    }
    rule.put("hours", ALWAYS);
    rule.put("steps", steps);
    return rule;
  }

  public static Map<String, Object> plan(
      int version,
      String zone,
      List<Map<String, Object>> people,
      List<Map<String, Object>> duties,
      List<Map<String, Object>> rules,
      List<Map<String, Object>> heartbeats) {
    Map<String, Object> plan = new HashMap<>();
    plan.put("version", version);
    plan.put("zone", zone);
    plan.put("reportMinute", 420);
    plan.put("people", people);
    plan.put("duties", duties);
    plan.put("rules", rules);
    plan.put("heartbeats", heartbeats);
    return plan;
  }

  /** A zone in which it is about noon now: nothing waits for a morning there. */
  public static String noonZone(Instant now) {
    int hour = now.atOffset(ZoneOffset.UTC).getHour();
    return ZoneOffset.ofHours(12 - hour).getId();
  }
}
