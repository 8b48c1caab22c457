package jamjar.bench;

import jamjar.standins.servers.SimServer.Silence;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * A thousand targets, read by a server of 1 GB of heap for half an hour: whether what it keeps
 * grows, and how late it reads. Then 200 of them hang, and all of those are changed at once.
 */
final class EstateBench {
  private static final int TARGETS = 1000;
  private static final int APPLICATION_SERVERS = 600;
  private static final int HANGING = 200;
  private static final int INTERVAL_S = 10;
  private static final int HEAP_MB = 1024;
  private static final int TARGETS_HEAP_MB = 3000;

  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database;
  private final ServerProcess server;
  private final Rest rest;
  private final List<Integer> ids = new ArrayList<>();

  private EstateBench() throws Exception {
    Path jar =
        Path.of(System.getProperty("jamjar.home", "."), "server/target/server-0.1.0-exec.jar");
    database = cluster.newDatabase();
    server = new ServerProcess(jar, cluster, database, HEAP_MB);
    rest = new Rest(server);
  }

  /**
   * @param options the minutes of reading
   */
  static void run(String[] options) throws Exception {
    new EstateBench().all(Bench.minutes(options, 30));
  }

  private void all(int minutes) throws Exception {
    Path folder = Files.createTempDirectory("jamjar-estate");
    try (Targets targets =
            Targets.start(
                folder, TARGETS_HEAP_MB, APPLICATION_SERVERS, TARGETS - APPLICATION_SERVERS, 0);
        server;
        Store store =
            Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password())) {
      server.start();
      add(targets);
      Instant from = Instant.now();
      double cpu = Os.cpuSeconds(server.process());
      double own = Os.cpuSeconds(targets.process().pid());
      int first = Math.max(1, minutes / 3);
      Thread.sleep(first * 60_000L);
      double early = measured(first);
      Thread.sleep((minutes - first) * 60_000L);
      double late = measured(minutes);
      Instant to = Instant.now();
      double seconds = (to.toEpochMilli() - from.toEpochMilli()) / 1000.0;
      System.out.printf(
          "kept at minute %d by that of minute %d: %.3f%n", minutes, first, late / early);
      System.out.printf(
          "of a core: server %.1f %%, the targets %.1f %%%n",
          100 * (Os.cpuSeconds(server.process()) - cpu) / seconds,
          100 * (Os.cpuSeconds(targets.process().pid()) - own) / seconds);
      double[] lateness = Lateness.of(store, ids, INTERVAL_S, from, to);
      System.out.printf(
          "%d readings in %.0f s (%.2f %% of those due), begun late by p50 %.0f ms, p99 %.0f ms,"
              + " worst %.0f ms%n",
          lateness.length,
          seconds,
          100.0 * lateness.length / (ids.size() * seconds / INTERVAL_S),
          1000 * Lateness.at(lateness, 0.5),
          1000 * Lateness.at(lateness, 0.99),
          1000 * Lateness.at(lateness, 1));
      hang(targets);
    }
  }

  private void add(Targets targets) throws Exception {
    long began = System.nanoTime();
    List<Future<Integer>> added = new ArrayList<>();
    ExecutorService hands = Executors.newFixedThreadPool(8);
    for (int i = 0; i < TARGETS; i++) {
      Map<String, Object> body = body(targets, i, INTERVAL_S);
      added.add(hands.submit(() -> rest.post("/api/instances", body).get("id").asInt()));
    }
    for (Future<Integer> id : added) {
      ids.add(id.get());
    }
    hands.shutdown();
    System.out.printf(
        "%d targets checked and added in %.0f s%n", TARGETS, (System.nanoTime() - began) / 1e9);
    Thread.sleep(3L * INTERVAL_S * 1000);
    int series = 0;
    for (int id : ids) {
      series += rest.get("/api/instances/" + id + "/series").size();
    }
    System.out.printf(
        "%d series, %.0f each on average, every %d s; heap of %d MB%n",
        series, 1.0 * series / TARGETS, INTERVAL_S, HEAP_MB);
  }

  private static Map<String, Object> body(Targets targets, int place, int intervalS) {
    return Targets.instance(
            place, place < APPLICATION_SERVERS, targets.ports().get(place), intervalS)
        .body();
  }

  /** What the server keeps after a forced collection, in MB. */
  private double measured(int minute) throws Exception {
    double kept = Os.keptMegabytes(server.process());
    System.out.printf(
        "minute %d: %.1f MB kept after a forced collection, %d threads, %d handles%n",
        minute, kept, Os.threads(server.process()), Os.handles(server.process()));
    return kept;
  }

  private void hang(Targets targets) throws Exception {
    List<Integer> places = new ArrayList<>();
    for (int i = 0; i < HANGING; i++) {
      int place = i * TARGETS / HANGING;
      places.add(place);
      targets.say(place + " " + Silence.values()[i % Silence.values().length]);
    }
    Bench.await(
        "they are silent",
        () -> {
          int silent = 0;
          for (int place : places) {
            String state =
                rest.get("/api/instances/" + ids.get(place)).get("state").get("state").asString();
            silent += state.equals("silent") ? 1 : 0;
          }
          return silent == HANGING;
        });
    // all hands at once
    ExecutorService hands = Executors.newFixedThreadPool(HANGING);
    timed(
        "changed (another interval)",
        hands,
        places,
        place -> {
          rest.put("/api/instances/" + ids.get(place) + "?insist=true", body(targets, place, 20));
        });
    timed(
        "paused",
        hands,
        places,
        place -> {
          rest.post("/api/instances/" + ids.get(place) + "/pause", Map.of());
        });
    timed(
        "removed",
        hands,
        places,
        place -> {
          rest.delete("/api/instances/" + ids.get(place));
        });
    hands.shutdown();
    System.out.printf(
        "afterwards: %.1f MB kept, %d threads, %d handles%n",
        Os.keptMegabytes(server.process()),
        Os.threads(server.process()),
        Os.handles(server.process()));
  }

  private interface Doing {
    void at(int place) throws Exception;
  }

  private static void timed(String what, ExecutorService hands, List<Integer> places, Doing doing)
      throws Exception {
    long began = System.nanoTime();
    List<Future<?>> all = new ArrayList<>();
    for (int place : places) {
      all.add(
          hands.submit(
              () -> {
                doing.at(place);
                return null;
              }));
    }
    for (Future<?> one : all) {
      one.get();
    }
    System.out.printf(
        "%d that hang, %s at once: %.1f s%n",
        places.size(), what, (System.nanoTime() - began) / 1e9);
  }
}
