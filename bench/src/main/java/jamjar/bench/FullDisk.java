package jamjar.bench;

import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.Skerry;
import jamjar.store.Store;
import jamjar.store.cluster.PrivateCluster;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;

/**
 * The disk with all that is Jam Jar's, its database and its journal, becomes full while stand-ins
 * that number their answers are read every second, stays so for a time, and has room again: what is
 * told before and meanwhile, and what is there afterwards. A file system in memory, so that it
 * needs to be root.
 */
final class FullDisk {
  private static final int TARGETS = 8;
  private static final int MEGABYTES = 1024;
  private static final int AT_ONCE = 1 << 20;
  private static final int MEGABYTES_A_SECOND = 12;

  private final Path disk = Files.createTempDirectory("jamjar-disk");
  private final Path folder = Files.createTempDirectory("jamjar-full");
  private final Path filler = disk.resolve("filler");
  private final Map<Integer, SimServer> targets = new LinkedHashMap<>();
  private final List<String> told = new ArrayList<>();
  private final TreeSet<Integer> statuses = new TreeSet<>();
  private ServerProcess server;
  private Rest rest;

  private FullDisk() throws IOException {}

  /**
   * @param options for how many seconds it is full
   */
  static void run(String[] options) throws Exception {
    new FullDisk().all(Bench.minutes(options, 60));
  }

  private void all(int seconds) throws Exception {
    call(
        "mount",
        "-t",
        "tmpfs",
        "-o",
        "size=" + MEGABYTES + "m,mode=755",
        "jamjar",
        disk.toString());
    Path home = Path.of(System.getProperty("jamjar.home", "."));
    try (Servers servers =
        Servers.start(Skerry.servers().subList(0, TARGETS), folder, Clock.systemUTC(), 5)) {
      Path data = Files.createDirectory(disk.resolve("data"));
      server = new ServerProcess(home.resolve("server/target/server-0.1.0-exec.jar"), data);
      rest = new Rest(server);
      server.start();
      for (SimServer target : servers.all()) {
        JsonNode added = rest.post("/api/instances", WatchedInstance.server(target, 1).body());
        targets.put(added.get("id").asInt(), target);
      }
      Thread.sleep(15_000);
      long began = System.nanoTime();
      fill(began);
      double full = (System.nanoTime() - began) / 1e9;
      stayFull(seconds);
      Files.delete(filler);
      double again = Bench.await("it reads and stores again", this::allStored);
      System.out.printf(
          "full after %.0f s, for %d s; told before: %s; answers of the API meanwhile: %s%n",
          full, seconds, told, statuses);
      System.out.printf("read and stored again %.1f s after there was room%n", again);
      // by then a silence would have been told
      Thread.sleep(20_000);
      outcome(data);
    } finally {
      server.kill();
      new PrivateCluster(disk.resolve("data/store")).stop();
      call("umount", disk.toString());
    }
  }

  private static void call(String... command) throws Exception {
    int code = new ProcessBuilder(command).inheritIO().start().waitFor();
    if (code != 0) {
      throw new IllegalStateException(String.join(" ", command) + " ended with " + code);
    }
  }

  /** A little at a time, so that it can be told before it is full. */
  private void fill(long began) throws Exception {
    while (write()) {
      Thread.sleep(1_000 / MEGABYTES_A_SECOND);
      if (Files.size(filler) / AT_ONCE % MEGABYTES_A_SECOND == 0) {
        for (JsonNode alert : rest.get("/api/alerts?state=open")) {
          String words =
              alert.get("instanceName").asString()
                  + " "
                  + alert.get("severity").asString()
                  + " "
                  + alert.get("counter").asString();
          if (told.stream().noneMatch(one -> one.startsWith(words))) {
            told.add(
                "%s after %.0f s with %d MB free"
                    .formatted(
                        words,
                        (System.nanoTime() - began) / 1e9,
                        Files.getFileStore(disk).getUsableSpace() >> 20));
          }
        }
      }
    }
  }

  /** Whether there was room for it. */
  private boolean write() {
    try (OutputStream out =
        Files.newOutputStream(filler, StandardOpenOption.CREATE, StandardOpenOption.APPEND)) {
      out.write(new byte[AT_ONCE]);
      return true;
    } catch (IOException e) {
      return false;
    }
  }

  /** What is given free by others is taken as well. */
  private void stayFull(int seconds) throws Exception {
    long until = System.nanoTime() + seconds * 1_000_000_000L;
    while (System.nanoTime() < until) {
      try (OutputStream out =
          Files.newOutputStream(filler, StandardOpenOption.CREATE, StandardOpenOption.APPEND)) {
        out.write(new byte[4_096]);
      } catch (IOException e) {
        // as it should be
        Thread.sleep(50);
      }
      statuses.add(rest.status("/api/alerts?state=open"));
    }
  }

  private boolean allStored() {
    try (Store store = store(disk.resolve("data"))) {
      Instant now = Instant.now();
      for (int id : targets.keySet()) {
        if (Numbered.stored(store, id, now.minusSeconds(3)).length == 0) {
          return false;
        }
      }
      return true;
    } catch (RuntimeException e) {
      return false;
    }
  }

  private static Store store(Path data) {
    PrivateCluster cluster = new PrivateCluster(data.resolve("store"));
    return Store.open(cluster.url("postgres"), "postgres", cluster.password());
  }

  private void outcome(Path data) throws Exception {
    long answers = 0;
    long stored = 0;
    long sealed = 0;
    List<Integer> missing = new ArrayList<>();
    try (Store store = store(data)) {
      for (int id : targets.keySet()) {
        rest.post("/api/instances/" + id + "/pause", Map.of());
      }
      Thread.sleep(5_000);
      for (Map.Entry<Integer, SimServer> target : targets.entrySet()) {
        double[] numbers = Numbered.stored(store, target.getKey(), Instant.EPOCH);
        answers += target.getValue().answered();
        stored += numbers.length;
        missing.add(Numbered.missing(numbers));
      }
      List<String> gaps = new ArrayList<>();
      store
          .watching()
          .touching(Instant.now().minus(Duration.ofHours(1)), Instant.now())
          .forEach(gap -> gaps.add("%.0f s: %s".formatted(gap.lasted() / 1000.0, gap.words())));
      server.kill();
      store.readings().sealer().run(Instant.now().plus(Duration.ofDays(2)));
      for (int id : targets.keySet()) {
        sealed += Numbered.stored(store, id, Instant.EPOCH).length;
      }
      System.out.printf(
          "%d answers given, %d stored, none twice; missing per target %s; packed there are %d%n",
          answers, stored, missing, sealed);
      System.out.println("gaps that are told: " + gaps);
      TreeSet<String> silent = new TreeSet<>();
      store
          .alerts()
          .touching(Instant.EPOCH, Instant.now(), null, 100)
          .forEach(alert -> silent.add(alert.instance() + " " + alert.condition()));
      System.out.println("alerts of what is watched: " + silent);
    }
  }
}
