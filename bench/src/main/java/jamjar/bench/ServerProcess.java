package jamjar.bench;

import jamjar.server.security.Secrets;
import jamjar.store.cluster.PrivateCluster;
import jamjar.store.cluster.TemporaryCluster;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** The server as the process that a person starts, on a database of its own, to be killed. */
public final class ServerProcess implements AutoCloseable {
  private static final List<String> UP_SOON =
      List.of("-Xmx300m", "-XX:TieredStopAtLevel=1", "-XX:+UseSerialGC");
  private static final long UP_WITHIN_NANOS = 240_000_000_000L;

  private final Path jar;

  /** Options that say which database is used. */
  private final List<String> database;

  private final String password;
  private final int port = PrivateCluster.freePort();
  private final Path data;
  private final List<String> options;
  private final List<String> under;
  private final String token = Secrets.fresh();
  private Process process;

  /**
   * One that is up soon rather than fast later.
   *
   * @param jar the server's executable jar
   * @param database a database of the cluster for its own use
   */
  public ServerProcess(Path jar, TemporaryCluster cluster, String database) throws IOException {
    this(jar, cluster, database, List.of());
  }

  /**
   * @param under the command that it is run by, such as one that sets another clock
   * @param settings of the server, as on its command line
   */
  public ServerProcess(
      Path jar, TemporaryCluster cluster, String database, List<String> under, String... settings)
      throws IOException {
    this(jar, cluster, database, UP_SOON, under, settings);
  }

  ServerProcess(Path jar, TemporaryCluster cluster, String database, int heapMegabytes)
      throws IOException {
    this(jar, cluster, database, List.of("-Xmx" + heapMegabytes + "m"), List.of());
  }

  private ServerProcess(
      Path jar,
      TemporaryCluster cluster,
      String database,
      List<String> options,
      List<String> under,
      String... settings)
      throws IOException {
    this.under = List.copyOf(under);
    this.options = options;
    this.jar = jar;
    this.database =
        Stream.concat(
                Stream.of(
                    "--jamjar.database.url=" + cluster.cluster().url(database),
                    "--jamjar.database.user=postgres"),
                Stream.of(settings))
            .toList();
    this.password = cluster.cluster().password();
    this.data = Files.createTempDirectory("jamjar-killed");
  }

  /**
   * One that keeps all that is its own in a folder, with a private cluster.
   *
   * @param jar the server's executable jar
   */
  ServerProcess(Path jar, Path data) {
    this.under = List.of();
    this.options = UP_SOON;
    this.jar = jar;
    this.database = List.of();
    this.password = "";
    this.data = data;
  }

  public int port() {
    return port;
  }

  public String address() {
    return "http://127.0.0.1:" + port;
  }

  /** By it the programs that ship with it are let in. */
  public String token() {
    return token;
  }

  public String log() throws IOException {
    return Files.readString(data.resolve("server.log"));
  }

  /** Starts it and waits until it is healthy. */
  public void start() throws IOException, InterruptedException {
    launch("--server.address=127.0.0.1");
    long end = System.nanoTime() + UP_WITHIN_NANOS;
    while (!healthy()) {
      if (System.nanoTime() > end || !process.isAlive()) {
        throw new IllegalStateException("the server did not come up:\n" + log());
      }
      Thread.sleep(100);
    }
  }

  /** A question as the program that ships with it, who may all. */
  public HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create(address() + path))
        .header("Authorization", "Bearer " + token);
  }

  /** Starts it without waiting. */
  public Process launch(String option) throws IOException {
    Files.writeString(data.resolve("program.token"), token);
    List<String> command = new ArrayList<>(under);
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(options);
    command.addAll(
        List.of("-jar", jar.toString(), "--server.port=" + port, "--jamjar.data=" + data, option));
    command.addAll(database);
    ProcessBuilder builder = new ProcessBuilder(command);
    // a password on the command line would be there for all to see
    builder.environment().put("JAMJAR_DATABASE_PASSWORD", password);
    process =
        builder
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.appendTo(data.resolve("server.log").toFile()))
            .start();
    return process;
  }

  long process() {
    return process.pid();
  }

  /** Sends it a signal by its name. */
  public void signal(String name) throws IOException, InterruptedException {
    new ProcessBuilder("kill", "-" + name, Long.toString(process.pid())).start().waitFor();
  }

  /** kill -9. */
  public void kill() throws InterruptedException {
    if (process != null) {
      process.destroyForcibly().waitFor();
    }
  }

  private boolean healthy() throws InterruptedException {
    HttpRequest request = request("/api/health").build();
    try {
      return HttpClient.newHttpClient().send(request, BodyHandlers.ofString()).statusCode() == 200;
    } catch (IOException e) {
      return false;
    }
  }

  @Override
  public void close() throws IOException, InterruptedException {
    kill();
    try (Stream<Path> all = Files.walk(data)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }
}
