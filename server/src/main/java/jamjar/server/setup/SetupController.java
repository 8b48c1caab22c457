package jamjar.server.setup;

import io.swagger.v3.oas.annotations.media.Schema;
import jamjar.server.security.KeyRing;
import jamjar.server.security.Listening;
import jamjar.server.security.SignOn;
import jamjar.server.settings.Settings;
import java.util.ArrayList;
import java.util.List;
import org.springframework.core.env.Environment;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How the server was set when it was started: told, and changed by starting it otherwise. */
@RestController
@RequestMapping(path = "/api/settings", produces = "application/json")
class SetupController {
  private final Environment environment;
  private final Settings settings;
  private final SignOn signOn;
  private final KeyRing keys;

  SetupController(Environment environment, Settings settings, SignOn signOn, KeyRing keys) {
    this.environment = environment;
    this.settings = settings;
    this.signOn = signOn;
    this.keys = keys;
  }

  /**
   * One thing that is set.
   *
   * @param value in words; never a secret
   * @param by the option of {@code ./jamjar start}, or the variable, that sets it
   */
  @Schema(name = "Setting")
  record Setting(String part, String what, String value, String by) {}

  @GetMapping
  List<Setting> all() {
    List<Setting> all = new ArrayList<>();
    listening(all);
    all.add(new Setting("Single sign-on", "issuer", or(signOn.issuer(), "none"), "--sign-on"));
    if (signOn.isThere()) {
      all.add(new Setting("Single sign-on", "as", signOn.client(), "--sign-on-client"));
      all.add(new Setting("Single sign-on", "called", signOn.name(), "--sign-on-name"));
      all.add(
          new Setting(
              "Single sign-on", "claim of groups", signOn.groups(), "jamjar.sign-on.groups"));
    }
    all.add(new Setting("Passwords", "key from", keys.whence(), "JAMJAR_SECRETS_KEYFILE"));
    String database = settings.database().url();
    all.add(
        new Setting(
            "Store", "database", or(database, "a private one on loopback"), "JAMJAR_DATABASE_URL"));
    all.add(new Setting("Store", "data folder", settings.data().toString(), "JAMJAR_DATA"));
    all.add(
        new Setting(
            "Store",
            "journal while the database is away, at most",
            settings.journal().toGigabytes() + " GB",
            "jamjar.journal"));
    all.add(
        new Setting(
            "Telling",
            "links in messages begin with",
            or(environment.getProperty("jamjar.address", ""), "the address it listens on"),
            "jamjar.address"));
    all.add(
        new Setting(
            "Telling",
            "hooks may lead into the own network to",
            or(environment.getProperty("jamjar.hooks.own-network", ""), "nowhere"),
            "JAMJAR_HOOKS_OWNNETWORK"));
    all.add(
        new Setting(
            "Reading",
            "sessions are sampled every",
            settings.samples().toSeconds() + " s",
            "jamjar.samples"));
    return all;
  }

  private void listening(List<Setting> all) {
    Listening listening = Listening.of(environment);
    String port = environment.getProperty("local.server.port", "");
    all.add(
        new Setting("Listening", "address", listening.address() + ":" + port, "--listen, --port"));
    all.add(
        new Setting(
            "Listening",
            "names",
            or(String.join(", ", listening.names()), "this machine's own alone"),
            "--name"));
    all.add(
        new Setting(
            "Listening", "certificate", or(listening.certificate(), "none"), "--certificate"));
    all.add(
        new Setting(
            "Listening",
            "proxies that are believed",
            or(String.join(", ", listening.proxies()), "none"),
            "--proxy"));
  }

  private static String or(String value, String none) {
    return value.isEmpty() ? none : value;
  }
}
