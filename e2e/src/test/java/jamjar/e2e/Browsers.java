package jamjar.e2e;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.PlaywrightException;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;

/** The browsers of a site, and who is signed in with them: each of those is made once. */
final class Browsers implements AutoCloseable {
  private static final long DRIVER_WITHIN = Duration.ofSeconds(30).toNanos();
  private static final long DRIVER_AGAIN = Duration.ofMillis(50).toNanos();

  private final Site site;
  private final Playwright playwright;
  private final Browser browser;
  private final Deque<BrowserContext> contexts = new ArrayDeque<>();
  private final Map<String, String> byRole = new HashMap<>();
  private String signedIn;

  Browsers(Site site) {
    this.site = site;
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
    long began = System.nanoTime();
    while (true) {
      try {
        return Playwright.create(
            new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
      } catch (PlaywrightException e) {
        boolean busy = String.valueOf(e.getCause()).contains("Text file busy");
        if (!busy || System.nanoTime() - began > DRIVER_WITHIN) {
          throw e;
        }
        LockSupport.parkNanos(DRIVER_AGAIN);
      }
    }
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
        site.api().send("POST", "/api/accounts", Map.of("name", name, "role", role, "off", false));
      } catch (Exception e) {
        throw new IllegalStateException("no account", e);
      }
      Page page = strangersPage();
      page.navigate(site.address() + site.entry(name));
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
    contexts.peek().setDefaultTimeout(Site.PATIENCE_MILLIS);
    return contexts.peek().newPage();
  }

  /** What a browser keeps of the first administrator, who is made once, as a person does it. */
  private String signedIn() {
    if (signedIn == null) {
      Page page = strangersPage();
      page.navigate(site.address() + site.entry(""));
      page.getByLabel("Name").fill(Site.ADMINISTRATOR);
      page.getByLabel("Password", new Page.GetByLabelOptions().setExact(true)).fill(Site.PASSWORD);
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Begin")).click();
      PlaywrightAssertions.assertThat(page.getByRole(AriaRole.BANNER))
          .containsText(Site.ADMINISTRATOR);
      signedIn = page.context().storageState();
      contexts.pop().close();
    }
    return signedIn;
  }

  /** All that were opened are closed. */
  void clear() {
    while (!contexts.isEmpty()) {
      contexts.pop().close();
    }
  }

  @Override
  public void close() {
    browser.close();
    playwright.close();
  }
}
