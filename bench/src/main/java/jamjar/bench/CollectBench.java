package jamjar.bench;

import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.SimServer.Silence;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/**
 * Many targets in another process, read by the server as a process of its own: how late readings
 * begin, and what the server takes. Then some of the targets fall silent in four ways.
 */
final class CollectBench {
  private static final int APPLICATION_SERVERS = 100;
  private static final int JVMS = 60;
  private static final int ENGINES = 40;
  private static final int SILENT = 20;
  private static final int INTERVAL_S = 10;
  private static final int HEAP_MB = 700;

  private CollectBench() {}

  /**
   * @param options the minutes while all answer; half of it while some do not
   */
  static void run(String[] options) throws Exception {
    int minutes = Bench.minutes(options, 10);
    Path jar =
        Path.of(System.getProperty("jamjar.home", "."), "server/target/server-0.1.0-exec.jar");
    TemporaryCluster watched = TemporaryCluster.start(Map.of("max_connections", "200"));
    TemporaryCluster cluster = TemporaryCluster.shared();
    String database = cluster.newDatabase();
    watched.run("postgres", "create extension pg_stat_statements");
    watched.run("postgres", "create role reader login password 'reader'");
    watched.run("postgres", "grant pg_monitor to reader");
    Path folder = Files.createTempDirectory("jamjar-collect");
    try (Targets targets = Targets.start(folder, 400, APPLICATION_SERVERS, JVMS, Targets.STEPS);
        ServerProcess server = new ServerProcess(jar, cluster, database, HEAP_MB);
        Store store =
            Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      server.start();
      Rest rest = new Rest(server);
      List<Integer> servers = new ArrayList<>();
      for (int port : targets.ports()) {
        WatchedInstance instance =
            Targets.instance(
                servers.size(), servers.size() < APPLICATION_SERVERS, port, INTERVAL_S);
        servers.add(rest.post("/api/instances", instance.body()).get("id").asInt());
      }
      List<Integer> all = new ArrayList<>(servers);
      for (int i = 0; i < ENGINES; i++) {
        WatchedInstance engine =
            WatchedInstance.engine(
                "engine-" + i,
                watched.cluster().port(),
                "postgres",
                "reader",
                "reader",
                INTERVAL_S);
        all.add(rest.post("/api/instances", engine.body()).get("id").asInt());
      }
      Thread.sleep(3L * INTERVAL_S * 1000);
      long series = 0;
      for (int id : all) {
        series += rest.get("/api/instances/" + id + "/series").size();
      }
      System.out.printf(
          "%d targets: %d application servers and %d JVMs over JMX in another process, %d"
              + " connections to PostgreSQL; %d series, %.0f each on average; every %d s%n",
          all.size(),
          APPLICATION_SERVERS,
          JVMS,
          ENGINES,
          series,
          1.0 * series / all.size(),
          INTERVAL_S);
      measured("all answer", minutes, server, store, rest, all);

      List<Integer> fell = new ArrayList<>();
      for (int i = 0; i < SILENT; i++) {
        int place = i * servers.size() / SILENT;
        targets.say(place + " " + Silence.values()[i % Silence.values().length]);
        fell.add(servers.get(place));
      }
      List<Integer> others = new ArrayList<>(all);
      others.removeAll(fell);
      measured(
          SILENT + " silent in four ways; of the others",
          (minutes + 1) / 2,
          server,
          store,
          rest,
          others);
      int silent = 0;
      for (int id : fell) {
        JsonNode state = rest.get("/api/instances/" + id).get("state");
        silent += state.get("state").asString().equals("silent") ? 1 : 0;
      }
      System.out.printf("%d of the %d are told as silent%n", silent, SILENT);
    }
  }

  private static void measured(
      String what, int minutes, ServerProcess server, Store store, Rest rest, List<Integer> ids)
      throws Exception {
    Instant from = Instant.now();
    double cpu = Os.cpuSeconds(server.process());
    double heap = 0;
    double late = 0;
    int own = own(rest);
    for (long end = System.nanoTime() + minutes * 60_000_000_000L; System.nanoTime() < end; ) {
      Thread.sleep(INTERVAL_S * 1000L);
      for (JsonNode series : rest.get("/api/instances/" + own + "/series")) {
        String counter = series.get("counter").asString();
        if (counter.equals("heap.used")) {
          heap = Math.max(heap, series.get("value").asDouble());
        } else if (counter.equals("watch.late")) {
          late = Math.max(late, series.get("value").asDouble());
        }
      }
    }
    Instant to = Instant.now();
    double seconds = (to.toEpochMilli() - from.toEpochMilli()) / 1000.0;
    cpu = Os.cpuSeconds(server.process()) - cpu;
    double[] lateness = Lateness.of(store, ids, INTERVAL_S, from, to);
    System.out.printf(
        "%s: %d readings in %.0f s (%.1f %% of those due); begun late by p50 %.0f ms, p99 %.0f ms,"
            + " worst %.0f ms (by the server's own measure, of all: %.0f ms); server %.1f %% of a"
            + " core, heap at most %.0f MB of %d%n",
        what,
        lateness.length,
        seconds,
        100.0 * lateness.length / (ids.size() * seconds / INTERVAL_S),
        1000 * Lateness.at(lateness, 0.5),
        1000 * Lateness.at(lateness, 0.99),
        1000 * Lateness.at(lateness, 1),
        1000 * late,
        100 * cpu / seconds,
        heap / 1e6,
        HEAP_MB);
  }

  private static int own(Rest rest) throws Exception {
    for (JsonNode instance : rest.get("/api/instances")) {
      if (instance.get("kind").asString().equals("jamjar")) {
        return instance.get("id").asInt();
      }
    }
    throw new IllegalStateException("Jam Jar does not watch itself");
  }
}
