package jamjar.bench;

import jamjar.standins.WatchedInstance;
import jamjar.standins.servers.Profile;
import jamjar.standins.servers.Servers;
import jamjar.standins.servers.SimServer;
import jamjar.standins.servers.SimServer.Silence;
import jamjar.standins.servers.Skerry;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;

/**
 * Many stand-in servers in a process of their own: application servers first, then JVMs.
 *
 * @param words what it is told
 * @param ports where they answer, in their order
 */
record Targets(Process process, BufferedWriter words, List<Integer> ports)
    implements AutoCloseable {
  /** The command that starts the process; not listed, as nobody calls it by hand. */
  static final String COMMAND = "collect-targets";

  /** With so many more steps an application has about 200 series. */
  static final int STEPS = 10;

  /**
   * Starts it.
   *
   * @param heapMegabytes its heap
   * @param steps how many steps an application has more than usual
   */
  static Targets start(Path folder, int heapMegabytes, int applicationServers, int jvms, int steps)
      throws IOException {
    Path jar = Path.of(System.getProperty("jamjar.home", "."), "bench/target/bench-0.1.0-exec.jar");
    Process process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx" + heapMegabytes + "m",
                "-jar",
                jar.toString(),
                COMMAND,
                folder.toString(),
                Integer.toString(applicationServers),
                Integer.toString(jvms),
                Integer.toString(steps))
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
    return new Targets(process, process.outputWriter(), ports);
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

  /** One of them as it is brought under watch. */
  static WatchedInstance instance(int number, boolean application, int port, int intervalS) {
    return new WatchedInstance(
        (application ? "server-" : "jvm-") + number,
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
        intervalS,
        List.of());
  }

  /**
   * The process: says its ports, then does as it is told.
   *
   * @param options the folder, how many application servers and JVMs, and how many more steps an
   *     application has
   */
  static void serve(String[] options) throws Exception {
    int applicationServers = Integer.parseInt(options[1]);
    int jvms = Integer.parseInt(options[2]);
    List<Profile> profiles = new ArrayList<>();
    Profile booking = Skerry.servers().get(0);
    List<Profile.Step> steps = new ArrayList<>(booking.steps());
    for (int i = 1; i <= Integer.parseInt(options[3]); i++) {
      steps.add(new Profile.Step("booking", "step " + i, 0.1, 20 + i));
    }
    for (int i = 0; i < applicationServers + jvms; i++) {
      boolean application = i < applicationServers;
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
}
