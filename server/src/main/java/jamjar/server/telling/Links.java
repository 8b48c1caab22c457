package jamjar.server.telling;

import jamjar.core.telling.AlertKey;
import jamjar.server.security.Listening;
import org.springframework.core.env.Environment;
import org.springframework.stereotype.Component;

/** Where what is told can be looked at. */
@Component
class Links {
  private final Environment environment;

  Links(Environment environment) {
    this.environment = environment;
  }

  /** The address by which persons reach the server. */
  String base() {
    String set = environment.getProperty("jamjar.address", "");
    if (!set.isEmpty()) {
      return set.replaceFirst("/+$", "");
    }
    Listening listening = Listening.of(environment);
    String host = listening.names().isEmpty() ? "127.0.0.1" : listening.names().get(0);
    String scheme = listening.certificate().isEmpty() ? "http" : "https";
    String port = environment.getProperty("local.server.port", "");
    return scheme + "://" + host + (port.isEmpty() ? "" : ":" + port);
  }

  /** An alert, known before any database has given it a number. */
  String of(AlertKey key) {
    return base() + "/alerts?rose=" + key.words();
  }

  String messages() {
    return base() + "/telling";
  }
}
