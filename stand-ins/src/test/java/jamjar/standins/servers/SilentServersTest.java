package jamjar.standins.servers;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jamjar.collect.CollectFailed;
import jamjar.collect.Refusal.Reason;
import jamjar.collect.Target;
import jamjar.collect.jmx.JmxCollector;
import jamjar.collect.recipe.LoadedRecipe;
import jamjar.collect.recipe.RecipeFile;
import jamjar.core.counter.Pace;
import jamjar.standins.servers.SimServer.Silence;
import jamjar.store.cluster.PrivateCluster;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Targets that take a call and do not answer it, in four ways, all at once. */
class SilentServersTest {
  private static final LoadedRecipe RECIPE = RecipeFile.shipped("jvm");

  @Test
  void each_is_given_up_in_time_and_another_is_read_meanwhile(@TempDir Path folder)
      throws Exception {
    Mischief mischief = new Mischief(folder, Clock.systemUTC());
    Profile jvm = Skerry.servers().stream().filter(p -> !p.appserver()).findFirst().orElseThrow();
    List<AutoCloseable> opened = new ArrayList<>();
    ExecutorService threads = Executors.newFixedThreadPool(Silence.values().length);
    try {
      Map<Silence, JmxCollector> collectors = new EnumMap<>(Silence.class);
      Map<Silence, SimServer> servers = new EnumMap<>(Silence.class);
      for (Silence way : Silence.values()) {
        SimServer server = new SimServer(jvm, PrivateCluster.freePort(), mischief, 1);
        server.start();
        JmxCollector collector = collector(server);
        collector.read();
        servers.put(way, server);
        collectors.put(way, collector);
        opened.add(server);
        opened.add(collector);
      }
      SimServer other = new SimServer(jvm, PrivateCluster.freePort(), mischief, 1);
      other.start();
      JmxCollector read = collector(other);
      opened.add(other);
      opened.add(read);
      read.read();

      Map<Silence, CompletableFuture<Reason>> reasons = new EnumMap<>(Silence.class);
      for (Silence way : Silence.values()) {
        servers.get(way).fallSilent(way);
        reasons.put(
            way, CompletableFuture.supplyAsync(() -> refused(collectors.get(way)), threads));
      }
      // as long as any of them is waited for
      int readings = 0;
      while (!reasons.values().stream().allMatch(CompletableFuture::isDone)) {
        assertThat(read.read().values()).isNotEmpty();
        readings++;
      }
      assertThat(readings).isGreaterThan(5);
      for (Silence way : Silence.values()) {
        assertThat(reasons.get(way).join()).as(way.name()).isEqualTo(Reason.TIMED_OUT);
      }
    } finally {
      threads.shutdownNow();
      for (AutoCloseable one : opened) {
        one.close();
      }
    }
  }

  private static JmxCollector collector(SimServer server) {
    Target target = new Target("127.0.0.1", server.port(), "", Target.Tls.OFF, "", "", "");
    return JmxCollector.of(target, RECIPE, Pace.FAST, Clock.systemUTC());
  }

  /** At the second try: the connection that was cut off is told as broken off first. */
  private static Reason refused(JmxCollector collector) {
    Reason first = reason(collector);
    return first == Reason.BROKEN_OFF ? reason(collector) : first;
  }

  private static Reason reason(JmxCollector collector) {
    return catchThrowableOfType(CollectFailed.class, collector::read).refusal().reason();
  }
}
