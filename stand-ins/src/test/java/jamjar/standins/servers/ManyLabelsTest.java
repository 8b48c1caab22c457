package jamjar.standins.servers;

import static org.assertj.core.api.Assertions.assertThat;

import jamjar.collect.Bounds;
import jamjar.collect.Collector;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.core.reading.RawReading;
import jamjar.core.reading.RawValue;
import jamjar.store.cluster.PrivateCluster;
import java.time.Clock;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import javax.management.MBeanServer;
import javax.management.MBeanServerFactory;
import org.junit.jupiter.api.Test;

/** A target with far more labels than anybody looks at. */
class ManyLabelsTest {
  private static final int QUEUES = 50_000;

  @Test
  void of_fifty_thousand_labels_a_bounded_number_is_read_and_the_rest_is_told() throws Exception {
    MBeanServer beans = MBeanServerFactory.newMBeanServer();
    SimBean queue = new SimBean(() -> {}).with("Pending", () -> 3).with("In", () -> 5L);
    for (int i = 0; i < QUEUES; i++) {
      SimJvm.put(beans, "skerry:type=Queue,name=" + "q".repeat(250) + i, queue);
    }
    SimJvm.put(
        beans,
        "skerry:type=Transactions",
        new SimBean(() -> {})
            .with("Committed", () -> 7L)
            .with("RolledBack", () -> 0L)
            .with("TimedOut", () -> 0L)
            .with("Active", () -> 1));
    int port = PrivateCluster.freePort();
    Target target = new Target("127.0.0.1", port, "", Target.Tls.OFF, "", "", "");
    try (ManagedServer server = new ManagedServer(beans, port);
        JmxCollector collector =
            JmxCollector.of(target, RecipeFile.shipped("stand-in"), Pace.FAST, Clock.systemUTC())) {
      assertThat(server).isNotNull();
      // twice: what is left out is the same each time, or its totals would jump
      Set<String> first = labels(collector.read());
      RawReading again = collector.read();
      assertThat(labels(again)).isEqualTo(first);
      assertThat(again.values()).hasSizeLessThan(Bounds.MOST_VALUES);
      assertThat(first).hasSizeBetween(100, Bounds.MOST_ROWS);
      assertThat(first).allMatch(label -> label.length() <= Bounds.LONGEST_LABEL);
      assertThat(collector.facts().get(Collector.EXCESS)).contains("50000");
      // the rest is read as ever
      List<String> counters = again.values().stream().map(v -> v.series().counter()).toList();
      assertThat(counters).contains("transactions.committed");
    }
  }

  private static Set<String> labels(RawReading reading) {
    return reading.values().stream()
        .map(RawValue::series)
        .filter(series -> series.counter().startsWith("queue."))
        .map(series -> series.labels().get("queue"))
        .collect(Collectors.toSet());
  }
}
