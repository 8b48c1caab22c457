package jamjar.collect;

import java.util.Objects;
import java.util.regex.Pattern;

/**
 * Where to read from and as whom.
 *
 * @param port 0 for a process of this machine
 * @param database database that is signed in to; for a process the start of its command
 * @param ca certificates in PEM that are trusted; empty for those of the machine
 */
public record Target(
    String host, int port, String database, Tls tls, String ca, String user, String password) {

  /** How the connection is encrypted. */
  public enum Tls {
    /** Not at all. */
    OFF,
    /** Encrypted; whoever answers is believed. */
    ENCRYPTED,
    /** Encrypted, and the certificate must be trusted and carry the host's name. */
    CHECKED
  }

  /** A name or an address; nothing that a driver would take for more than that. */
  private static final Pattern HOST =
      Pattern.compile(
          "[\\p{L}\\p{N}]([\\p{L}\\p{N}._-]{0,252})|\\[?[0-9A-Fa-f:.]{2,45}(%[\\w.-]{1,20})?]?");

  /** Whether a text can be the host of a target. */
  public static boolean isHost(String host) {
    return HOST.matcher(host).matches();
  }

  public Target {
    Objects.requireNonNull(host);
    Objects.requireNonNull(tls);
    Objects.requireNonNull(password);
  }

  /** Whether the connection stays on this machine. */
  public boolean local() {
    return port == 0 || host.startsWith("127.") || host.equals("localhost") || host.equals("::1");
  }

  public String address() {
    return host + ":" + port;
  }

  /** Without the password. */
  @Override
  public String toString() {
    return user + "@" + address() + "/" + database;
  }
}
