package jamjar.standins;

import java.util.HashMap;
import java.util.Map;

/** Limits as a program sends them. */
public final class LimitBodies {
  private LimitBodies() {}

  /** One of an instance that tells at the first judging, and is calm at the first that is. */
  public static Map<String, Object> atOnce(int instance, String counter, double warning) {
    Map<String, Object> body = new HashMap<>();
    body.put("counter", counter);
    body.put("labels", Map.of());
    body.put("scope", Map.of("level", "instance", "of", Integer.toString(instance)));
    body.put("condition", "above");
    body.put("warning", warning);
    body.put("hold", Map.of("m", 1, "n", 1));
    body.put("clear", Map.of("seconds", 0));
    body.put("on", true);
    body.put("offReason", "");
    return body;
  }
}
