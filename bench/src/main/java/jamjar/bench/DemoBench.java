package jamjar.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** What the demo that is running takes of the machine: its stand-ins, its clusters, the server. */
final class DemoBench {

  private DemoBench() {}

  /**
   * @param options the minutes to look
   */
  static void run(String[] options) throws Exception {
    int minutes = Bench.minutes(options, 2);
    Path demo = Path.of(System.getProperty("jamjar.data", ".")).resolve("demo");
    List<ProcessHandle> estate = new ArrayList<>(withChildren(demo.resolve("estate.pid")));
    try (Stream<Path> clusters = Files.list(demo.resolve("estate"))) {
      for (Path cluster : clusters.toList()) {
        estate.addAll(withChildren(cluster.resolve("data/postmaster.pid")));
      }
    }
    List<ProcessHandle> server = withChildren(demo.resolve("server.pid"));
    List<ProcessHandle> store = withChildren(demo.resolve("store/data/postmaster.pid"));
    double[] before = {cpu(estate), cpu(server), cpu(store)};
    long began = System.nanoTime();
    Thread.sleep(minutes * 60_000L);
    double seconds = (System.nanoTime() - began) / 1e9;
    System.out.printf(
        "of a core over %.0f s: stand-ins and watched clusters %.1f %%, server %.1f %%, its store"
            + " %.1f %%%n",
        seconds,
        100 * (cpu(estate) - before[0]) / seconds,
        100 * (cpu(server) - before[1]) / seconds,
        100 * (cpu(store) - before[2]) / seconds);
  }

  /** The process whose number is the first line of a file, and all below it. */
  private static List<ProcessHandle> withChildren(Path file) throws IOException {
    if (!Files.exists(file)) {
      return List.of();
    }
    long id = Long.parseLong(Files.readAllLines(file).get(0).trim());
    Optional<ProcessHandle> process = ProcessHandle.of(id);
    return process
        .map(p -> Stream.concat(Stream.of(p), p.descendants()).toList())
        .orElse(List.of());
  }

  /** Those that have ended meanwhile count as they did before: a least value. */
  private static double cpu(List<ProcessHandle> processes) throws IOException {
    double sum = 0;
    for (ProcessHandle process : processes) {
      if (process.isAlive()) {
        sum += Os.cpuSeconds(process.pid());
      }
    }
    return sum;
  }
}
