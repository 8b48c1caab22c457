package jamjar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Page;
import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.ManagedServer;
import java.lang.management.ManagementFactory;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.time.Duration;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javax.management.MBeanServer;
import javax.management.MBeanServerFactory;
import javax.management.ObjectName;
import org.junit.jupiter.api.Test;

/**
 * How long it takes from a key press in the search of counters to the painted list, over 5,000
 * series of one server that are read for real. Run by {@code ./jamjar bench search}.
 */
class SearchBench {
  private static final int QUEUES = 715;
  private static final String WORDS = "pending manifest oldest 7 consumers refund depth 12 waiting";

  /** What a queue tells. */
  public interface QueueMXBean {
    int getPending();

    int getConsumers();

    double getOldest();

    long getIn();

    long getOut();

    long getRefused();

    long getRepeated();
  }

  /** A queue in which nothing happens. */
  public static final class Queue implements QueueMXBean {
    @Override
    public int getPending() {
      return 3;
    }

    @Override
    public int getConsumers() {
      return 2;
    }

    @Override
    public double getOldest() {
      return 1.5;
    }

    @Override
    public long getIn() {
      return System.currentTimeMillis();
    }

    @Override
    public long getOut() {
      return System.currentTimeMillis();
    }

    @Override
    public long getRefused() {
      return 0;
    }

    @Override
    public long getRepeated() {
      return 0;
    }
  }

  @Test
  void from_a_key_press_to_the_painted_list() throws Exception {
    MBeanServer beans = MBeanServerFactory.newMBeanServer();
    for (int i = 0; i < QUEUES; i++) {
      String name = List.of("manifest", "refund", "gate", "customs").get(i % 4) + "." + i;
      beans.registerMBean(new Queue(), new ObjectName("many:queue=" + name));
    }
    for (String own : List.of(ManagementFactory.RUNTIME_MXBEAN_NAME)) {
      beans.registerMBean(ManagementFactory.getRuntimeMXBean(), new ObjectName(own));
    }
    int port;
    try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      port = free.getLocalPort();
    }
    try (Site site = Site.start();
        ManagedServer server = new ManagedServer(beans, port)) {
      site.api().send("PUT", "/api/recipes/many", Map.of("text", recipe()));
      int id = site.api().send("POST", "/api/instances", body(port)).get("id").asInt();
      Await.until(
          "5,000 series",
          Duration.ofMinutes(2),
          () -> site.api().get("/api/instances/" + id + "/series").size() >= 5000);
      int series = site.api().get("/api/instances/" + id + "/series").size();
      Page page = site.page();
      page.navigate(site.address() + "/counters?pick=" + id);
      assertThat(page.getByLabel("Search counters")).isVisible();
      assertThat(page.locator("main table tbody").first()).isVisible();
      page.evaluate(
          """
          () => {
            window.took = []
            const field = document.querySelector('[aria-label="Search counters"]')
            field.addEventListener('keydown', () => {
              const began = performance.now()
              // the frame after the one in which the list was changed has it painted
              requestAnimationFrame(() => requestAnimationFrame(() =>
                window.took.push(performance.now() - began)))
            }, true)
          }
          """);
      page.getByLabel("Search counters").focus();
      for (int round = 0; round < 3; round++) {
        for (char letter : WORDS.toCharArray()) {
          press(page, letter == ' ' ? "Space" : String.valueOf(letter));
          if (letter == ' ') {
            page.getByLabel("Search counters").press("Control+a");
            press(page, "Backspace");
          }
        }
      }
      double[] took =
          ((List<?>) page.evaluate("() => window.took"))
              .stream().mapToDouble(v -> ((Number) v).doubleValue()).sorted().toArray();
      System.out.printf(
          "bench search, %s, %d cores, Java %s%n",
          ZonedDateTime.now(ZoneOffset.UTC)
              .format(DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'")),
          Runtime.getRuntime().availableProcessors(),
          Runtime.version().feature());
      System.out.printf(
          Locale.ROOT,
          "search over %d series, %d key presses, key press to painted list:"
              + " median %.0f ms, p95 %.0f ms, worst %.0f ms%n",
          series,
          took.length,
          took[took.length / 2],
          took[(int) Math.ceil(took.length * 0.95) - 1],
          Arrays.stream(took).max().orElse(Double.NaN));
    }
  }

  private static void press(Page page, String key) {
    int before = ((Number) page.evaluate("() => window.took.length")).intValue();
    page.keyboard().press(key);
    page.waitForFunction("n => window.took.length > n", before);
  }

  private static String recipe() {
    StringBuilder text = new StringBuilder();
    text.append("kind: appserver\nname: Many queues\npaces: {fast: 10}\ngroups: {queues: fast}\n");
    text.append(
        "beans:\n- group: queues\n  name: 'many:queue=*'\n  labels: {queue: queue}\n  read:\n");
    for (String name :
        List.of("Pending", "Consumers", "Oldest", "In", "Out", "Refused", "Repeated")) {
      text.append("  - {counter: many.").append(name.toLowerCase(Locale.ROOT));
      text.append(", attribute: ").append(name).append("}\n");
    }
    text.append("counters:\n");
    text.append(counter("pending", "Pending messages", "level"));
    text.append(counter("consumers", "Consumers", "level"));
    text.append(counter("oldest", "Oldest message", "level"));
    text.append(counter("in", "Messages in", "total"));
    text.append(counter("out", "Messages out", "total"));
    text.append(counter("refused", "Refused for depth", "total"));
    text.append(counter("repeated", "Given out again", "total"));
    return text.toString();
  }

  private static String counter(String key, String title, String shape) {
    return "- {key: many."
        + key
        + ", title: "
        + title
        + ", group: queues, shape: "
        + shape
        + ", subject: queue, worse: up, meaning: What of a queue is waiting or has moved.,"
        + " questions: [Is the queue growing?, Who is waiting?]}\n";
  }

  private static Map<String, Object> body(int port) {
    Map<String, Object> body =
        new HashMap<>(WatchedInstance.engine("many", port, "", "", "", 10).body());
    body.put("kind", "appserver");
    body.put("recipe", "many");
    return body;
  }
}
