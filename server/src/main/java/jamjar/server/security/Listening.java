package jamjar.server.security;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.springframework.core.env.ConfigurableEnvironment;
import org.springframework.core.env.Environment;
import org.springframework.core.env.MapPropertySource;

/**
 * Where the server listens, and by what names. Where others can reach it, it speaks TLS by a
 * certificate of one's own, or stands behind a proxy that does and is named.
 *
 * @param address {@code server.address}
 * @param names {@code jamjar.names}: host names by which it is asked for
 * @param certificate {@code jamjar.certificate}: a PEM file, with what it is signed by; empty for
 *     none
 * @param key {@code jamjar.key}: the PEM file of its private key
 * @param proxies {@code jamjar.proxies}: addresses of proxies whose word is taken for who asks
 */
public record Listening(
    String address, List<String> names, String certificate, String key, List<String> proxies) {

  /** As it is set from outside. */
  public static Listening of(Environment environment) {
    return new Listening(
        environment.getProperty("server.address", "127.0.0.1"),
        list(environment, "jamjar.names"),
        environment.getProperty("jamjar.certificate", ""),
        environment.getProperty("jamjar.key", ""),
        list(environment, "jamjar.proxies"));
  }

  private static List<String> list(Environment environment, String property) {
    List<String> all = new ArrayList<>();
    for (String one : environment.getProperty(property, "").split(",")) {
      if (!one.isBlank()) {
        all.add(one.strip());
      }
    }
    return List.copyOf(all);
  }

  /** Whether it speaks TLS itself. */
  boolean tls() {
    return !certificate.isEmpty();
  }

  /** Whether only this machine reaches it. */
  public boolean loopback() {
    try {
      return InetAddress.getByName(address).isLoopbackAddress();
    } catch (UnknownHostException e) {
      throw new CannotStart("server.address " + address + " is not known: " + e.getMessage());
    }
  }

  /**
   * Makes the web server listen so.
   *
   * @throws CannotStart when others could reach it in the clear, or by any name
   */
  public static void prepare(ConfigurableEnvironment environment) {
    Listening listening = of(environment);
    listening.require();
    Map<String, Object> properties = new HashMap<>();
    if (listening.tls()) {
      String bundle = "spring.ssl.bundle.pem.own.";
      properties.put(bundle + "keystore.certificate", file(listening.certificate()));
      properties.put(bundle + "keystore.private-key", file(listening.key()));
      // one that is renewed in its place is taken without a start
      properties.put(bundle + "reload-on-update", "true");
      properties.put("server.ssl.bundle", "own");
    }
    if (!listening.proxies().isEmpty()) {
      properties.put("server.forward-headers-strategy", "native");
      properties.put(
          "server.tomcat.remoteip.internal-proxies",
          listening.proxies().stream().map(Pattern::quote).collect(Collectors.joining("|")));
      properties.put("server.tomcat.remoteip.remote-ip-header", "X-Forwarded-For");
      properties.put("server.tomcat.remoteip.protocol-header", "X-Forwarded-Proto");
    }
    environment.getPropertySources().addFirst(new MapPropertySource("listening", properties));
  }

  private static String file(String path) {
    return Path.of(path).toAbsolutePath().toUri().toString();
  }

  private void require() {
    if (tls() == key.isEmpty()) {
      throw new CannotStart("jamjar.certificate and jamjar.key go together: two PEM files.");
    }
    for (String file : tls() ? List.of(certificate, key) : List.<String>of()) {
      if (!Files.isReadable(Path.of(file))) {
        throw new CannotStart(file + " is not there, or can't be read.");
      }
    }
    if (loopback()) {
      return;
    }
    if (!tls() && proxies.isEmpty()) {
      throw new CannotStart(
          "server.address is "
              + address
              + ", which others can reach: for that it takes a certificate (jamjar.certificate and"
              + " jamjar.key), or a proxy in front of it that has one and is named"
              + " (jamjar.proxies). Without, Jam Jar listens on loopback only.");
    }
    if (names.isEmpty()) {
      throw new CannotStart(
          "server.address is "
              + address
              + ", which others can reach: say by what names (jamjar.names), so that no other name"
              + " leads here.");
    }
  }
}
