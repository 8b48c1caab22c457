package jamjar.standins.servers;

import jamjar.store.cluster.PrivateCluster;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import javax.management.JMException;

/** All stand-in servers of one process; each keeps its port from start to start. */
public final class Servers implements AutoCloseable {
  private final List<SimServer> servers = new ArrayList<>();
  private final Clock clock;
  private final Thread thread = new Thread(this::run, "skerry");
  private volatile boolean ended;

  private Servers(Clock clock) {
    this.clock = clock;
  }

  /**
   * Starts them.
   *
   * @param folder where ports and mischief lie
   */
  public static Servers start(List<Profile> profiles, Path folder, Clock clock, long seed)
      throws IOException, JMException {
    return start(profiles, folder, clock, Story.NONE, seed);
  }

  /**
   * As above.
   *
   * @param story what happens to them by itself
   */
  public static Servers start(
      List<Profile> profiles, Path folder, Clock clock, Story story, long seed)
      throws IOException, JMException {
    Servers all = new Servers(clock);
    Mischief mischief = new Mischief(folder.resolve("mischief"), clock);
    Path ports = Files.createDirectories(folder.resolve("ports"));
    long next = seed;
    for (Profile profile : profiles) {
      next += 1000;
      SimServer server =
          new SimServer(
              profile,
              port(ports.resolve(profile.name())),
              mischief,
              story,
              next,
              SimServer::sinceEver);
      server.start();
      all.servers.add(server);
    }
    all.thread.setDaemon(true);
    all.thread.start();
    return all;
  }

  private static int port(Path file) throws IOException {
    if (Files.exists(file)) {
      int port = Integer.parseInt(Files.readString(file).trim());
      try (ServerSocket socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
        return socket.getLocalPort();
      } catch (IOException e) {
        // somebody else has it now
      }
    }
    int port = PrivateCluster.freePort();
    Files.writeString(file, Integer.toString(port));
    return port;
  }

  public List<SimServer> all() {
    return servers;
  }

  private void run() {
    long next = System.nanoTime();
    while (!ended) {
      for (SimServer server : servers) {
        try {
          server.second(clock.instant());
        } catch (IOException | JMException e) {
          System.err.println(server.name() + ": " + e.getMessage());
        }
      }
      next += 1_000_000_000L;
      try {
        Thread.sleep(Math.max(1, (next - System.nanoTime()) / 1_000_000));
      } catch (InterruptedException e) {
        return;
      }
    }
  }

  @Override
  public void close() throws IOException {
    ended = true;
    thread.interrupt();
    for (SimServer server : servers) {
      server.close();
    }
  }
}
