package jamjar.store.cluster;

import java.io.IOException;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/**
 * A PostgreSQL cluster of our own on loopback: made, started and stopped from here. Never run as
 * root: when started as root it runs as Debian's unprivileged {@code postgres} user, and its folder
 * must lie where that user can reach it.
 */
public final class PrivateCluster {
  private static final String UNPRIVILEGED = "postgres";
  private static final Path DEBIAN = Path.of("/usr/lib/postgresql");

  /** A cluster that does not start, stop or answer by then does not. */
  private static final Duration ADMIN = Duration.ofSeconds(120);

  /** To copy a database takes as long as it is large. */
  private static final Duration COPY = Duration.ofDays(7);

  /** What {@code pg_ctl status} ends with when no server runs. */
  private static final int NO_SERVER = 3;

  private final Path folder;
  private final Path binaries;
  private final boolean root = "root".equals(System.getProperty("user.name"));
  private final List<String> under;

  /**
   * @param folder where the data, the log and the password of the superuser lie
   */
  public PrivateCluster(Path folder) {
    this(folder, List.of());
  }

  /**
   * @param folder as above
   * @param under the command that its own commands are run by, such as one that sets another clock
   */
  public PrivateCluster(Path folder, List<String> under) {
    this.folder = folder.toAbsolutePath();
    this.binaries = binaries();
    this.under = List.copyOf(under);
  }

  /**
   * Starts the cluster, after making it when it is not there yet. One that runs already is used as
   * it is.
   *
   * @param settings settings of {@code postgresql.conf}; written at each start
   */
  public void start(Map<String, String> settings) {
    if (!Files.exists(data().resolve("PG_VERSION"))) {
      make();
    }
    if (running()) {
      return;
    }
    StringBuilder conf = new StringBuilder();
    int port = choosePort();
    conf.append("listen_addresses = '127.0.0.1'\nport = ").append(port).append('\n');
    conf.append("unix_socket_directories = ''\n");
    settings.forEach((name, value) -> conf.append(name).append(" = '").append(value).append("'\n"));
    write(data().resolve("jamjar.conf"), conf.toString());
    run(
        List.of(
            binaries.resolve("pg_ctl").toString(),
            "--pgdata=" + data(),
            "--log=" + folder.resolve("postgresql.log"),
            "--wait",
            "--timeout=60",
            "start"));
  }

  /**
   * Starts the cluster as a streaming replica of another that runs, after copying that one when
   * this is not there yet.
   *
   * @param slot a physical replication slot there
   * @param settings as of {@link #start}
   */
  public void startReplicaOf(PrivateCluster primary, String slot, Map<String, String> settings) {
    String secret = primary.password();
    Path whole = data().resolve("standby.signal");
    if (!Files.exists(whole)) {
      // a copy that was broken off would start as an engine of its own
      remove();
      makeFolder(secret);
      tool(
          "pg_basebackup",
          primary.port(),
          List.of("--pgdata=" + data(), "--checkpoint=fast", "--no-sync"));
      write(whole, "");
    }
    Map<String, String> all = new java.util.HashMap<>(settings);
    all.put(
        "primary_conninfo",
        "host=127.0.0.1 port="
            + primary.port()
            + " user=postgres application_name="
            + folder.getFileName()
            + " passfile="
            + passwords());
    all.put("primary_slot_name", slot);
    start(all);
  }

  /**
   * Stops the cluster and waits for it; one that does not run is left alone, also when the file of
   * its process is still there, as after the machine was switched off.
   */
  public void stop() {
    if (running()) {
      run(
          List.of(
              binaries.resolve("pg_ctl").toString(),
              "--pgdata=" + data(),
              "--mode=fast",
              "--wait",
              "--timeout=60",
              "stop"));
    }
  }

  /** Whether its server process is there. */
  public boolean running() {
    if (!Files.exists(data().resolve("postmaster.pid"))) {
      return false;
    }
    List<String> command =
        asUnprivileged(
            List.of(binaries.resolve("pg_ctl").toString(), "--pgdata=" + data(), "status"));
    Ran ran = Ran.of(command, folder, ADMIN);
    if (ran.code() != 0 && ran.code() != NO_SERVER) {
      // not to know is not to know that it does not run
      throw new ClusterFailed(String.join(" ", command), ran.output(), null);
    }
    return ran.code() == 0;
  }

  /** Runs one of PostgreSQL's own tools on it, as the superuser. */
  void tool(String name, List<String> options) {
    tool(name, port(), options);
  }

  private void tool(String name, int port, List<String> options) {
    List<String> command =
        new ArrayList<>(
            List.of(
                "env",
                "PGPASSFILE=" + passwords(),
                binaries.resolve(name).toString(),
                "--host=127.0.0.1",
                "--port=" + port,
                "--username=postgres"));
    command.addAll(options);
    plain(asUnprivileged(command), COPY);
  }

  /** A file from which the tools take the password: on their command line all could read it. */
  private Path passwords() {
    Path file = folder.resolve("pgpass");
    write(file, "");
    plain(List.of("chmod", "600", file.toString()));
    write(file, "127.0.0.1:*:*:postgres:" + password() + "\n");
    own(file);
    return file;
  }

  /** A place in its folder for a file that the tools write or read, and nobody else. */
  Path room(String name) {
    return folder.resolve(name + "-" + Secrets.random());
  }

  /** The number of its server process. */
  public long process() {
    return Long.parseLong(
        read(data().resolve("postmaster.pid")).lines().findFirst().orElse("0").trim());
  }

  /** The port on 127.0.0.1, as it was chosen by its last start. */
  public int port() {
    return Integer.parseInt(read(portFile()).trim());
  }

  /** The one it had, when nobody else has taken it since. */
  private int choosePort() {
    if (Files.exists(portFile()) && free(port())) {
      return port();
    }
    int port = freePort();
    write(portFile(), Integer.toString(port));
    return port;
  }

  private Path portFile() {
    return folder.resolve("port");
  }

  /** The password of the superuser {@code postgres}, made at random with the cluster. */
  public String password() {
    return read(folder.resolve("password")).trim();
  }

  /**
   * @param database name of a database of the cluster
   */
  public String url(String database) {
    return "jdbc:postgresql://127.0.0.1:" + port() + "/" + database;
  }

  /** Stops the cluster and removes its folder. */
  public void remove() {
    stop();
    if (!Files.exists(folder)) {
      return;
    }
    try (Stream<Path> paths = Files.walk(folder)) {
      for (Path path : paths.sorted(java.util.Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(path);
      }
    } catch (IOException e) {
      throw new ClusterFailed("removing " + folder, e.getMessage(), e);
    }
  }

  private Path data() {
    return folder.resolve("data");
  }

  private void makeFolder(String secret) {
    try {
      Files.createDirectories(folder);
    } catch (IOException e) {
      throw new ClusterFailed("making the folder " + folder, e.getMessage(), e);
    }
    Path password = folder.resolve("password");
    write(password, secret);
    own(folder);
    plain(List.of("chmod", "700", folder.toString()));
    plain(List.of("chmod", "600", password.toString()));
  }

  /** Gives a file to the user that the tools run as. */
  void own(Path path) {
    if (root) {
      plain(List.of("chown", "-R", UNPRIVILEGED + ":", path.toString()));
    }
  }

  private void make() {
    makeFolder(Secrets.random());
    Path password = folder.resolve("password");
    run(
        List.of(
            binaries.resolve("initdb").toString(),
            "--pgdata=" + data(),
            "--username=postgres",
            "--pwfile=" + password,
            "--auth=scram-sha-256",
            "--encoding=UTF8",
            "--locale=C.UTF-8",
            "--no-sync",
            "--no-instructions"));
    Path conf = data().resolve("postgresql.conf");
    write(conf, read(conf) + "\ninclude_if_exists = 'jamjar.conf'\n");
  }

  private static Path binaries() {
    try (Stream<Path> versions = Files.exists(DEBIAN) ? Files.list(DEBIAN) : Stream.empty()) {
      return versions
          .map(version -> version.resolve("bin"))
          .filter(bin -> Files.isExecutable(bin.resolve("initdb")))
          .max(Path::compareTo)
          .orElseThrow(
              () ->
                  new ClusterFailed(
                      "looking for PostgreSQL in " + DEBIAN,
                      "nothing there; install it with: apt-get install postgresql",
                      null));
    } catch (IOException e) {
      throw new ClusterFailed("looking for PostgreSQL in " + DEBIAN, e.getMessage(), e);
    }
  }

  /** A port of 127.0.0.1 that nobody listens on. */
  public static int freePort() {
    try (ServerSocket socket = new ServerSocket(0, 1, java.net.InetAddress.getLoopbackAddress())) {
      return socket.getLocalPort();
    } catch (IOException e) {
      throw new ClusterFailed("looking for a free port of 127.0.0.1", e.getMessage(), e);
    }
  }

  private static boolean free(int port) {
    try (ServerSocket socket =
        new ServerSocket(port, 1, java.net.InetAddress.getLoopbackAddress())) {
      return socket.isBound();
    } catch (IOException e) {
      return false;
    }
  }

  private void write(Path file, String text) {
    try {
      Files.writeString(file, text);
    } catch (IOException e) {
      throw new ClusterFailed("writing " + file, e.getMessage(), e);
    }
  }

  private String read(Path file) {
    try {
      return Files.readString(file);
    } catch (IOException e) {
      throw new ClusterFailed("reading " + file, e.getMessage(), e);
    }
  }

  private void run(List<String> command) {
    plain(asUnprivileged(command));
  }

  private List<String> asUnprivileged(List<String> command) {
    List<String> whole = new ArrayList<>();
    if (root) {
      whole.addAll(List.of("runuser", "-u", UNPRIVILEGED, "--"));
    }
    whole.addAll(under);
    whole.addAll(command);
    return whole;
  }

  private void plain(List<String> command) {
    plain(command, ADMIN);
  }

  private void plain(List<String> command, Duration within) {
    Ran ran = Ran.of(command, folder, within);
    if (ran.code() != 0) {
      throw new ClusterFailed(String.join(" ", command), ran.output(), null);
    }
  }

  /** What a command printed and how it ended. */
  private record Ran(int code, String output) {
    static Ran of(List<String> command, Path folder, Duration within) {
      try {
        Path output = Files.createTempFile("jamjar-cluster", ".txt");
        try {
          // a file, not a pipe: the server that pg_ctl leaves behind would hold a pipe open
          Process process =
              new ProcessBuilder(command)
                  .directory(Files.isDirectory(folder) ? folder.toFile() : null)
                  .redirectErrorStream(true)
                  .redirectOutput(output.toFile())
                  .start();
          try {
            if (!process.waitFor(within.toSeconds(), TimeUnit.SECONDS)) {
              return new Ran(-1, "no end after " + within.toSeconds() + " s");
            }
          } finally {
            process.destroyForcibly();
          }
          byte[] bytes = Files.readAllBytes(output);
          int from = Math.max(0, bytes.length - 2000);
          return new Ran(
              process.exitValue(),
              new String(Arrays.copyOfRange(bytes, from, bytes.length), StandardCharsets.UTF_8));
        } finally {
          Files.deleteIfExists(output);
        }
      } catch (IOException e) {
        return new Ran(-1, e.getMessage());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return new Ran(-1, "interrupted");
      }
    }
  }
}
