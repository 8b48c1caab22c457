package jamjar.server;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;

/** What tests send, and how they wait. */
final class Bodies {
  private Bodies() {}

  /** An engine on 127.0.0.1 that is read every second. */
  static Map<String, Object> engine(String name, int port, String user, String secret) {
    Map<String, Object> body = new HashMap<>();
    body.put("name", name);
    body.put("kind", "postgresql");
    for (String empty : List.of("group", "site", "machine")) {
      body.put(empty, "");
    }
    body.put("tags", List.of());
    body.put(
        "endpoint",
        Map.of("host", "127.0.0.1", "port", port, "database", "postgres", "tls", "off", "ca", ""));
    body.put("credential", Map.of("user", user, "secret", secret));
    body.put("recipe", "postgresql");
    body.put("interval", 1);
    body.put("zone", "Europe/Oslo");
    return body;
  }

  static void await(String what, Callable<Boolean> holds) throws Exception {
    long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(90);
    while (!holds.call()) {
      if (System.nanoTime() > end) {
        throw new AssertionError("never: " + what);
      }
      Thread.sleep(50);
    }
  }
}
