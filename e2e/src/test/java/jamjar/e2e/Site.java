package jamjar.e2e;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import jamjar.server.JamJarServer;
import jamjar.server.security.Secrets;
import jamjar.standins.DemoFolder;
import jamjar.standins.WatchedInstance;
import jamjar.standins.booking.BookingEngine;
import jamjar.standins.booking.Ledger;
import jamjar.standins.booking.Load;
import jamjar.store.Store;
import jamjar.store.cluster.TemporaryCluster;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/**
 * The whole of it for tests: a real engine under load (or none), a server, and a browser looking at
 * it.
 */
final class Site implements AutoCloseable {
  /** What takes a minute takes three on a machine that has much else to do. */
  static final int PATIENCE_MILLIS = 180_000;

  static final String ADMINISTRATOR = "solveig";
  static final String PASSWORD = "tide tables for nine lanterns";

  private static final String ITSELF = "jamjar";

  private final DemoFolder folder;
  private final Load load;
  private final Ledger ledger = new Ledger();
  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database = cluster.newDatabase();
  private final Path data;
  private final Browsers browsers;
  private final String token = Secrets.fresh();
  private final Api api = new Api(this::address, token);
  private final List<String> options;
  private ConfigurableApplicationContext server;

  private Site(boolean engine, List<String> options) throws Exception {
    this.options = options;
    Path root = Files.createTempDirectory("jamjar-e2e");
    // the engine runs as another user, who must be able to pass through
    root.toFile().setExecutable(true, false);
    folder = new DemoFolder(root);
    data = Files.createTempDirectory("jamjar-e2e-data");
    Files.writeString(data.resolve("program.token"), token);
    if (engine) {
      new BookingEngine(folder).start();
      load = new Load(folder, folder::loadIsOn, ledger);
      load.start(7);
    } else {
      load = null;
    }
    startServer();
    browsers = new Browsers(this);
  }

  static Site start() {
    return start(true, List.of());
  }

  /**
   * @param options of the server, as on the command line
   */
  static Site withoutEngine(String... options) {
    return start(false, List.of(options));
  }

  private static Site start(boolean engine, List<String> options) {
    PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE_MILLIS);
    try {
      return new Site(engine, options);
    } catch (Exception e) {
      throw new IllegalStateException("the site does not start", e);
    }
  }

  /** Leaves it as a person finds it who comes first: nothing under watch, nothing set or marked. */
  void clear() throws Exception {
    for (JsonNode instance : api.get("/api/instances")) {
      if (!instance.get("kind").asString().equals(ITSELF)) {
        api.answer("DELETE", "/api/instances/" + instance.get("id").asInt(), null, Map.of());
      }
    }
    for (JsonNode limit : api.get("/api/limits")) {
      if (!limit.get("shipped").asBoolean()) {
        api.answer("DELETE", "/api/limits/" + limit.get("id").asInt(), null, Map.of());
      }
    }
    long now = System.currentTimeMillis();
    clearMarkers(now - 3_600_000, now + 3_600_000, kind -> true);
    for (JsonNode arrangement : api.get("/api/arrangements")) {
      api.answer(
          "DELETE",
          "/api/arrangements?reach="
              + arrangement.get("reach").asString()
              + "&of="
              + arrangement.get("of").asString(),
          null,
          Map.of());
    }
  }

  /**
   * Takes away what was marked in a window.
   *
   * @param from epoch ms
   * @param to epoch ms
   */
  void clearMarkers(long from, long to, Predicate<String> kind) throws Exception {
    for (JsonNode marker : api.get("/api/markers?from=" + from + "&to=" + to)) {
      if (kind.test(marker.get("kind").asString())) {
        api.answer("DELETE", "/api/markers/" + marker.get("id").asInt(), null, Map.of());
      }
    }
  }

  void startServer() {
    // one after the other: while it starts it writes properties of the process
    synchronized (Site.class) {
      server =
          JamJarServer.application()
              .run(
                  Stream.concat(
                          Stream.of(
                              "--server.port=0",
                              "--jamjar.data=" + data,
                              "--jamjar.database.url=" + cluster.cluster().url(database),
                              "--jamjar.database.user=postgres",
                              "--jamjar.database.password=" + cluster.cluster().password()),
                          options.stream())
                      .toArray(String[]::new));
    }
  }

  void stopServer() {
    server.close();
  }

  Page page() {
    return browsers.page(new Browser.NewContextOptions());
  }

  /** Closes what was opened: a page that is left open goes on drawing what is told live. */
  void closePages() {
    browsers.clear();
  }

  /** In a browser of another kind, or elsewhere. */
  Page page(Browser.NewContextOptions options) {
    return browsers.page(options);
  }

  /**
   * Of one who has a role, made once for all who want one.
   *
   * @param role look, act or shape
   */
  Page pageAs(String role) {
    return browsers.pageAs(role);
  }

  /** Of somebody who has not signed in. */
  Page strangersPage() {
    return browsers.strangersPage();
  }

  /**
   * Where one comes in once.
   *
   * @param name of an account; empty for the first administrator, made or to be made
   */
  String entry(String name) {
    try {
      return api.send("POST", "/api/keys", Map.of("name", name)).get("path").asString();
    } catch (Exception e) {
      throw new IllegalStateException("no key", e);
    }
  }

  String address() {
    return "http://127.0.0.1:" + server.getEnvironment().getProperty("local.server.port");
  }

  int enginePort() {
    return folder.engine().port();
  }

  DemoFolder folder() {
    return folder;
  }

  Ledger ledger() {
    return ledger;
  }

  String readerPassword() {
    try {
      return Files.readString(folder.readerPassword()).strip();
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  /** The number of the instance that is Jam Jar itself. */
  int itself() throws Exception {
    for (JsonNode instance : api.get("/api/instances")) {
      if (instance.get("kind").asString().equals(ITSELF)) {
        return instance.get("id").asInt();
      }
    }
    throw new AssertionError("it does not watch itself");
  }

  /** Brings the engine under watch by the API; its number. */
  int addEngine(String name, int interval) throws Exception {
    JsonNode added = api.send("POST", "/api/instances", instance(name, interval));
    return added.get("id").asInt();
  }

  private Map<String, Object> instance(String name, int interval) {
    return WatchedInstance.engine(
            name, enginePort(), DemoFolder.DATABASE, DemoFolder.READER, readerPassword(), interval)
        .at("booking-db", "Northquay", "")
        .body();
  }

  /** Waits until a counter of an instance has been read for most of the last seconds. */
  void awaitRead(int instance, String counter, int seconds) throws Exception {
    Await.until(
        counter + " is read for half of " + seconds + " s",
        Duration.ofSeconds(180),
        () -> {
          long now = System.currentTimeMillis();
          JsonNode points = api.points(instance, counter, now - 1000L * seconds, now);
          return points.get("mean").size() > 0.5 * seconds;
        });
  }

  /** What the engine's own client says to a query, as its superuser. */
  String psql(String query) throws Exception {
    ProcessBuilder builder =
        new ProcessBuilder(
            "psql",
            "--no-psqlrc",
            "--tuples-only",
            "--no-align",
            "--host=127.0.0.1",
            "--port=" + enginePort(),
            "--username=postgres",
            "--command=" + query,
            DemoFolder.DATABASE);
    builder.environment().put("PGPASSWORD", folder.engine().password());
    Process process = builder.redirectErrorStream(true).start();
    String said = new String(process.getInputStream().readAllBytes()).strip();
    process.waitFor();
    return said;
  }

  /** Where the server keeps what is not in its store. */
  Path data() {
    return data;
  }

  /** As one who may do all, in the database behind the server. */
  Connection intoStore() throws SQLException {
    return cluster.connect(database);
  }

  /** The store behind the server, to look into. */
  Store openStore() {
    return Store.open(cluster.cluster().url(database), "postgres", cluster.cluster().password());
  }

  Api api() {
    return api;
  }

  @Override
  public void close() throws Exception {
    browsers.close();
    stopServer();
    if (load != null) {
      load.close();
      folder.engine().remove();
    }
    remove(folder.root());
    remove(data);
  }

  private static void remove(Path folder) throws IOException {
    try (Stream<Path> paths = Files.walk(folder)) {
      for (Path path : paths.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }
}
