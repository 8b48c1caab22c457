package jamjar.collect;

import java.util.Objects;

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
