package jamjar.bench;

import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.SimServer.Silence;
import jamjar.standins.servers.Skerry;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import jamjar.store.readings.Readings;
import jamjar.store.readings.StoredReading;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/**
 * Many targets in another process, read by the server as a process of its own: how late readings
 * begin, and what the server takes. Then some of the targets fall silent in four ways.
 */
final class CollectBench {
  /** The targets as a process; not listed, as nobody calls it by hand. */
  static final String TARGETS = "collect-targets";

  private static final int APPLICATION_SERVERS = 100;
  private static final int JVMS = 60;
  private static final int ENGINES = 40;
  private static final int SILENT = 20;
  private static final int INTERVAL_S = 10;
  private static final int HEAP_MB = 700;
  private static final int FAST = 1;

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
    try (Other targets = Other.start(folder);
        ServerProcess server = new ServerProcess(jar, cluster, database, HEAP_MB);
        Store store =
            Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      server.start();
      Rest rest = new Rest(server.address());
      List<Integer> servers = new ArrayList<>();
      for (int port : targets.ports()) {
        boolean application = servers.size() < APPLICATION_SERVERS;
        WatchedInstance instance =
            new WatchedInstance(
                (application ? "server-" : "jvm-") + servers.size(),
                application ? "appserver" : "jvm",
                application ? "stand-in" : "jvm",
                "",
                "",
                "",
                List.of(),
                port,
                "",
                "",
                "",
                INTERVAL_S,
                List.of());
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
    double[] lateness = lateness(store, ids, from, to);
    System.out.printf(
        "%s: %d readings in %.0f s (%.1f %% of those due); begun late by p50 %.0f ms, p99 %.0f ms,"
            + " worst %.0f ms (by the server's own measure, of all: %.0f ms); server %.1f %% of a"
            + " core, heap at most %.0f MB of %d%n",
        what,
        lateness.length,
        seconds,
        100.0 * lateness.length / (ids.size() * seconds / INTERVAL_S),
        1000 * at(lateness, 0.5),
        1000 * at(lateness, 0.99),
        1000 * at(lateness, 1),
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

  /**
   * From the stored times alone: how much later than its place in the interval each reading was
   * taken, the earliest of an instance being its place.
   */
  private static double[] lateness(Store store, List<Integer> ids, Instant from, Instant to) {
    List<Double> all = new ArrayList<>();
    for (int id : ids) {
      Readings readings = store.readings().readings(id, from, to);
      long[] at =
          readings.all().stream()
              .filter(reading -> reading.source() == FAST)
              .map(StoredReading::at)
              .mapToLong(Instant::toEpochMilli)
              .toArray();
      long interval = INTERVAL_S * 1000L;
      if (at.length == 0) {
        continue;
      }
      // offsets from the first one's place, which may lie before or after it
      long[] offset = new long[at.length];
      for (int i = 0; i < at.length; i++) {
        long rest = Math.floorMod(at[i] - at[0], interval);
        offset[i] = rest > interval / 2 ? rest - interval : rest;
      }
      long earliest = Arrays.stream(offset).min().orElse(0);
      for (long one : offset) {
        all.add((one - earliest) / 1000.0);
      }
    }
    return all.stream().mapToDouble(d -> d).sorted().toArray();
  }

  private static double at(double[] sorted, double share) {
    return sorted.length == 0
        ? Double.NaN
        : sorted[(int) Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
  }

  /** The targets as a process of their own: says its ports, then does as it is told. */
  static void targets(String[] options) throws Exception {
    List<Profile> profiles = new ArrayList<>();
    Profile booking = Skerry.servers().get(0);
    List<Profile.Step> steps = new ArrayList<>(booking.steps());
    for (int i = 1; i <= 10; i++) {
      steps.add(new Profile.Step("booking", "step " + i, 0.1, 20 + i));
    }
    for (int i = 0; i < APPLICATION_SERVERS + JVMS; i++) {
      boolean application = i < APPLICATION_SERVERS;
      profiles.add(
          new Profile(
              "t" + i,
              "",
              "",
              20,
              now -> 1,
              60,
              0.4,
              application ? booking.applications() : List.of(),
              application ? steps : List.of(),
              application ? booking.pools() : List.of(),
              application ? booking.queues() : List.of()));
    }
    Servers servers = Servers.start(profiles, Path.of(options[0]), Clock.systemUTC(), 3);
    for (SimServer server : servers.all()) {
      System.out.println("port " + server.port());
    }
    System.out.println("ready");
    BufferedReader in =
        new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
    for (String line = in.readLine(); line != null; line = in.readLine()) {
      String[] words = line.split(" ");
      servers.all().get(Integer.parseInt(words[0])).fallSilent(Silence.valueOf(words[1]));
    }
    servers.close();
  }

  /** The other process. */
  private record Other(Process process, BufferedWriter words, List<Integer> ports)
      implements AutoCloseable {

    static Other start(Path folder) throws IOException {
      Path jar =
          Path.of(System.getProperty("jamjar.home", "."), "bench/target/bench-0.1.0-exec.jar");
      Process process =
          new ProcessBuilder(
                  Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                  "-Xmx400m",
                  "-jar",
                  jar.toString(),
                  TARGETS,
                  folder.toString())
              .redirectError(ProcessBuilder.Redirect.INHERIT)
              .start();
      List<Integer> ports = new ArrayList<>();
      BufferedReader reader = process.inputReader();
      for (String line = reader.readLine(); !"ready".equals(line); line = reader.readLine()) {
        if (line == null) {
          throw new IOException("the targets ended");
        }
        if (line.startsWith("port ")) {
          ports.add(Integer.parseInt(line.substring(5)));
        }
      }
      return new Other(process, process.outputWriter(), ports);
    }

    void say(String line) throws IOException {
      words.write(line);
      words.newLine();
      words.flush();
    }

    @Override
    public void close() {
      process.destroyForcibly();
      process.onExit().join();
    }
  }
}
