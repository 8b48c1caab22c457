package jamjar.e2e;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.PlaywrightException;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
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
import java.util.ArrayDeque;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/**
 * The whole of it for tests: a real engine under load (or none), a server, and a browser looking at
 * it.
 */
final class Site implements AutoCloseable {
  /** A machine that has much else to do may stand still for half a minute. */
  private static final int PATIENCE_MILLIS = 60_000;

  private static final int DRIVER_TRIES = 5;
  static final String ADMINISTRATOR = "solveig";
  static final String PASSWORD = "tide tables for nine lanterns";

  private final DemoFolder folder;
  private final Load load;
  private final Ledger ledger = new Ledger();
  private final TemporaryCluster cluster = TemporaryCluster.shared();
  private final String database = cluster.newDatabase();
  private final Path data;
  private final Playwright playwright;
  private final Browser browser;
  private final Deque<BrowserContext> contexts = new ArrayDeque<>();
  private final String token = Secrets.fresh();
  private final Api api = new Api(this::address, token);
  private String signedIn;
  private final Map<String, String> byRole = new HashMap<>();
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
    playwright = playwright();
    browser =
        playwright
            .chromium()
            .launch(
                new BrowserType.LaunchOptions()
                    .setExecutablePath(Path.of("/usr/bin/chromium"))
                    .setArgs(
                        List.of(
                            "--no-sandbox",
                            "--disable-gpu",
                            "--disable-quic",
                            "--no-first-run",
                            "--disable-background-networking",
                            "--disable-component-update",
                            "--disable-sync")));
  }

  /**
   * Its driver is written out and then run: another test that begins a process just then holds the
   * file open for a moment, and it can't be run.
   */
  private static Playwright playwright() {
    for (int left = DRIVER_TRIES; ; left--) {
      try {
        return Playwright.create(
            new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
      } catch (PlaywrightException e) {
        boolean busy = String.valueOf(e.getCause()).contains("Text file busy");
        if (!busy || left == 1) {
          throw e;
        }
      }
    }
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
    while (!contexts.isEmpty()) {
      contexts.pop().close();
    }
    for (JsonNode instance : api.get("/api/instances")) {
      if (!instance.get("kind").asString().equals("jamjar")) {
        api.answer("DELETE", "/api/instances/" + instance.get("id").asInt(), null, Map.of());
      }
    }
    for (JsonNode limit : api.get("/api/limits")) {
      if (!limit.get("shipped").asBoolean()) {
        api.answer("DELETE", "/api/limits/" + limit.get("id").asInt(), null, Map.of());
      }
    }
    long now = System.currentTimeMillis();
    for (JsonNode marker :
        api.get("/api/markers?from=" + (now - 3_600_000) + "&to=" + (now + 3_600_000))) {
      api.answer("DELETE", "/api/markers/" + marker.get("id").asInt(), null, Map.of());
    }
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
    return page(new Browser.NewContextOptions());
  }

  /** In a browser of another kind, or elsewhere. */
  Page page(Browser.NewContextOptions options) {
    if (options.viewportSize == null) {
      options.setViewportSize(1280, 800);
    }
    return newPage(options.setStorageState(signedIn()));
  }

  /**
   * Of one who has a role, made once for all who want one.
   *
   * @param role look, act or shape
   */
  Page pageAs(String role) {
    // who administers is made first
    signedIn();
    String state = byRole.get(role);
    if (state == null) {
      String name = role + " alone";
      try {
        api.send("POST", "/api/accounts", Map.of("name", name, "role", role, "off", false));
      } catch (Exception e) {
        throw new IllegalStateException("no account", e);
      }
      Page page = strangersPage();
      page.navigate(address() + entry(name));
      PlaywrightAssertions.assertThat(page.getByRole(AriaRole.BANNER)).containsText(name);
      state = page.context().storageState();
      byRole.put(role, state);
      contexts.pop().close();
    }
    return newPage(
        new Browser.NewContextOptions().setViewportSize(1280, 800).setStorageState(state));
  }

  /** Of somebody who has not signed in. */
  Page strangersPage() {
    return newPage(new Browser.NewContextOptions().setViewportSize(1280, 800));
  }

  private Page newPage(Browser.NewContextOptions options) {
    contexts.push(browser.newContext(options));
    contexts.peek().setDefaultTimeout(PATIENCE_MILLIS);
    return contexts.peek().newPage();
  }

  /** What a browser keeps of the first administrator, who is made once, as a person does it. */
  private String signedIn() {
    if (signedIn == null) {
      Page page = strangersPage();
      page.navigate(address() + entry(""));
      page.getByLabel("Name").fill(ADMINISTRATOR);
      page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill(PASSWORD);
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Begin")).click();
      PlaywrightAssertions.assertThat(page.getByRole(AriaRole.BANNER)).containsText(ADMINISTRATOR);
      signedIn = page.context().storageState();
      contexts.pop().close();
    }
    return signedIn;
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
        counter + " is read for most of " + seconds + " s",
        Duration.ofSeconds(90),
        () -> {
          long now = System.currentTimeMillis();
          JsonNode points = api.points(instance, counter, now - 1000L * seconds, now);
          return points.get("mean").size() > 0.7 * seconds;
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
    browser.close();
    playwright.close();
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
